/**
 * White balance: what one white lights is shown as if D65 lit it. For display only; nothing that is kept as floats
 * passes through here.
 */
import { GRID_SIZE, GRID_START } from './grid'
import { toXYZ, whiteXYZ } from './observer'
import { bradford, rec709ToXYZ, transform, xyzToRec709 } from './rgb'

/** Second radiation constant hc/k, nm·K (CODATA 2018: 0.014387769 m·K). */
const C2 = 1.4387769e7

/** Temperatures that {@link whiteOfTemperature} knows, K. */
export const COOLEST = 1500
export const HOTTEST = 25_000

/** XYZ with Y = 1 of a full radiator (Planck 1901). */
function planckWhite(T: number): [number, number, number] {
  const spectrum = Float64Array.from({ length: GRID_SIZE }, (_, i) => {
    const l = GRID_START + i
    return (l / 560) ** -5 / (Math.exp(C2 / (l * T)) - 1)
  })
  const [X, Y, Z] = toXYZ(spectrum)
  return [X / Y, 1, Z / Y]
}

/** XYZ with Y = 1 of CIE daylight (CIE 015:2018, eqs. 4.8–4.10), 4000–25 000 K. */
function daylightWhite(T: number): [number, number, number] {
  const x =
    T <= 7000
      ? -4.607e9 / T ** 3 + 2.9678e6 / T ** 2 + 99.11 / T + 0.244063
      : -2.0064e9 / T ** 3 + 1.9018e6 / T ** 2 + 247.48 / T + 0.23704
  const y = -3 * x * x + 2.87 * x - 0.275
  return [x / y, 1, (1 - x - y) / y]
}

/**
 * White of a correlated colour temperature, XYZ with Y = 1: a full radiator up to 4000 K, daylight from 5000 K,
 * between them one passes into the other
 * (common practice: lamps below, daylight above).
 * @param T kelvin, within {@link COOLEST} and {@link HOTTEST}
 */
export function whiteOfTemperature(T: number): [number, number, number] {
  const t = Math.min(HOTTEST, Math.max(COOLEST, T))
  if (t <= 4000) return planckWhite(t)
  const day = daylightWhite(t)
  if (t >= 5000) return day
  const lamp = planckWhite(t)
  const share = (t - 4000) / 1000
  return [0, 1, 2].map(k => lamp[k]! + (day[k]! - lamp[k]!) * share) as [number, number, number]
}

/** A 3×3 matrix on linear Rec.709, row by row. */
export type Balance = readonly number[]

/** A linear colour with a balance; as it is without one. */
export const balanced = (m: Balance | null | undefined, c: ArrayLike<number>): [number, number, number] =>
  m
    ? [
        m[0]! * c[0]! + m[1]! * c[1]! + m[2]! * c[2]!,
        m[3]! * c[0]! + m[4]! * c[1]! + m[5]! * c[2]!,
        m[6]! * c[0]! + m[7]! * c[1]! + m[8]! * c[2]!,
      ]
    : [c[0]!, c[1]!, c[2]!]

/** Balance that makes a white (XYZ) neutral by Bradford's adaptation, and keeps its luminance. */
export function balanceFor(white: ArrayLike<number>): Balance {
  const y = white[1]!
  const adapt = bradford([white[0]! / y, 1, white[2]! / y], whiteXYZ)
  // columns are what becomes of pure red, green and blue
  const columns = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ].map(c => transform(xyzToRec709, transform(adapt, transform(rec709ToXYZ, c))))
  return [0, 1, 2].flatMap(r => columns.map(c => c[r]!))
}

/** Balance that makes a linear Rec.709 colour neutral; undefined for one without all three components. */
export function balanceForColour(rgb: ArrayLike<number>): Balance | undefined {
  return rgb[0]! > 0 && rgb[1]! > 0 && rgb[2]! > 0 ? balanceFor(transform(rec709ToXYZ, rgb)) : undefined
}
