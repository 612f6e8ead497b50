/** A level of a pyramid as linear numbers. */
export interface Level {
  width: number
  height: number
  at(x: number, y: number, channel: number): number
}

/** Pixels along an axis: the first, and how much of each counts. */
export interface Stretch {
  first: number
  shares: readonly number[]
}

/** Pixels that one of a level half as large covers along an axis. */
export function covered(i: number, from: number, to: number): Stretch {
  const low = (i * from) / to
  const high = ((i + 1) * from) / to
  const first = Math.floor(low)
  const shares: number[] = []
  for (let x = first; x < high - 1e-9; x++) shares.push((Math.min(x + 1, high) - Math.max(x, low)) / (high - low))
  return { first, shares }
}

/** Mean of a channel over some columns and rows. */
export function meanOver(level: Pick<Level, 'at'>, across: Stretch, down: Stretch, channel: number): number {
  let sum = 0
  for (let j = 0; j < down.shares.length; j++)
    for (let i = 0; i < across.shares.length; i++)
      sum += down.shares[j]! * across.shares[i]! * level.at(across.first + i, down.first + j, channel)
  return sum
}

/** Size of the level below. */
export const halfOf = (n: number): number => Math.max(1, n >> 1)

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

/**
 * The level half as large: each pixel the mean of the area that it covers, so that the picture's mean stays. What it
 * gave before last is given up: levels are made one of the other.
 */
export function averaged(level: Level, channels: number): Level {
  const width = halfOf(level.width)
  const height = halfOf(level.height)
  const data = roomFor(width * height * channels)
  const across = Array.from({ length: width }, (_, x) => covered(x, level.width, width))
  for (let y = 0; y < height; y++) {
    const down = covered(y, level.height, height)
    for (let x = 0; x < width; x++) {
      for (let k = 0; k < channels; k++)
        data[(y * width + x) * channels + k] = meanOver(level, across[x]!, down, k)
    }
  }
  return { width, height, at: (x, y, k) => data[(y * width + x) * channels + k]! }
}
