/**
 * Pictures of materials as maps: a pyramid of levels, each half as large as the one before, in tiles of 64 × 64
 * pixels. A map is plain data over memory that threads share: it is there once for all of them, and sending it costs
 * nothing.
 *
 * The finest level is kept as its file has it (bytes, 16 bits, halves or floats, one, three or four channels). Of one
 * in bytes the next level has bytes too, as half of all memory would be in it otherwise; coarser ones have 16 bits,
 * linear, and are averaged from what was not rounded. Tiles never change: an edit writes new ones into
 * free slots, and a new table that points to them (`edit.ts`). Which table counts is said with the work that it is
 * for, so that no pass sees two of them.
 */
import { averaged, halfOf, type Level } from './average'
import { curveOf, primariesOf } from './colour-spaces'
import { BYTES, encoded, numbersIn } from './formats'
import { FORMAT, LEVEL, TILED } from './slots'
import { countOf, entriesOf, entryAt, placeIn } from './tiles'

/** Tables that are kept beside the one that counts: work that began with one of them ends with it. */
export const TABLES = 8

/** A decoded picture as maps are made of: RGBA, row 0 at the top (v = 1). */
export interface MapSource {
  width: number
  height: number
  /** Bytes as the file has them; or floats, linear in the space's primaries. */
  data: Uint8Array | Uint8ClampedArray | Float32Array
  /** What the floats were in the file, where that was less: they are kept as that. */
  depth?: 'half' | 'sixteen'
}

export interface TextureMap {
  /** By which threads know it again; empty where it is nobody else's. */
  id: string
  width: number
  height: number
  channels: 1 | 3 | 4
  /** Colour space of the finest level's bytes. */
  space: string
  /** How many of the finest levels are in their format, and the format of the others. */
  fineLevels: number
  fine: number
  coarse: number
  /** Levels, finest first, see LEVEL. */
  levels: Int32Array
  /** Slots of the tiles of levels in the first format, and of all others. */
  fineTiles: ArrayBufferLike
  coarseTiles: ArrayBufferLike
  /** {@link TABLES} tables in turn: the slot of every tile, level by level. */
  tables: ArrayBufferLike
  /** How many tables there were before the one that counts. */
  version: number
}

export type AllocateMap = (bytes: number) => ArrayBufferLike

export interface MapOptions {
  /** See {@link TextureMap}. */
  id?: string
  /** Memory of threads that are to share it. */
  allocate?: AllocateMap
  /** How many of the finest levels are left out. */
  skip?: number
}

/** Sizes of the levels down to one pixel, with where their tiles stand in a table. */
function levelsOf(width: number, height: number): Int32Array {
  const words: number[] = []
  let first = 0
  for (let w = width, h = height; ; w = halfOf(w), h = halfOf(h)) {
    const across = Math.ceil(w / TILED.side)
    words.push(w, h, across, first)
    first += across * Math.ceil(h / TILED.side)
    if (w === 1 && h === 1) return Int32Array.from(words)
  }
}

/** Entries of the levels before one. */
const entriesBefore = (levels: Int32Array, level: number): number =>
  level < countOf(levels) ? levels[level * LEVEL.stride + LEVEL.first]! : entriesOf(levels)

/** How many levels are kept in the finest one's format. */
const fineLevelsOf = (format: number, levels: Int32Array): number =>
  Math.min(countOf(levels), format === FORMAT.byte ? 2 : 1)

/** Channels that a picture needs: alpha where it is not one all over, colour where it is not grey. */
function channelsOf({ data }: MapSource): 1 | 3 | 4 {
  const whole = data instanceof Float32Array ? 1 : 255
  let grey = true
  for (let i = 0; i < data.length; i += 4) {
    if (data[i + 3] !== whole) return 4
    grey &&= data[i] === data[i + 1] && data[i] === data[i + 2]
  }
  return grey ? 1 : 3
}

/** A picture as floats in Rec.709, where its primaries are others. */
function inRec709(p: MapSource, space: string): MapSource {
  const convert = primariesOf(space)
  if (!convert) return p
  const curve = curveOf(space)
  const data =
    p.data instanceof Float32Array
      ? p.data.slice()
      : Float32Array.from(p.data, (x, i) => (i % 4 === 3 ? x / 255 : curve[x]!))
  for (let i = 0; i < data.length; i += 4) data.set(convert(data.subarray(i, i + 3)), i)
  return { width: p.width, height: p.height, data }
}

/**
 * Makes a map of a decoded picture.
 * @param space one of `COLOUR_SPACES`; data pictures are 'raw'
 */
