import type { TextureMap } from '../maps/map'
import type { Subdivision } from '../mesh/subdivision/levels'
import type { Program } from '../network/compile'

/** What shapes a part before it is traced: steps of subdivision, then the displacement of its material. Plain data. */
export interface Shaping {
  subdivide?: Subdivision
  /** Gives how far a point moves; nothing moves where it is left out. */
  program?: Program
  /** In the order of the program's images; null where a picture is missing. */
  maps: readonly (TextureMap | null)[]
  /** Longest edge of the triangles that the part is cut into, metres; by its size where it is left out. */
  edge?: number
  /** Whether triangles may be larger, for a picture at once. */
  coarse?: boolean
}

/** What a part says of its own shape. */
export type PartShape = Pick<Shaping, 'subdivide' | 'edge'>

/**
 * How a part is shaped that wears a material; undefined where it is not.
 * @param mapsIn maps that a program looks up
 */
export function shapingOf(
  { displacement }: Program,
  mapsIn: (p: Program) => Shaping['maps'],
  { subdivide, edge }: PartShape = {},
): Shaping | undefined {
  if (!displacement && !subdivide) return undefined
  return {
    ...(subdivide ? { subdivide } : {}),
    ...(displacement ? { program: displacement, maps: mapsIn(displacement), edge } : { maps: [] }),
  }
}

/**
 * All that a shaping depends on, as text: two of one text shape a part alike, so an edit that leaves it as it was needs
 * no new geometry.
 */
export const shapingKey = ({ subdivide, program, maps, edge, coarse }: Shaping): string =>
  JSON.stringify([
    program?.source,
    program?.constants,
    maps.map(m => m && [m.id, m.width, m.version]),
    edge,
    subdivide && [subdivide.levels, subdivide.crease],
    coarse,
  ])
