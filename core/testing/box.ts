import type { Part } from '../mesh/model'
import { quad } from '../mesh/quad'

/** A closed box with flat faces. @param size along x, y, z, whole */
export function box(name: string, centre: readonly number[], size: readonly number[]): Part {
  const faces = [0, 1, 2].flatMap(axis =>
    [-1, 1].map(side => {
      const a = (axis + (side > 0 ? 1 : 2)) % 3
      const b = (axis + (side > 0 ? 2 : 1)) % 3
      return quad(
        name,
        [
          [-1, -1],
          [1, -1],
          [1, 1],
          [-1, 1],
        ].flatMap(([u, v]) =>
          [0, 1, 2].map(k => centre[k]! + (size[k]! / 2) * (k === axis ? side : k === a ? u! : k === b ? v! : 0)),
        ),
      )
    }),
  )
  const join = (key: 'position' | 'normal' | 'uv') => Float32Array.from(faces.flatMap(f => [...f[key]!]))
  return {
    ...faces[0]!,
    position: join('position'),
    normal: join('normal'),
    uv: join('uv'),
    index: Uint32Array.from(faces.flatMap((f, i) => [...f.index].map(x => x + (i * f.position.length) / 3))),
  }
}
