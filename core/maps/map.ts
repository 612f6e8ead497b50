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
import { BYTES, FORMAT, numbersIn, toHalf } from './formats'
import { curveOf, primariesOf } from './colour-spaces'
import { averaged, type Level } from './average'

/** Side of a tile, and pixels of one. */
export const SIDE = 64
const AREA = SIDE * SIDE
/** Tables that are kept beside the one that counts: work that began with one of them ends with it. */
export const TABLES = 8

/** Words of a level: its size, how many tiles it is across, its first entry of a table. */
export const LEVEL = { width: 0, height: 1, across: 2, first: 3, stride: 4 } as const

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

/** Entries of a map's table. */
export function entriesOf(levels: Int32Array): number {
  const last = levels.length - LEVEL.stride
  return levels[last + LEVEL.first]! + 1
}

/** Sizes of the levels down to one pixel, with where their tiles stand in a table. */
function levelsOf(width: number, height: number): Int32Array {
  const words: number[] = []
  let first = 0
  for (let w = width, h = height; ; w = Math.max(1, w >> 1), h = Math.max(1, h >> 1)) {
    const across = Math.ceil(w / SIDE)
    words.push(w, h, across, first)
    first += across * Math.ceil(h / SIDE)
    if (w === 1 && h === 1) return Int32Array.from(words)
  }
}

/** Entries of the levels before one. */
const entriesBefore = (levels: Int32Array, level: number): number =>
  level * LEVEL.stride < levels.length ? levels[level * LEVEL.stride + LEVEL.first]! : entriesOf(levels)

/** How many levels are kept in the finest one's format. */
const fineLevelsOf = (format: number, levels: Int32Array): number =>
  Math.min(levels.length / LEVEL.stride, format === FORMAT.byte ? 2 : 1)

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

/** Where a pixel of a level stands among the numbers of its slots. */
export const placeIn = (slot: number, x: number, y: number): number => slot * AREA + (y % SIDE) * SIDE + (x % SIDE)

/** Byte whose value is nearest to a number. */
function nearestByte(curve: Float32Array, x: number): number {
  let low = 0
  let high = 255
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (curve[middle]! <= x) low = middle
    else high = middle
  }
  return x - curve[low]! < curve[high]! - x ? low : high
}

/**
 * Writes a linear number in a format.
 * @param curve of bytes; null for a fourth channel, which is straight
 */
export function encoded(format: number, x: number, curve: Float32Array | null): number {
  if (format === FORMAT.byte) return curve ? nearestByte(curve, x) : Math.round(Math.min(1, Math.max(0, x)) * 255)
  if (format === FORMAT.sixteen) return Math.round(Math.min(1, Math.max(0, x)) * 65535)
  return format === FORMAT.half ? toHalf(x) : x
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
 * @param skip how many of the finest levels are left out
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
  const fineTiles = allocate(finest * AREA * channels * BYTES[fine]!)
  const coarseTiles = allocate(Math.max(4, (entries - finest) * AREA * channels * BYTES[coarse]!))
  const tables = allocate(TABLES * entries * 4)
  const table = new Int32Array(tables)
  for (let e = 0; e < entries; e++) table[e] = e < finest ? e : e - finest
  const raw =
    fine === FORMAT.byte ? (x: number, y: number, k: number) => data[(y * source.width + x) * 4 + k]! : null
  for (let l = 0, n = levels.length / LEVEL.stride; l < n; l++) {
    const format = l < fineLevels ? fine : coarse
    const numbers = numbersIn(format, l < fineLevels ? fineTiles : coarseTiles)
    const o = l * LEVEL.stride
    const across = levels[o + LEVEL.across]!
    const first = levels[o + LEVEL.first]! - (l < fineLevels ? 0 : finest)
    if (l > 0) level = averaged(level, channels)
    for (let y = 0; y < level.height; y++)
      for (let x = 0; x < level.width; x++) {
        const slot = first + Math.floor(y / SIDE) * across + Math.floor(x / SIDE)
        const at = placeIn(slot, x, y) * channels
        for (let k = 0; k < channels; k++)
          numbers[at + k] =
            l === 0 && raw ? raw(x, y, k) : encoded(format, level.at(x, y, k), k === 3 ? null : curve)
      }
  }
  return {
    id,
    width: levels[LEVEL.width]!,
    height: levels[LEVEL.height]!,
    channels,
    space,
    fineLevels,
    fine,
    coarse,
    levels,
    fineTiles,
    coarseTiles,
    tables,
    version: 0,
  }
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
