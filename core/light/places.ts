import type { Geometry } from '../scene/geometry'
import { storedByPart } from '../scene/part-places'

/** Most places of a part. */
export const MOST_PLACES = 48

const known = new WeakMap<Geometry, Int32Array[]>()

/**
 * Places of triangles that stand for each part, {@link MOST_PLACES} or fewer: evenly in the order of the
 * hierarchy, which is one of space. Found once for a geometry.
 */
export function placesOfParts(geometry: Geometry): Int32Array[] {
  let found = known.get(geometry)
  if (found) return found
  known.set(
    geometry,
    (found = storedByPart(geometry).map(({ places, moved }) => {
      const n = Math.min(MOST_PLACES, places.length)
      return Int32Array.from({ length: n }, (_, i) => places[Math.floor(((i + 0.5) / n) * places.length)]! + moved)
    })),
  )
  return found
}
