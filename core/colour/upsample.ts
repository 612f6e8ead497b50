import basis from './basis.json'
import { resampleEven } from './grid'

/**
 * Three smooth curves that turn a linear Rec.709 reflectance into a spectrum: ρ(λ) = r·B₀(λ) + g·B₁(λ) +
 * b·B₂(λ). They lie in 0..1 and sum to one, so white stays white and nothing reflects more than it receives.
 * Method: Mallett & Yuksel 2019; fitted by scripts/fit-basis.ts.
 */
export const basisR = resampleEven(basis.start, basis.step, basis.r)
export const basisG = resampleEven(basis.start, basis.step, basis.g)
export const basisB = resampleEven(basis.start, basis.step, basis.b)

/** Reflectance spectrum (GRID_SIZE values) of a linear Rec.709 colour with components in 0..1. */
export function reflectanceFromRGB(r: number, g: number, b: number): Float64Array {
  return basisR.map((x, i) => r * x + g * basisG[i]! + b * basisB[i]!)
}
