import type { Geometry } from '../scene/geometry'
import { NO_TRIANGLE } from '../trace/hierarchy'

/** Most places of a part. */
export const MOST_PLACES = 48

const known = new WeakMap<Geometry, Int32Array[]>()

/** Places of triangles that stand for each part, {@link MOST_PLACES} or fewer: evenly in the order of the hierarchy, which is one of space. Found once for a geometry. */
export function placesOfParts(geometry: Geometry): Int32Array[] {
  let found = known.get(geometry)
  if (found) return found
  const { order } = geometry.hierarchy, all: number[][] = geometry.partNames.map(() => [])
  for (let place = 0; place < order.length; place++) if (order[place] !== NO_TRIANGLE) all[geometry.part[order[place]!]!]!.push(place)
  known.set(geometry, found = all.map((of) => { const n = Math.min(MOST_PLACES, of.length); return Int32Array.from({ length: n }, (_, i) => of[Math.floor((i + 0.5) / n * of.length)]!) }))
  return found
}
