import { table } from './table'
import { EmitFault, results, type EmitContext, type NodeEntry } from './emit'
import { MOST_POINTS, memory } from './memory'

const { knots, result } = memory

const INTERPOLATION = table<number>({ constant: 0, linear: 1, smooth: 2 })

function points(c: EmitContext, value: string): { count: number; mode: number } {
  const count = c.fixed('count')
  const mode = INTERPOLATION[c.text('interpolation')]
  if (!(Number.isInteger(count) && count >= 1 && count <= MOST_POINTS))
    throw new EmitFault(`count is a whole number from 1 to ${MOST_POINTS}`)
  if (mode === undefined) throw new EmitFault('interpolation is constant, linear or smooth')
  for (let k = 0; k < count; k++) {
    c.line(`knots[${k}] = ${c.arg(`position${k + 1}`)[0]};`)
    c.arg(value + (k + 1)).forEach((x, i, all) => c.line(`knots[${MOST_POINTS + k * all.length + i}] = ${x};`))
  }
  return { count, mode }
}

/**
 * Our ramp and curve: `count` points in order; one that lies before its predecessor stands where that one does.
 * Constant beyond the ends.
 */
export const entries: Record<string, NodeEntry> = {
  wl_ramp: {
    about: 'Colour between points that an artist sets.',
    emit: c => {
      const { count, mode } = points(c, 'color')
      c.line(`ramp(${c.arg('in')[0]}, ${count}, ${mode});`)
      return results(c, 3)
    },
  },
  wl_curve: {
    about: 'Number between points that an artist sets.',
    emit: c => {
      const { count, mode } = points(c, 'value')
      return [c.local(`curve(${c.arg('in')[0]}, ${count}, ${mode})`)]
    },
  },
}

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
