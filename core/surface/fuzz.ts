/**
 * Fuzz (Zeltner, Burley & Chiang 2022, "Practical Multiple-Scattering Sheen Using Linearly Transformed Cosines"):
 * a cosine lobe transformed by a matrix and scaled by an albedo, both functions of the viewer's cosine x and the
 * roughness y. The rational fits are those of the open standard's shading library, from memory; that the lobe is
 * normalised, and is drawn as it is evaluated, holds for any coefficients and is tested. Like the paper's, it is
 * not reciprocal.
 */
import { GAUSS_W, GAUSS_X } from './gauss'

/** Directional albedo, 0..1. */
export function fuzzAlbedo(x: number, y: number): number {
  if (y < 1e-3) y = 1e-3
  const s = (y * (0.0206607 + 1.58491 * y)) / (0.0379424 + y * (1.32227 + y))
  const m = (y * (-0.193854 + y * (-1.14885 + y * (1.7932 - 0.95943 * y * y)))) / (0.046391 + y)
  const o = (y * (0.000654023 + (-0.0207818 + 0.119681 * y) * y)) / (1.26264 + y * (-1.92021 + y))
  const t = (x - m) / s
  const E = Math.exp(-0.5 * t * t) / (s * Math.sqrt(2 * Math.PI)) + o
  return E < 0 ? 0 : E > 1 ? 1 : E
}

/** First coefficient of the inverse matrix. */
export const fuzzA = (x: number, y: number): number =>
  Math.max(1e-3, ((2.58126 * x + 0.813703 * y) * y) / (1 + 0.310327 * x * x + 2.60994 * x * y))
/** Second coefficient of the inverse matrix. */
export const fuzzB = (x: number, y: number): number =>
  (Math.sqrt(Math.max(0, 1 - x)) * (y - 1) * y * y * y) /
  (0.0000254053 + 1.71228 * x - 1.71506 * x * y + 1.34174 * y * y)

/** Cosine mean of {@link fuzzAlbedo}. */
export const fuzzAverage = (y: number): number =>
  GAUSS_X.reduce((sum, x, i) => sum + GAUSS_W[i]! * fuzzAlbedo(Math.sqrt(x), y), 0)
