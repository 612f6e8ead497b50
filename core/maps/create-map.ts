/** Maps of decoded pictures. */
import { halfOf } from './average'
import { curveOf, decodingOf, primariesOf } from './colour-spaces'
import { entriesBefore, slotBytesOf, TABLES, type AllocateMap, type MapSource, type TextureMap } from './map'
import { MOST_SLOTS, stateBytes, writeEmptyState, type TileStore } from './paging'
import { halved, writeLinear, writeNumbers, type Rows } from './pyramid'
import { FORMAT, TILED } from './slots'
import { countOf, entriesOf, sizeOf } from './tiles'

export interface MapOptions {
  /** See {@link TextureMap}. */
  id?: string
  /** Memory of threads that are to share it. */
  allocate?: AllocateMap
  /** How many of the finest levels are left out. */
  skip?: number
  /** A file that the finer levels are kept in, and the memory that they may take, bytes. */
  pages?: { store: TileStore; bytes: number }
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

/** Side of the largest level that is always there. */
const ALWAYS = 256

/** How many levels are kept in the finest one's format, and apart from the others. */
function fineLevelsOf(format: number, levels: Int32Array, paged: boolean): number {
  const count = countOf(levels)
  if (format === FORMAT.byte || !paged) return Math.min(count, format === FORMAT.byte ? 2 : 1)
  let large = 0
  while (large < count && Math.max(...sizeOf(levels, large)) > ALWAYS) large++
  return large
}

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

/** A picture of 16 bits as linear halves, where its space is encoded: dark tones keep their steps. */
function decoded(p: MapSource, space: string): MapSource {
  const decode = p.depth === 'sixteen' ? decodingOf(space) : undefined
  if (!decode) return p
  const data = Float32Array.from(p.data, (x, i) => (i % 4 === 3 ? x : decode(x)))
  return { width: p.width, height: p.height, data, depth: 'half' }
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

/** A picture's rows as linear numbers. @param curve of its bytes; null where it has floats */
const rowsOf = ({ width, height, data }: MapSource, curve: Float32Array | null): Rows => ({
  width,
  height,
  row(y, channel, out) {
    const from = y * width * 4 + channel
    if (curve === null) for (let x = 0; x < width; x++) out[x] = data[from + 4 * x]!
    else if (channel === 3) for (let x = 0; x < width; x++) out[x] = data[from + 4 * x]! / 255
    else for (let x = 0; x < width; x++) out[x] = curve[data[from + 4 * x]!]!
  },
})

/** A picture's rows as the bytes that it has. */
function bytesIn({ width, data }: MapSource): (y: number, channel: number) => Uint8Array {
  const row = new Uint8Array(width)
  return (y, channel) => {
    const from = y * width * 4 + channel
    for (let x = 0; x < width; x++) row[x] = data[from + 4 * x]!
    return row
  }
}

/**
 * Makes a map of a decoded picture.
 * @param space one of `COLOUR_SPACES`; data pictures are 'raw'
 */
export function createMap(
  picture: MapSource,
  space: string,
  { id = '', allocate = n => new ArrayBuffer(n), skip = 0, pages }: MapOptions = {},
): TextureMap {
  const source = inRec709(decoded(picture, space), space)
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
  let level = rowsOf(source, bytes ? curveOf(space) : null)
  for (let k = 0; k < skip && (level.width > 1 || level.height > 1); k++) level = halved(level, channels)
  const fine = skip > 0 ? coarse : kept
  const levels = levelsOf(level.width, level.height)
  const entries = entriesOf(levels)
  const fineLevels = fineLevelsOf(fine, levels, pages !== undefined)
  const finest = entriesBefore(levels, fineLevels)
  const slots = Math.min(MOST_SLOTS, Math.max(1, Math.floor((pages?.bytes ?? 0) / slotBytesOf(fine, channels))))
  const paged = pages !== undefined && slots < finest ? pages : undefined
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
    fineTiles: (paged ? beside : allocate)(finest * slotBytesOf(fine, channels)),
    coarseTiles: allocate(Math.max(4, (entries - finest) * slotBytesOf(coarse, channels))),
    tables: allocate((paged ? 1 : TABLES) * entries * 4),
    version: 0,
  }
  const table = new Int32Array(map.tables)
  for (let e = 0; e < entries; e++) table[e] = e < finest ? e : e - finest
  for (let l = 0; l < countOf(levels); l++) {
    if (l > 0) level = halved(level, channels)
    const whole = [0, 0, level.width, level.height] as const
    if (l === 0 && fine === FORMAT.byte) writeNumbers(map, l, whole, bytesIn(source))
    else writeLinear(map, l, whole, level.row)
  }
  return paged ? inFile(map, paged.store, slots, allocate) : map
}

/** Memory of this thread alone. */
const beside: AllocateMap = n => new ArrayBuffer(n)

/** The map with its finer levels in a file, none of them there yet. */
function inFile(map: TextureMap, store: TileStore, slots: number, allocate: AllocateMap): TextureMap {
  const at = store.append(new Uint8Array(map.fineTiles))
  const state = allocate(stateBytes(slots))
  writeEmptyState(state, slots)
  new Int32Array(map.tables).fill(-1, 0, entriesBefore(map.levels, map.fineLevels))
  return {
    ...map,
    fineTiles: allocate(slots * slotBytesOf(map.fine, map.channels)),
    paging: { file: store.file, at, state },
  }
}
