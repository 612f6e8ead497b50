import { box } from '../build/solids'
import { joined } from '../build/lathe'
import { sheet } from '../build/sheet'
import type { Model, Part } from '../model'
import { ground } from './ground'

const HALF = 0.03

/** A cube whose edges are rounded, from six sheets; normals are those of the rounding itself. */
function roundedCube(name: string, shift: number, radius: number): Part {
  const inner = HALF - radius
  const faces = [0, 1, 2].flatMap(axis =>
    [1, -1].map(side => {
      const normals: number[] = []
      const face = sheet('', 32, 32, (u, v) => {
        const [a, b] = side > 0 ? [(axis + 1) % 3, (axis + 2) % 3] : [(axis + 2) % 3, (axis + 1) % 3]
        const p = [0, 0, 0]
        p[axis] = side * HALF
        p[a] = (2 * u - 1) * HALF
        p[b] = (2 * v - 1) * HALF
        const core = p.map(x => Math.max(-inner, Math.min(inner, x)))
        const way = p.map((x, k) => x - core[k]!)
        const l = Math.hypot(...way)
        const n = way.map(x => x / l)
        normals.push(...n)
        return [core[0]! + n[0]! * radius + shift, core[1]! + n[1]! * radius + HALF, core[2]! + n[2]! * radius]
      })
      return { ...face, normal: Float32Array.from(normals) }
    }),
  )
  return joined(name, faces)
}

/** Two cubes of 6 cm on a ground: one with soft edges of 8 mm, one with sharp ones. */
export const cubes = (): Model => ({
  parts: [
    roundedCube('Soft', -0.045, 0.008),
    box('Sharp', [0.045 - HALF, 0, -HALF], [0.045 + HALF, 2 * HALF, HALF]),
    ground(),
  ],
})
