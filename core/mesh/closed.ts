import { firstAlike } from './alike'
import { BORDER, CROWDED, trianglesAsPolygons, twinsOf } from './edges'
import type { Part } from './model'

/**
 * Whether the surface of a part closes: every edge is run through as often one way as the other, once vertices at
 * the same place are taken for one. Shells of glass and what scatters below its surface need it.
 */
export function isClosed({ position, index }: Pick<Part, 'position' | 'index'>): boolean {
  const first = firstAlike(position.length / 3, [{ numbers: position, width: 3 }])
  const { place, next } = trianglesAsPolygons(index.map(v => first[v]!))
  const twin = twinsOf({ place, next })
  /** How often crowded edges are run through one way more than the other. */
  const ways = new Map<string, number>()
  for (let c = 0; c < place.length; c++) {
    const a = place[c]!
    const b = place[next[c]!]!
    if (a === b) continue
    if (twin[c] === BORDER) return false
    if (twin[c] !== CROWDED) continue
    const key = a < b ? `${a} ${b}` : `${b} ${a}`
    ways.set(key, (ways.get(key) ?? 0) + (a < b ? 1 : -1))
  }
  return index.length > 0 && [...ways.values()].every(way => way === 0)
}
