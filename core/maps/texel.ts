/** Numbers of single pixels of a level. */
import { FORMAT } from './slots'
import { bring, slotOf, touch } from './paging'
import type { Texture } from './texture'
import { entryAt, placeIn } from './tiles'

/** Where a pixel of a level has its first number; of a level whose tiles are all there. */
export function placeOf(t: Texture, level: number, x: number, y: number): number {
  return placeIn(t.table[entryAt(t.levels, level, x, y)]!, x, y) * t.channels
}

/** A number of a level, linear. */
export function read(t: Texture, level: number, at: number, channel: number): number {
  const format = level < t.fineLevels ? t.fineFormat : t.coarseFormat
  const x = level < t.fineLevels ? t.fine[at]! : t.coarse[at]!
  if (format === FORMAT.byte) return channel === 3 ? x / 255 : t.curve[x]!
  return format === FORMAT.sixteen ? x / 65535 : format === FORMAT.half ? t.half[x]! : x
}

/** Whether tiles of a level are brought when they are asked for. */
export const isPaged = (t: Texture, level: number): boolean => t.pages !== null && level < t.fineLevels

/** Takes the numbers of a pixel of a paged level, from index `to` on. */
export function takePaged(t: Texture, level: number, x: number, y: number, out: Float64Array, to: number): void {
  const pages = t.pages!
  const entry = entryAt(t.levels, level, x, y)
  for (;;) {
    const word = Atomics.load(t.table, entry)
    if (word < 0) {
      bring(pages, t.table, entry)
      continue
    }
    const slot = slotOf(word)
    const at = placeIn(slot, x, y) * t.channels
    for (let k = 0; k < t.channels; k++) out[to + k] = read(t, level, at + k, k)
    // another thread may have given the slot to another tile meanwhile
    if (Atomics.load(t.table, entry) === word) {
      touch(pages, slot)
      return
    }
  }
}

/** A number of a pixel of a level, linear; of a map that is all there. */
export const pixelOf = (t: Texture, level: number, x: number, y: number, channel: number): number =>
  read(t, level, placeOf(t, level, x, y) + channel, channel)
