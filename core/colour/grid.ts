/**
 * The wavelength grid of the renderer: every integer nanometre from 380 to 780. Spectra inside the core are arrays
 * of {@link GRID_SIZE} values on this grid, and a "wavelength" is an index into it.
 */
export const GRID_START = 380
export const GRID_END = 780
export const GRID_SIZE = GRID_END - GRID_START + 1

/**
 * Resamples a table to the grid by linear interpolation; beyond its ends the end value holds.
 * @param wavelengths ascending, nm
 * @param values one a wavelength
 */
export function resampleToGrid(wavelengths: readonly number[], values: readonly number[]): Float64Array {
  const out = new Float64Array(GRID_SIZE)
  let j = 0
  for (let i = 0; i < GRID_SIZE; i++) {
    const nm = GRID_START + i
    while (j < wavelengths.length - 2 && wavelengths[j + 1]! <= nm) j++
    const a = wavelengths[j]!
    const b = wavelengths[j + 1]!
    const t = Math.min(1, Math.max(0, (nm - a) / (b - a)))
    out[i] = values[j]! * (1 - t) + values[j + 1]! * t
  }
  return out
}

/** Resamples evenly spaced values (nm) to the grid. */
export function resampleEven(start: number, step: number, values: readonly number[]): Float64Array {
  return resampleToGrid(
    values.map((_, i) => start + i * step),
    values,
  )
}
