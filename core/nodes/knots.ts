/** Ramps and curves between the points in `memory.knots`. */
import { MOST_POINTS, memory } from './memory'

const { knots, result } = memory

/** Puts places in order. @returns number of the last point at or before x, −1 before the first */
function segment(x: number, count: number): number {
  let at = -1
  for (let k = 0; k < count; k++) {
    if (k > 0 && knots[k]! < knots[k - 1]!) knots[k] = knots[k - 1]!
    if (x >= knots[k]!) at = k
  }
  return at
}

/**
 * Colour at x of the points in `memory.knots`, into `memory.result`.
 * @param mode 0 steps, 1 straight between, 2 by a Hermite step that is level at each point
 */
export function ramp(x: number, count: number, mode: number): void {
  const at = segment(x, count)
  const a = MOST_POINTS + Math.max(0, at) * 3
  let t = 0
  if (at >= 0 && at < count - 1 && mode > 0) {
    t = (x - knots[at]!) / (knots[at + 1]! - knots[at]!)
    if (mode === 2) t = t * t * (3 - 2 * t)
  }
  for (let i = 0; i < 3; i++)
    result[i] = t > 0 ? knots[a + i]! + (knots[a + 3 + i]! - knots[a + i]!) * t : knots[a + i]!
}

/**
 * Value at x of the points in `memory.knots`.
 * @param mode 0 steps, 1 straight between, 2 a cubic that never overshoots (Fritsch & Butland 1984, "A method for
 * constructing local monotone piecewise cubic interpolants", eq. 5)
 */
export function curve(x: number, count: number, mode: number): number {
  const at = segment(x, count)
  const y0 = knots[MOST_POINTS + Math.max(0, at)]!
  if (at < 0 || at >= count - 1 || mode === 0) return y0
  const h = knots[at + 1]! - knots[at]!
  const t = (x - knots[at]!) / h
  const y1 = knots[MOST_POINTS + at + 1]!
  if (mode === 1) return y0 + (y1 - y0) * t
  const d0 = slope(at, count) * h
  const d1 = slope(at + 1, count) * h
  const u = t * t
  const v = u * t
  return (2 * v - 3 * u + 1) * y0 + (v - 2 * u + t) * d0 + (3 * u - 2 * v) * y1 + (v - u) * d1
}

/**
 * Slope of the monotone cubic at a point: level at the ends (our choice: the curve goes on level) and where the
 * secants change sign, else their weighed harmonic mean.
 */
function slope(k: number, count: number): number {
  if (k === 0 || k === count - 1) return 0
  const a = knots[k]! - knots[k - 1]!
  const b = knots[k + 1]! - knots[k]!
  if (!(a > 0) || !(b > 0)) return 0
  const s = (knots[MOST_POINTS + k]! - knots[MOST_POINTS + k - 1]!) / a
  const r = (knots[MOST_POINTS + k + 1]! - knots[MOST_POINTS + k]!) / b
  if (s * r <= 0) return 0
  const weight = (a + 2 * b) / (3 * (a + b))
  return (s * r) / (weight * r + (1 - weight) * s)
}
