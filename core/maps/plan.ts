/** How a map is kept within the memory that is left. */
import type { MapSource } from './map'

/** Memory that maps may take unless something else is said, MiB. */
export const MAP_MEMORY = 3072

/** Least memory for the tiles of a map that is in a file, bytes, and as a share of the map: the smaller one counts. */
const LEAST_PAGES = { bytes: 16 * 2 ** 20, share: 1 / 8 } as const

export interface MapPlan {
  /** How many of the finest levels are left out. */
  skip: number
  /** Memory of its tiles, bytes, where they are kept in a file. */
  pageBytes?: number
}

/** Bytes of a map's pyramid. Four channels are counted: what they hold is not known yet. */
function wholeBytes({ width, height, data }: MapSource, skip: number): number {
  const floats = data instanceof Float32Array
  const numbers = (4 * width * height) / 4 ** skip
  // bytes in two levels and 16 bits in the rest, which is a twelfth of the finest; else one format in all
  return !floats && skip === 0 ? numbers * (1 + 1 / 4 + 2 / 12) : numbers * (floats ? 4 : 2) * (4 / 3)
}

/** Bytes of those levels of a map in a file that are always there: small ones; of bytes, all in 16 bits. */
const alwaysBytes = ({ width, height, data }: MapSource): number =>
  data instanceof Float32Array ? 2 ** 20 : (width * height * 4 * 2) / 12

/**
 * Says how the map of a picture is kept so that it takes no more than `room` bytes: whole; with its tiles in a file
 * where there is one, half of the room being left to others; else without its finest levels. The coarsest is always
 * kept. A map in a file takes {@link LEAST_PAGES} and its small levels at least, however little room there is; where
 * these are many bytes, it goes without its finest.
 */
export function planFor(source: MapSource, room: number, inFile: boolean): MapPlan {
  const whole = wholeBytes(source, 0)
  if (whole <= room) return { skip: 0 }
  if (inFile) {
    const least = Math.min(LEAST_PAGES.bytes, whole * LEAST_PAGES.share)
    const fits = alwaysBytes(source) <= Math.max(room / 2, LEAST_PAGES.bytes)
    return { skip: fits ? 0 : 1, pageBytes: Math.max(least, room / 2) }
  }
  const most = Math.floor(Math.log2(Math.max(source.width, source.height)))
  let skip = 1
  while (skip < most && wholeBytes(source, skip) > room) skip++
  return { skip }
}
