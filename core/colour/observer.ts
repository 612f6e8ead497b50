import tables from './tables.json'
import { resampleEven } from './grid'

/** CIE 1931 2° colour-matching functions on the grid. Source: CIE 015, 5 nm tables, interpolated linearly. */
export const xBar = resampleEven(tables.observer.start, tables.observer.step, tables.observer.x)
export const yBar = resampleEven(tables.observer.start, tables.observer.step, tables.observer.y)
export const zBar = resampleEven(tables.observer.start, tables.observer.step, tables.observer.z)

/** Relative spectral power of CIE standard illuminant D65 on the grid. Source: ISO/CIE 11664-2. */
export const d65 = resampleEven(tables.d65.start, tables.d65.step, tables.d65.values)

/**
 * Tristimulus values of a spectral power distribution on the grid, sums over 1 nm steps.
 * @param spectrum GRID_SIZE values
 * @param k scale, for example {@link reflectanceScale}
 */
export function toXYZ(spectrum: ArrayLike<number>, k = 1): [number, number, number] {
  let X = 0
  let Y = 0
  let Z = 0
  for (let i = 0; i < xBar.length; i++) {
    const s = spectrum[i]!
    X += s * xBar[i]!
    Y += s * yBar[i]!
    Z += s * zBar[i]!
  }
  return [X * k, Y * k, Z * k]
}

/** Scale that gives the perfect reflector under D65 Y = 1 (CIE 015, eq. 7.2 with 1 for 100). */
export const reflectanceScale = 1 / toXYZ(d65)[1]

/** White point of D65 as the tables and the 380–780 nm range give it; Y is 1. */
export const whiteXYZ = toXYZ(d65, reflectanceScale)

/** Tristimulus values of a reflectance (GRID_SIZE values) under D65, Y of white 1. */
export function reflectanceToXYZ(reflectance: ArrayLike<number>): [number, number, number] {
  const lit = new Float64Array(d65.length)
  for (let i = 0; i < lit.length; i++) lit[i] = d65[i]! * reflectance[i]!
  return toXYZ(lit, reflectanceScale)
}
