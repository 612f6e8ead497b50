/** Colour of a black body by Planck's law (CIE 015, with c₂ = 1.4388e-2 m·K), relative to D65. */
import { GRID_SIZE, GRID_START } from './grid'
import { toXYZ } from './observer'
import { transform, xyzToRec709 } from './rgb'

/**
 * Linear Rec.709 of a black body's light under which D65 is white, its largest component 1. Components outside the
 * gamut are cut at 0.
 * @param kelvin 1000–20 000; beyond that the end holds
 */
export function colourOfTemperature(kelvin: number): [number, number, number] {
  const T = Math.min(20_000, Math.max(1000, kelvin))
  const xyz = toXYZ(Float64Array.from({ length: GRID_SIZE }, (_, i) => planck(GRID_START + i, T)))
  const rgb = transform(xyzToRec709, xyz).map(x => Math.max(0, x))
  const most = Math.max(...rgb)
  return rgb.map(x => x / most) as [number, number, number]
}

/** Chromaticity x, y of a black body. */
export function planckXY(kelvin: number): [number, number] {
  const [X, Y, Z] = toXYZ(Float64Array.from({ length: GRID_SIZE }, (_, i) => planck(GRID_START + i, kelvin)))
  return [X / (X + Y + Z), Y / (X + Y + Z)]
}

/** Spectral radiance at nm, to a scale. */
const planck = (nm: number, T: number): number =>
  ((560 / nm) ** 5 / (Math.exp(1.4388e7 / (nm * T)) - 1)) * Math.exp(1.4388e7 / (560 * T))
