import { partOf, type Part } from '../model'
import { joined, lathe, placed, rounded } from './lathe'

type Vector = readonly [number, number, number]

/** A box between two corners, each face with coordinates in metres. */
export function box(name: string, low: Vector, high: Vector): Part {
  const position: number[] = []
  const normal: number[] = []
  const uv: number[] = []
  const index: number[] = []
  for (let axis = 0; axis < 3; axis++)
    for (const side of [-1, 1]) {
      const u = (axis + 1) % 3
      const v = (axis + 2) % 3
      const first = position.length / 3
      for (const [a, b] of [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 1],
      ] as const) {
        const p = [0, 0, 0]
        const n = [0, 0, 0]
        p[axis] = side < 0 ? low[axis]! : high[axis]!
        p[u] = a ? high[u]! : low[u]!
        p[v] = b ? high[v]! : low[v]!
        n[axis] = side
        position.push(...p)
        normal.push(...n)
        uv.push(p[u]! - low[u]!, p[v]! - low[v]!)
      }
      index.push(...(side > 0 ? [0, 1, 2, 0, 2, 3] : [0, 2, 1, 0, 3, 2]).map(i => i + first))
    }
  return partOf(name, { position, normal, uv, index })
}

/** A ring with a round section: radius of the ring, of the section, and the height of its plane. */
export function ring(name: string, radius: number, section: number, y: number, segments = 96): Part {
  return lathe(
    name,
    Array.from({ length: 21 }, (_, i) => {
      const a = -Math.PI / 2 + (2 * Math.PI * i) / 20
      return [radius + section * Math.cos(a), y + section * Math.sin(a)] as const
    }),
    segments,
  )
}

/** A round-headed bolt that stands on y = 0. */
export const bolt = (radius: number): Part =>
  lathe(
    '',
    rounded(
      [
        [radius, 0],
        [radius, radius * 0.55],
        [radius * 0.62, radius * 0.9],
        [0, radius],
      ],
      radius * 0.16,
    ),
    24,
  )

/** Copies of a part evenly around the y axis. */
export function around(name: string, part: Part, radius: number, count: number, y = 0): Part {
  return joined(
    name,
    Array.from({ length: count }, (_, i) => {
      const a = (2 * Math.PI * i) / count
      return placed(part, [1, 0, 0, 0, 1, 0, 0, 0, 1, radius * Math.sin(a), y, radius * Math.cos(a)])
    }),
  )
}

/** Turns what was turned about y so that its axis points to +z, and moves it. */
export const facing = (part: Part, shift: Vector): Part => placed(part, [1, 0, 0, 0, 0, 1, 0, -1, 0, ...shift])

/** Gives every vertex a colour. */
export function coloured(
  part: Part,
  colour: (x: number, y: number, z: number) => readonly [number, number, number],
): Part {
  const out = new Float32Array((part.position.length / 3) * 4)
  for (let i = 0; i < out.length / 4; i++)
    out.set([...colour(part.position[i * 3]!, part.position[i * 3 + 1]!, part.position[i * 3 + 2]!), 1], i * 4)
  return { ...part, colour: out }
}