export function createMap(
  picture: MapSource,
  space: string,
  { id = '', allocate = n => new ArrayBuffer(n), skip = 0 }: MapOptions = {},
): TextureMap {
  const source = inRec709(picture, space)
  const { data } = source
  const channels = channelsOf(source)
  const bytes = !(data instanceof Float32Array)
  const kept = bytes
    ? FORMAT.byte
    : source.depth === 'sixteen'
      ? FORMAT.sixteen
      : source.depth === 'half'
        ? FORMAT.half
        : FORMAT.float
  const coarse = kept === FORMAT.byte ? FORMAT.sixteen : kept
  const curve = bytes ? curveOf(space) : null
  let level: Level = {
    width: source.width,
    height: source.height,
    at: (x, y, k) => {
      const i = (y * source.width + x) * 4 + k
      return curve === null ? data[i]! : k === 3 ? data[i]! / 255 : curve[data[i]!]!
    },
  }
  for (let k = 0; k < skip && (level.width > 1 || level.height > 1); k++) level = averaged(level, channels)
  const fine = skip > 0 ? coarse : kept
  const levels = levelsOf(level.width, level.height)
  const entries = entriesOf(levels)
  const fineLevels = fineLevelsOf(fine, levels)
  const finest = entriesBefore(levels, fineLevels)
  const slotBytes = (format: number) => TILED.area * channels * BYTES[format]!
  const map: TextureMap = {
    id,
    width: level.width,
    height: level.height,
    channels,
    space,
    fineLevels,
    fine,
    coarse,
    levels,
    fineTiles: allocate(finest * slotBytes(fine)),
    coarseTiles: allocate(Math.max(4, (entries - finest) * slotBytes(coarse))),
    tables: allocate(TABLES * entries * 4),
    version: 0,
  }
  const table = new Int32Array(map.tables)
  for (let e = 0; e < entries; e++) table[e] = e < finest ? e : e - finest
  for (let l = 0; l < countOf(levels); l++) {
    if (l > 0) level = averaged(level, channels)
    const box = [0, 0, level.width, level.height] as const
    if (l === 0 && fine === FORMAT.byte)
      writeLevel(map, l, box, (x, y, k) => data[(y * source.width + x) * 4 + k]!)
    else writeMeans(map, l, box, level.at)
  }
  return map
}

/** A rectangle of pixels: left, top, and where it ends. */
export type Box = readonly [x0: number, y0: number, x1: number, y1: number]

/** Writes a level's numbers within a box, as they are, into the slots that the map's newest table names. */
export function writeLevel(
  map: TextureMap,
  level: number,
  [x0, y0, x1, y1]: Box,
  numberAt: (x: number, y: number, channel: number) => number,
): void {
  const isFine = level < map.fineLevels
  const numbers = numbersIn(isFine ? map.fine : map.coarse, isFine ? map.fineTiles : map.coarseTiles)
  const table = tableOf(map)
  for (let y = y0; y < y1; y++)
    for (let x = x0; x < x1; x++) {
      const at = placeIn(table[entryAt(map.levels, level, x, y)]!, x, y) * map.channels
      for (let k = 0; k < map.channels; k++) numbers[at + k] = numberAt(x, y, k)
    }
}

/** {@link writeLevel} of linear numbers, written in the level's format. */
export function writeMeans(map: TextureMap, level: number, box: Box, meanAt: Level['at']): void {
  const format = level < map.fineLevels ? map.fine : map.coarse
  const curve = curveOf(map.space)
  writeLevel(map, level, box, (x, y, k) => encoded(format, meanAt(x, y, k), k === 3 ? null : curve))
}

/** The newest table. */
export const tableOf = (map: TextureMap): Int32Array => {
  const entries = entriesOf(map.levels)
  return new Int32Array(map.tables, (map.version % TABLES) * entries * 4, entries)
}

/**
 * How many of the finest levels of a picture must be left out so that its map takes no more than `room` bytes; the
 * coarsest is always kept. Its four channels are counted: what they hold is not known yet.
 */
export function levelsToSkip({ width, height, data }: MapSource, room: number): number {
  const floats = data instanceof Float32Array
  const most = Math.floor(Math.log2(Math.max(width, height)))
  for (let skip = 0; skip < most; skip++) {
    const numbers = (4 * width * height) / 4 ** skip
    // bytes in two levels and 16 bits in the rest, which is a twelfth of the finest; else one format in all
    const bytes = !floats && skip === 0 ? numbers * (1 + 1 / 4 + 2 / 12) : numbers * (floats ? 4 : 2) * (4 / 3)
    if (bytes <= room) return skip
  }
  return most
}

/** Bytes that a map takes. */
export const bytesOf = (map: TextureMap): number =>
  map.fineTiles.byteLength + map.coarseTiles.byteLength + map.tables.byteLength
