import { NO_TRIANGLE } from '../trace/hierarchy'
import { FIRST, INSTANCE_LINKS, instanceAt, MOVED, PART } from '../trace/instances'
import type { Geometry } from './geometry'

/** Part of the triangle at a place. */
export function partAt({ hierarchy: { order, instances }, part }: Geometry, place: number): number {
  if (instances === null) return part[order[place]!]!
  const instance = instanceAt(instances, place)
  return instance < 0 ? part[order[place]!]! : instances.links[instance * INSTANCE_LINKS + PART]!
}

/**
 * Where a part's triangles are stored, in the order of the hierarchy, and what its places are moved by. Copies
 * share their list.
 */
export interface Stored {
  places: number[]
  moved: number
}

/**
 * Something of each part's mesh, by name: found once for a mesh, whichever parts share it; left out where it is
 * unknown.
 * @param of told the places of the mesh's triangles
 */
export function factsByPart<T>(geometry: Geometry, of: (places: number[]) => T | undefined): Map<string, T> {
  const known = new Map<number[], T | undefined>()
  const facts = new Map<string, T>()
  storedByPart(geometry).forEach(({ places }, part) => {
    if (!known.has(places)) known.set(places, of(places))
    const fact = known.get(places)
    if (fact !== undefined) facts.set(geometry.partNames[part]!, fact)
  })
  return facts
}

/** @param wanted whether a part's list is wanted; those of others stay empty */
export function storedByPart(
  { hierarchy: { order, instances }, part, partNames }: Geometry,
  wanted: (part: number) => boolean = () => true,
): Stored[] {
  const stored: Stored[] = partNames.map(() => ({ places: [], moved: 0 }))
  const once = instances === null ? order.length : instances.links[FIRST]!
  for (let place = 0; place < once; place++)
    if (order[place] !== NO_TRIANGLE && wanted(part[order[place]!]!))
      stored[part[order[place]!]!]!.places.push(place)
  if (instances === null) return stored
  const { links, count, places } = instances
  const lists = new Map<number, number[]>()
  for (let o = 0; o < count * INSTANCE_LINKS; o += INSTANCE_LINKS) {
    if (!wanted(links[o + PART]!)) continue
    const moved = links[o + MOVED]!
    const first = links[o + FIRST]! - moved
    const end = (o + INSTANCE_LINKS < links.length ? links[o + INSTANCE_LINKS + FIRST]! : places) - moved
    let list = lists.get(first)
    if (!list) {
      lists.set(first, (list = []))
      for (let place = first; place < end; place++) if (order[place] !== NO_TRIANGLE) list.push(place)
    }
    stored[links[o + PART]!] = { places: list, moved }
  }
  return stored
}
