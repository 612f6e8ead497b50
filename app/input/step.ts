/** Step of an arrow in a field, as a share of its range; and of what it holds where that is drawn by its logarithm. */
const SHARE = 0.01
const FACTOR = 1.05
/** How much finer a step or a drag is with Shift. */
export const FINER = 10

/** A number of one digit near to x: 1, 2 or 5 times a power of ten. */
export function rounded(x: number): number {
  const power = 10 ** Math.floor(Math.log10(x))
  const digit = x / power
  return (digit < 1.5 ? 1 : digit < 3.5 ? 2 : digit < 7.5 ? 5 : 10) * power
}

/**
 * Value after an arrow up or down.
 * @param range what is usual, if something is
 * @param fine with Shift
 */
export function stepped(
  value: number,
  up: boolean,
  fine: boolean,
  range: { low: number; high: number; log?: boolean },
): number {
  const sign = up ? 1 : -1
  if (range.log) return +(value * FACTOR ** (sign / (fine ? FINER : 1))).toPrecision(6)
  const known = Number.isFinite(range.low) && Number.isFinite(range.high) && range.high > range.low
  const step = rounded(known ? (range.high - range.low) * SHARE : Math.max(Math.abs(value) * 10 * SHARE, 1e-3))
  return +(value + (sign * step) / (fine ? FINER : 1)).toPrecision(9)
}
