import { curveOf } from './colour-spaces'
import { halfTable, numbersIn, type Numbers } from './formats'
import { createMap } from './create-map'
import { slotBytesOf, tableOf, type MapSource, type TextureMap } from './map'
import type { Pages, TileReader } from './paging'
import { FORMAT, LEVEL } from './slots'
import { countOf } from './tiles'

/** What of an opened map changes with an edit. */
interface Views {
  fine: Numbers
  coarse: Numbers
  /** Slots of all tiles. */
  table: Int32Array
}

/** A map opened in a thread, ready for look-ups. */
export interface Texture extends Views {
  width: number
  height: number
  channels: number
  /** How many levels, and their words (LEVEL). */
  count: number
  levels: Int32Array
  /** How many levels are in the first of two formats. */
  fineLevels: number
  fineFormat: number
  coarseFormat: number
  /** Linear value of a byte. */
  curve: Float32Array
  /** Value of a half. */
  half: Float32Array
  /** Where tiles of the levels in the first format come from; null where all are there. */
  pages: Pages | null
}

const NO_HALVES = new Float32Array(0)

const viewsOf = (map: TextureMap): Views => ({
  fine: numbersIn(map.fine, map.fineTiles),
  coarse: numbersIn(map.coarse, map.coarseTiles),
  table: tableOf(map),
})

/** Finds the reader of a file of tiles in this thread; undefined where it cannot be read. */
export type ReaderOf = (file: string) => TileReader | undefined

/**
 * Opens a map in this thread. One whose finer levels are in a file that cannot be read begins with the first of its
 * coarser ones.
 */
export function openMap(map: TextureMap, readerOf: ReaderOf = () => undefined): Texture {
  const reader = map.paging && readerOf(map.paging.file)
  const left = map.paging && !reader ? map.fineLevels : 0
  const levels = map.levels.subarray(left * LEVEL.stride)
  return {
    width: levels[LEVEL.width]!,
    height: levels[LEVEL.height]!,
    channels: map.channels,
    count: countOf(levels),
    levels,
    fineLevels: map.fineLevels - left,
    fineFormat: map.fine,
    coarseFormat: map.coarse,
    curve: curveOf(map.space),
    half: map.coarse === FORMAT.half ? halfTable() : NO_HALVES,
    pages: reader
      ? {
          state: new Int32Array(map.paging!.state),
          bytes: new Uint8Array(map.fineTiles),
          slotBytes: slotBytesOf(map.fine, map.channels),
          at: map.paging!.at,
          reader,
        }
      : null,
    ...viewsOf(map),
  }
}

/** Looks a map up by its newest table from here on; its memory may be another. */
export const showVersion = (texture: Texture, map: TextureMap): void => void Object.assign(texture, viewsOf(map))

/** Makes a map of a decoded picture for this thread alone. @param space see {@link createMap} */
export const createTexture = (width: number, height: number, data: MapSource['data'], space: string): Texture =>
  openMap(createMap({ width, height, data }, space))
