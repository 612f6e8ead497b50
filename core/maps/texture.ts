import { curveOf } from './colour-spaces'
import { halfTable, numbersIn, type Numbers } from './formats'
import { createMap, tableOf, type MapSource, type TextureMap } from './map'
import { FORMAT } from './slots'
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
}

const NO_HALVES = new Float32Array(0)

const viewsOf = (map: TextureMap): Views => ({
  fine: numbersIn(map.fine, map.fineTiles),
  coarse: numbersIn(map.coarse, map.coarseTiles),
  table: tableOf(map),
})

/** Opens a map in this thread. */
export const openMap = (map: TextureMap): Texture => ({
  width: map.width,
  height: map.height,
  channels: map.channels,
  count: countOf(map.levels),
  levels: map.levels,
  fineLevels: map.fineLevels,
  fineFormat: map.fine,
  coarseFormat: map.coarse,
  curve: curveOf(map.space),
  half: map.coarse === FORMAT.half ? halfTable() : NO_HALVES,
  ...viewsOf(map),
})

/** Looks a map up by its newest table from here on; its memory may be another. */
export const showVersion = (texture: Texture, map: TextureMap): void => void Object.assign(texture, viewsOf(map))

/** Makes a map of a decoded picture for this thread alone. @param space see {@link createMap} */
export const createTexture = (width: number, height: number, data: MapSource['data'], space: string): Texture =>
  openMap(createMap({ width, height, data }, space))
