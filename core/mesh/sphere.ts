import { partOf, type Part } from './model'

/** A sphere by latitude and longitude, centred on the origin; u once around, v from pole to pole. */
export function sphere(
  name: string,
  radius: number,
  rings: number,
  segments: number,
  centre: readonly [number, number, number] = [0, 0, 0],
): Part {
  const position: number[] = []
  const normal: number[] = []
  const uv: number[] = []
  const index: number[] = []
  for (let r = 0; r <= rings; r++)
    for (let s = 0; s <= segments; s++) {
      const t = (Math.PI * r) / rings
      const p = (2 * Math.PI * (s === segments ? 0 : s)) / segments
      const n =
        r === 0
          ? [0, 1, 0]
          : r === rings
            ? [0, -1, 0]
            : [Math.sin(t) * Math.sin(p), Math.cos(t), Math.sin(t) * Math.cos(p)]
      normal.push(...n)
      position.push(...n.map((x, k) => x * radius + centre[k]!))
      uv.push(s / segments, 1 - r / rings)
    }
  for (let r = 0; r < rings; r++)
    for (let s = 0; s < segments; s++) {
      const a = r * (segments + 1) + s
      const b = a + segments + 1
      if (r > 0) index.push(a, b, a + 1)
      if (r < rings - 1) index.push(a + 1, b, b + 1)
    }
  return partOf(name, { position, normal, uv, index })
}
