import { isClosed } from '../mesh/closed'
import { placeWord } from '../trace/hierarchy'
import type { Geometry } from './geometry'
import { factsByPart } from './part-places'

/** Most triangles of a part that is looked at: edges of more take too long for what they tell. */
const LARGEST = 1_000_000

/**
 * Whether each part of a built geometry closes, by name; parts too large to tell are left out. Positions are the
 * ones that rays meet; a copy closes where its mesh does.
 */
export function closedParts(geometry: Geometry): Map<string, boolean> {
  const {
    hierarchy: { order, packets },
  } = geometry
  return factsByPart(geometry, places => {
    const of = [...new Map(places.map(place => [order[place]!, place])).values()]
    if (of.length === 0 || of.length > LARGEST) return undefined
    const position = new Float32Array(of.length * 9)
    of.forEach((place, i) => {
      const c = placeWord(place)
      for (let v = 0; v < 3; v++)
        for (let k = 0; k < 3; k++) position[i * 9 + v * 3 + k] = packets[c + v * 12 + k * 4]!
    })
    return isClosed({ position, index: Uint32Array.from({ length: of.length * 3 }, (_, i) => i) })
  })
}
