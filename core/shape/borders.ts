/**
 * Borders that displaced parts share, as two materials on one body do: both sides are cut to the same edges and move
 * by the mean of what each asks for, so that no gap opens between them.
 */
import { firstAlike } from '../mesh/alike'
import { BORDER, trianglesAsPolygons, twinsOf } from '../mesh/edges'
import type { Part } from '../mesh/model'
import type { Moving } from './displace-part'

/** A place, as text of its numbers. */
const keyOf = (position: Float32Array, v: number): string =>
  `${position[v * 3]! + 0},${position[v * 3 + 1]! + 0},${position[v * 3 + 2]! + 0}`

/** Vertices on a part's borders. */
function borderOf({ position, index }: Part): Set<number> {
  const first = firstAlike(position.length / 3, [{ numbers: position, width: 3 }])
  const polygons = trianglesAsPolygons(index.map(v => first[v]!))
  const twin = twinsOf(polygons)
  const found = new Set<number>()
  for (let c = 0; c < index.length; c++)
    if (twin[c] === BORDER) {
      found.add(index[c]!)
      found.add(index[polygons.next[c]!]!)
    }
  return found
}

/**
 * Parts that share a border, by number: each with the others of its group. Those that touch nowhere are left out.
 * @param parts before they are cut, by number
 */
export function touching(parts: ReadonlyMap<number, Part>): number[][] {
  if (parts.size < 2) return []
  const group = new Map<number, number[]>()
  const seen = new Map<string, number>()
  for (const [i, part] of parts)
    for (const v of borderOf(part)) {
      const key = keyOf(part.position, v)
      const other = seen.get(key)
      seen.set(key, i)
      if (other === undefined || other === i) continue
      const a = group.get(other) ?? [other]
      const b = group.get(i) ?? [i]
      if (a === b) continue
      const both = [...a, ...b]
      for (const n of both) group.set(n, both)
    }
  return [...new Set(group.values())]
}

/** Makes the vertices that parts share on their borders move by the mean. */
export function joinBorders(parts: readonly Moving[]): void {
  const shared = new Map<string, { sum: number[]; count: number; of: [Moving, number][] }>()
  for (const moving of parts) {
    const once = new Set<string>()
    for (const v of borderOf(moving.part)) {
      const key = keyOf(moving.part.position, v)
      const at = shared.get(key) ?? { sum: [0, 0, 0], count: 0, of: [] }
      shared.set(key, at)
      at.of.push([moving, v])
      // vertices of a part at one place move alike already
      if (once.has(key)) continue
      once.add(key)
      at.count++
      for (let k = 0; k < 3; k++) at.sum[k]! += moving.offset[v * 3 + k]!
    }
  }
  for (const { sum, count, of } of shared.values())
    if (count > 1)
      for (const [{ offset }, v] of of) for (let k = 0; k < 3; k++) offset[v * 3 + k] = sum[k]! / count
}
