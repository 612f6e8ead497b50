import { smoothNormals, type Part } from '../model'

/**
 * A sheet of quadrilaterals over the unit square, whose coordinates are u and v.
 * @param at its point at u, v; growing u × growing v is its outer side
 */
export function sheet(
  name: string,
  columns: number,
  rows: number,
  at: (u: number, v: number) => readonly [number, number, number],
): Part {
  const position: number[] = []
  const uv: number[] = []
  const index: number[] = []
  for (let j = 0; j <= rows; j++)
    for (let i = 0; i <= columns; i++) {
      position.push(...at(i / columns, j / rows))
      uv.push(i / columns, j / rows)
    }
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) {
      const a = j * (columns + 1) + i
      const b = a + columns + 1
      index.push(a, a + 1, b + 1, a, b + 1, b)
    }
  const p = Float32Array.from(position)
  const t = Uint32Array.from(index)
  return { name, position: p, normal: smoothNormals(p, t), uv: Float32Array.from(uv), index: t }
}
