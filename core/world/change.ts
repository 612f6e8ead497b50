import type { TextureMap } from '../maps/map'
import type { Program } from '../network/compile'
import type { World } from './world'

/** What is new in a world of the same geometry: what threads that know the old one need to be told. */
export interface WorldChange {
  /** Programs that are new or look at other maps, by number. */
  materials: { at: number; program: Program; maps: (TextureMap | null)[] }[]
  /** How many programs there are. */
  count: number
  /** All else that differs. */
  other: Partial<Omit<World, 'geometry' | 'programs' | 'maps'>>
}

const equal = (a: unknown, b: unknown): boolean =>
  a instanceof Int32Array && b instanceof Int32Array
    ? a.length === b.length && a.every((x, i) => x === b[i])
    : a === b

/** @returns null where the geometries differ: then all of it is new */
export function changeBetween(before: World, after: World): WorldChange | null {
  if (before.geometry !== after.geometry) return null
  const { geometry: _, programs, maps, ...rest } = after
  const materials = programs.flatMap((program, at) => {
    const old = before.maps[at]
    const same = program === before.programs[at] && maps[at]!.every((m, k) => m === old![k])
    return same ? [] : [{ at, program, maps: maps[at]! }]
  })
  const other = Object.fromEntries(
    Object.entries(rest).filter(([key, value]) => !equal(value, before[key as keyof typeof rest])),
  )
  return { materials, count: programs.length, other }
}

/** The world as it is after a change. */
export function changedWorld(world: World, { materials, count, other }: WorldChange): World {
  const programs = world.programs.slice(0, count)
  const maps = world.maps.slice(0, count)
  for (const m of materials) {
    programs[m.at] = m.program
    maps[m.at] = m.maps
  }
  return { ...world, ...other, programs, maps }
}
