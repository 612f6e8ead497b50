import table from './albedo.json'
import { GRAIN_AXES } from './albedo-axes'
import { memory } from './memory'
import { LOBE } from './slots'

const { lobes } = memory

const missing = Float64Array.from(table.stretched.missing)
const average = Float64Array.from(table.stretched.average)
const M = GRAIN_AXES.mu
const P = GRAIN_AXES.angle
const A = GRAIN_AXES.alpha
const R = GRAIN_AXES.ratio

/** Where a place on an axis of n entries lies: the entry below and how far beyond it. */
const place = (x: number, n: number): number => Math.min(n - 1 - 1e-9, Math.max(0, x * (n - 1)))

/** Angle between a direction's projection and the grain, of a right one. @param t, b along and across it */
const angleShare = (t: number, b: number): number =>
  t === 0 && b === 0 ? 0.5 : Math.atan2(Math.abs(b), Math.abs(t)) / (Math.PI / 2)

/**
 * What the stretched facets of the lobe at o, if they reflect everything, do not send back at the first meeting of
 * light from a direction; by the table of scripts/fit-albedo.ts.
 */
export function grainMissing(o: number, x: number, y: number, z: number): number {
  const t = x * lobes[o + LOBE.tx]! + y * lobes[o + LOBE.tx + 1]! + z * lobes[o + LOBE.tx + 2]!
  const b = x * lobes[o + LOBE.bx]! + y * lobes[o + LOBE.bx + 1]! + z * lobes[o + LOBE.bx + 2]!
  const mu = Math.sqrt(Math.max(0, 1 - t * t - b * b))
  const ax = lobes[o + LOBE.ax]!
  const fm = place(Math.sqrt(mu), M)
  const fp = place(angleShare(t, b), P)
  const fa = place(Math.sqrt(ax), A)
  const fr = place(Math.sqrt(lobes[o + LOBE.ay]! / ax), R)
  const m = fm | 0
  const p = fp | 0
  const a = fa | 0
  const r = fr | 0
  let sum = 0
  for (let k = 0; k < 16; k++) {
    const w =
      (k & 1 ? fm - m : 1 - fm + m) *
      (k & 2 ? fp - p : 1 - fp + p) *
      (k & 4 ? fa - a : 1 - fa + a) *
      (k & 8 ? fr - r : 1 - fr + r)
    const i = r + (k >> 3)
    const j = a + ((k >> 2) & 1)
    const l = p + ((k >> 1) & 1)
    sum += w * missing[((i * A + j) * P + l) * M + m + (k & 1)]!
  }
  return sum
}

/** Cosine mean of {@link grainMissing}. @param ax α along the grain, ay across it */
export function grainMissingAverage(ax: number, ay: number): number {
  const fa = place(Math.sqrt(ax), A)
  const fr = place(Math.sqrt(ay / ax), R)
  const a = fa | 0
  const r = fr | 0
  const at = (i: number, j: number): number => average[i * A + j]!
  const low = at(r, a) + (at(r, a + 1) - at(r, a)) * (fa - a)
  const high = at(r + 1, a) + (at(r + 1, a + 1) - at(r + 1, a)) * (fa - a)
  return low + (high - low) * (fr - r)
}
