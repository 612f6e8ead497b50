/** What is measured of a mesh. */
import type { Model, Part } from './model'
import { boxesOf, withoutCopy } from './transform'

/** Area, m². */
export function areaOf({ position, index }: Pick<Part, 'position' | 'index'>): number {
  let sum = 0
  for (let t = 0; t < index.length; t += 3) {
    const [a, b, c] = [index[t]! * 3, index[t + 1]! * 3, index[t + 2]! * 3]
    let squared = 0
    for (let k = 0; k < 3; k++) {
      const [i, j] = [(k + 1) % 3, (k + 2) % 3]
      const x =
        (position[b + i]! - position[a + i]!) * (position[c + j]! - position[a + j]!) -
        (position[b + j]! - position[a + j]!) * (position[c + i]! - position[a + i]!)
      squared += x * x
    }
    sum += Math.sqrt(squared) / 2
  }
  return sum
}

/**
 * Volume inside, m³, by the divergence theorem: the sum of the signed tetrahedra from the middle of the part's box.
 * Only of a closed mesh does it mean one.
 */
export function volumeOf({ position, index }: Pick<Part, 'position' | 'index'>): number {
  const o = [position[0] ?? 0, position[1] ?? 0, position[2] ?? 0] as const
  let sum = 0
  for (let t = 0; t < index.length; t += 3) {
    const p = (k: number, i: number) => position[index[t + k]! * 3 + i]! - o[i]!
    for (let i = 0; i < 3; i++) {
      const [j, k] = [(i + 1) % 3, (i + 2) % 3]
      sum += p(0, i) * (p(1, j) * p(2, k) - p(1, k) * p(2, j))
    }
  }
  return sum / 6
}

/** Box about a model: least and greatest x, y and z. */
export function boundsOf(model: Model): { min: number[]; max: number[] } {
  const boxes = boxesOf(model)
  const over = (k: number, by: (a: number, b: number) => number, from: number) =>
    boxes.reduce((m, b) => by(m, b[k]!), from)
  return {
    min: [0, 1, 2].map(k => over(k, Math.min, Infinity)),
    max: [3, 4, 5].map(k => over(k, Math.max, -Infinity)),
  }
}

/** The triangles of all parts as one mesh. */
export function joinedMesh(model: Model): Pick<Part, 'position' | 'index'> {
  const parts = model.parts.map(p => withoutCopy(model, p))
  const position = new Float32Array(parts.reduce((n, p) => n + p.position.length, 0))
  const index = new Uint32Array(parts.reduce((n, p) => n + p.index.length, 0))
  let v = 0
  let c = 0
  for (const p of parts) {
    position.set(p.position, v * 3)
    for (let i = 0; i < p.index.length; i++) index[c + i] = p.index[i]! + v
    v += p.position.length / 3
    c += p.index.length
  }
  return { position, index }
}
