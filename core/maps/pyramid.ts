/**
 * Levels of a picture, row by row. A map of 4096² pixels of bytes took 4.9 s when each number came through a call of
 * its own and its byte was searched for; by rows of a channel, with a table for the bytes, 1.2 to 1.9 s.
 */
import { covered, halfOf, meanOver, type NumberAt, type Stretch } from './average'
import { encode, numbersIn } from './formats'
import { curveOf } from './colour-spaces'
import { tableOf, type Box, type TextureMap } from './map'
import { TILED } from './slots'
import { entryAt, placeIn } from './tiles'

/** A level as rows of one channel's linear numbers. */
export interface Rows {
  width: number
  height: number
  /** Writes a row of a channel. */
  row(y: number, channel: number, out: Float32Array): void
}

/** Numbers of the two levels under way, one a thread; larger ones are made anew each time. */
const KEPT = 1 << 22
let kept: [Float32Array, Float32Array] = [new Float32Array(0), new Float32Array(0)]

/** Room for a level that is not the one that the last call gave. */
function roomFor(numbers: number): Float32Array {
  if (numbers > KEPT) return new Float32Array(numbers)
  kept = [kept[1], kept[0]]
  if (kept[0].length < numbers) kept[0] = new Float32Array(numbers)
  return kept[0]
}

/** Pixels of the level above that one may cover along an axis. */
const MOST_COVERED = 3

/** Where means of rows go: as many numbers from a place on. */
interface Means {
  data: Float32Array
  at: number
  width: number
}

/** Means of two rows by two columns. */
function meansOfFour({ data, at, width }: Means, row: Float32Array, next: Float32Array): void {
  for (let x = 0; x < width; x++)
    data[at + x] = (row[2 * x]! + row[2 * x + 1]! + next[2 * x]! + next[2 * x + 1]!) * 0.25
}

/** Means of rows, by the shares that each has along both axes. */
function meansOf(
  { data, at, width }: Means,
  rows: readonly Float32Array[],
  shares: readonly number[],
  across: readonly Stretch[],
): void {
  const numberAt: NumberAt = (x, y) => rows[y]![x]!
  for (let x = 0; x < width; x++) data[at + x] = meanOver(numberAt, across[x]!, { first: 0, shares }, 0)
}

/**
 * The level half as large: each pixel the mean of the area that it covers, so that the picture's mean stays. What it
 * gave before last is given up: levels are made one of the other.
 */
export function halved(level: Rows, channels: number): Rows {
  const width = halfOf(level.width)
  const height = halfOf(level.height)
  const data = roomFor(width * height * channels)
  const even = level.width === 2 * width && level.height === 2 * height
  const across = even ? [] : Array.from({ length: width }, (_, x) => covered(x, level.width, width))
  const rows = Array.from({ length: MOST_COVERED }, () => new Float32Array(level.width))
  const at = (y: number, channel: number) => (channel * height + y) * width
  for (let k = 0; k < channels; k++)
    for (let y = 0; y < height; y++) {
      const down = covered(y, level.height, height)
      down.shares.forEach((_, j) => level.row(down.first + j, k, rows[j]!))
      const means = { data, at: at(y, k), width }
      if (even) meansOfFour(means, rows[0]!, rows[1]!)
      else meansOf(means, rows, down.shares, across)
    }
  return { width, height, row: (y, k, out) => out.set(data.subarray(at(y, k), at(y, k) + width)) }
}

/**
 * Writes a level's numbers within a box, as they are, into the slots that the map's newest table names.
 * @param rowOf numbers of a row and a channel, from the left of the box on
 */
export function writeNumbers(
  map: TextureMap,
  level: number,
  [x0, y0, x1, y1]: Box,
  rowOf: (y: number, channel: number) => ArrayLike<number>,
): void {
  const isFine = level < map.fineLevels
  const numbers = numbersIn(isFine ? map.fine : map.coarse, isFine ? map.fineTiles : map.coarseTiles)
  const table = tableOf(map)
  const { channels } = map
  for (let y = y0; y < y1; y++)
    for (let k = 0; k < channels; k++) {
      const row = rowOf(y, k)
      // tile by tile
      for (let from = x0, to = 0; from < x1; from = to) {
        to = Math.min(x1, (from | TILED.mask) + 1)
        const at = placeIn(table[entryAt(map.levels, level, from, y)]!, from, y) * channels + k
        for (let i = 0; i < to - from; i++) numbers[at + i * channels] = row[from - x0 + i]!
      }
    }
}

/** {@link writeNumbers} of linear numbers, written in the level's format. @param row writes a row of the box */
export function writeLinear(map: TextureMap, level: number, box: Box, row: Rows['row']): void {
  const format = level < map.fineLevels ? map.fine : map.coarse
  const linear = new Float32Array(box[2] - box[0])
  const numbers = numbersIn(format, new ArrayBuffer(linear.byteLength))
  const curve = curveOf(map.space)
  writeNumbers(map, level, box, (y, k) => {
    row(y, k, linear)
    encode(format, linear, k === 3 ? null : curve, numbers)
    return numbers
  })
}
