import type { Geometry } from './geometry'
import { factsByPart } from './part-places'

/**
 * Whether each part of a built geometry has coordinates (UV), by name: whether any two of its corners differ in them.
 * A copy has those of its mesh.
 */
export function mappedParts(geometry: Geometry): Map<string, boolean> {
  const {
    hierarchy: { order },
    index,
    uv,
  } = geometry
  return factsByPart(geometry, places => {
    const corner = (place: number, k: number) => index[order[place]! * 3 + k]! * 2
    const first = places.length ? corner(places.at(0)!, 0) : 0
    return places.some(place =>
      [0, 1, 2].some(k => {
        const o = corner(place, k)
        return uv[o] !== uv[first] || uv[o + 1] !== uv[first + 1]
      }),
    )
  })
}
