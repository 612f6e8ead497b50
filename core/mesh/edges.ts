/** Edges of polygons: which corners run along the same edge, by the places of their vertices. */

/** Of a corner whose edge no other face shares; of one whose edge more than two faces share, or two the same way. */
export const BORDER = -1
export const CROWDED = -2

/** Polygons by their corners, one after the other. */
export interface Polygons {
  /** Place of each corner: equal numbers are one point in space. */
  place: Uint32Array
  /** Corner after each one, around its face; the edge of a corner runs to there. */
  next: Uint32Array
}

/** Corners of triangles, three each, as polygons. */
export function trianglesAsPolygons(place: Uint32Array): Polygons {
  const next = new Uint32Array(place.length)
  for (let c = 0; c < next.length; c++) next[c] = c % 3 === 2 ? c - 2 : c + 1
  return { place, next }
}

/**
 * For each corner the one whose edge is the same, run the other way; `BORDER` or `CROWDED` where there is not one.
 * Edges of no length have none.
 */
export function twinsOf({ place, next }: Polygons): Int32Array {
  const count = place.length
  const twin = new Int32Array(count).fill(BORDER)
  let size = 1024
  while (size < count * 2) size *= 2
  // the first corner on each edge; those after it are chained
  const table = new Int32Array(size).fill(-1)
  const chain = new Int32Array(count).fill(-1)
  for (let c = 0; c < count; c++) {
    const a = place[c]!
    const b = place[next[c]!]!
    if (a === b) continue
    const low = a < b ? a : b
    const high = a < b ? b : a
    let at = (Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b)) >>> 0
    at = (at ^ (at >>> 15)) & (size - 1)
    for (let first = table[at]!; first >= 0; first = table[at]!) {
      const x = place[first]!
      const y = place[next[first]!]!
      if ((x === low && y === high) || (x === high && y === low)) break
      at = (at + 1) & (size - 1)
    }
    const first = table[at]!
    chain[c] = first
    table[at] = c
    if (first < 0) continue
    const pair = chain[first]! < 0 && place[first] !== a
    if (pair) {
      twin[c] = first
      twin[first] = c
    } else for (let x = c; x >= 0; x = chain[x]!) twin[x] = CROWDED
  }
  return twin
}
