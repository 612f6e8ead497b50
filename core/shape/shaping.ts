import type { TextureMap } from '../maps/map'
import type { Program } from '../network/compile'

/** What shapes a part before it is traced: the displacement of its material. Plain data. */
export interface Shaping {
  program: Program
  /** In the order of the program's images; null where a picture is missing. */
  maps: readonly (TextureMap | null)[]
  /** Longest edge of the triangles that the part is cut into, metres; by its size where it is left out. */
  edge?: number
}

/** How a material shapes what wears it; undefined where it does not. @param mapsIn maps that a program looks up */
export const shapingOf = (
  { displacement }: Program,
  mapsIn: (p: Program) => Shaping['maps'],
): Shaping | undefined => displacement && { program: displacement, maps: mapsIn(displacement) }

/**
 * All that a shaping depends on, as text: two of one text shape a part alike, so an edit that leaves it as it was needs
 * no new geometry.
 */
export const shapingKey = ({ program, maps, edge }: Shaping): string =>
  JSON.stringify([program.source, program.constants, maps.map(m => m && [m.id, m.width, m.version]), edge])
