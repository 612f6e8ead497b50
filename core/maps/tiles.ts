/** Where the pixels of a map's levels stand: tiles of 64 × 64, in slots that tables name. */
import { LEVEL, TILED } from './slots'

/** Entry of a table for the tile of a level's pixel. */
export const entryAt = (levels: Int32Array, level: number, x: number, y: number): number => {
  const o = level * LEVEL.stride
  return levels[o + LEVEL.first]! + (y >> TILED.bits) * levels[o + LEVEL.across]! + (x >> TILED.bits)
}

/** Where a pixel stands among those of all slots. */
export const placeIn = (slot: number, x: number, y: number): number =>
  (slot << TILED.areaBits) + ((y & TILED.mask) << TILED.bits) + (x & TILED.mask)

/** Entries of a table: the coarsest level, of one pixel, has the last one. */
export const entriesOf = (levels: Int32Array): number => levels[levels.length - LEVEL.stride + LEVEL.first]! + 1

/** How many levels there are. */
export const countOf = (levels: Int32Array): number => levels.length / LEVEL.stride

/** Size of a level. */
export const sizeOf = (levels: Int32Array, level: number): [width: number, height: number] => [
  levels[level * LEVEL.stride + LEVEL.width]!,
  levels[level * LEVEL.stride + LEVEL.height]!,
]
