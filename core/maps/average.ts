/** A linear number of a level. */
export type NumberAt = (x: number, y: number, channel: number) => number

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
export function meanOver(numberAt: NumberAt, across: Stretch, down: Stretch, channel: number): number {
  let sum = 0
  for (let j = 0; j < down.shares.length; j++)
    for (let i = 0; i < across.shares.length; i++)
      sum += down.shares[j]! * across.shares[i]! * numberAt(across.first + i, down.first + j, channel)
  return sum
}

/** Size of the level below. */
export const halfOf = (n: number): number => Math.max(1, n >> 1)
