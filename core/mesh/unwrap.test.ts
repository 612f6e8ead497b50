import { describe, expect, it } from 'vitest'
import { isClosed } from './closed'
import { areaOf, joinedMesh } from './measures'
import type { Part } from './model'
import { sphere } from './sphere'
import { unwrapModel } from './unwrap'

/** Area of each triangle of two numbers a corner. */
const areas = ({ uv, index }: Part): number[] =>
  Array.from({ length: index.length / 3 }, (_, t) => {
    const [a, b, c] = [0, 1, 2].map(k => [uv[index[t * 3 + k]! * 2]!, uv[index[t * 3 + k]! * 2 + 1]!] as const)
    return ((b![0] - a![0]) * (c![1] - a![1]) - (c![0] - a![0]) * (b![1] - a![1])) / 2
  })

/** How many triangles cover each of the places of a grid, at most. */
function mostOver(parts: readonly Part[], side: number): number {
  const count = new Uint8Array(side * side)
  for (const { uv, index } of parts)
    for (let t = 0; t < index.length; t += 3) {
      const [a, b, c] = [0, 1, 2].map(
        k => [uv[index[t + k]! * 2]! * side, uv[index[t + k]! * 2 + 1]! * side] as const,
      )
      const edge = (p: readonly number[], q: readonly number[], x: number, y: number) =>
        (q[0]! - p[0]!) * (y - p[1]!) - (q[1]! - p[1]!) * (x - p[0]!)
      for (let y = Math.floor(Math.min(a![1], b![1], c![1])); y < Math.max(a![1], b![1], c![1]); y++)
        for (let x = Math.floor(Math.min(a![0], b![0], c![0])); x < Math.max(a![0], b![0], c![0]); x++) {
          const [px, py] = [x + 0.4821, y + 0.5137]
          const e = [edge(a!, b!, px, py), edge(b!, c!, px, py), edge(c!, a!, px, py)]
          if (e.every(v => v > 1e-4) || e.every(v => v < -1e-4)) count[y * side + x]!++
        }
    }
  return count.reduce((n, c) => Math.max(n, c), 0)
}

describe('unwrapping', () => {
  it('lays all parts into one square, none over another, as large as they are in space', async () => {
    const model = { parts: [sphere('large', 0.5, 24, 48), sphere('small', 0.1, 12, 24)] }
    const { model: out, charts, covered } = await unwrapModel(model)
    expect(charts).toBeGreaterThan(1)
    expect(covered).toBeGreaterThan(0.3)
    for (const [i, part] of out.parts.entries()) {
      expect(part.uv.every(x => x >= 0 && x <= 1)).toBe(true)
      expect(part.index.length).toBe(model.parts[i]!.index.length)
    }
    expect(mostOver(out.parts, 512)).toBe(1)
    // a centimetre is as long on each part, within what charts stretch
    const density = out.parts.map(p => areas(p).reduce((s, a) => s + Math.abs(a), 0) / areaOf(p))
    expect(density[1]! / density[0]!).toBeGreaterThan(0.8)
    expect(density[1]! / density[0]!).toBeLessThan(1.25)
  })

  it('leaves shape as it was: closed, its normals, copies', async () => {
    const ball = sphere('ball', 0.5, 12, 24)
    const none = new Float32Array(0)
    const copy: Part = {
      name: 'copy',
      position: none,
      normal: none,
      uv: none,
      index: new Uint32Array(0),
      copy: { of: 0, transform: new Float64Array([1, 0, 0, 2, 0, 1, 0, 0, 0, 0, 1, 0]) },
    }
    const { model } = await unwrapModel({ parts: [ball, copy] })
    expect(isClosed(joinedMesh({ parts: [model.parts[0]!] }))).toBe(true)
    expect(model.parts[1]).toEqual(copy)
    const { position, normal } = model.parts[0]!
    for (let v = 0; v < position.length; v++) expect(normal[v]).toBeCloseTo(position[v]! * 2, 5)
  })
})
