import { curveOf } from './colour-spaces'
import { FORMAT, halfTable, numbersIn, type Numbers } from './formats'
import { createMap, entriesOf, TABLES, type MapSource, type TextureMap } from './map'

/** A map opened in a thread, ready for look-ups. */
export interface Texture {
  width: number
  height: number
  channels: number
  /** How many levels, and their words (LEVEL). */
  count: number
  levels: Int32Array
  /** How many levels are in the first of two formats. */
  fineLevels: number
  fine: Numbers
  coarse: Numbers
  fineFormat: number
  coarseFormat: number
  /** Linear value of a byte. */
  curve: Float32Array
  /** Value of a half. */
  half: Float32Array
  table: Int32Array
  /** First entry of the table that counts. */
  first: number
}

const NO_HALVES = new Float32Array(0)

/** Opens a map in this thread. */
export function openMap(map: TextureMap): Texture {
  const halves = map.fine === FORMAT.half || map.coarse === FORMAT.half
  const texture: Texture = {
    width: map.width,
    height: map.height,
    channels: map.channels,
    count: map.levels.length / 4,
    levels: map.levels,
    fineLevels: map.fineLevels,
    fine: numbersIn(map.fine, map.fineTiles),
    coarse: numbersIn(map.coarse, map.coarseTiles),
    fineFormat: map.fine,
    coarseFormat: map.coarse,
    curve: curveOf(map.space),
    half: halves ? halfTable() : NO_HALVES,
    table: new Int32Array(map.tables),
    first: 0,
  }
  showVersion(texture, map)
  return texture
}

/** Looks a map up by its newest table from here on; its memory may be another. */
export function showVersion(texture: Texture, map: TextureMap): void {
  texture.fine = numbersIn(map.fine, map.fineTiles)
  texture.coarse = numbersIn(map.coarse, map.coarseTiles)
  texture.table = new Int32Array(map.tables)
  texture.first = (map.version % TABLES) * entriesOf(map.levels)
}

/** Makes a map of a decoded picture for this thread alone. @param space see {@link createMap} */
export const createTexture = (width: number, height: number, data: MapSource['data'], space: string): Texture =>
  openMap(createMap({ width, height, data }, space))
