import { labFromRec709 } from '../colour/lab'
import { deltaE2000 } from './deltaE2000'

/** Differences of two pictures of equal size, linear Rec.709 with white 1 under D65. */
export interface Comparison {
  rmse: number
  /** dB against white 1; Infinity for equal pictures. */
  psnr: number
  deltaE2000: { mean: number; p95: number; max: number }
}

/**
 * Compares two pictures.
 * @param a, b three numbers a pixel
 * @param difference receives ΔE2000 of each pixel, when given
 */
export function comparePictures(
  a: ArrayLike<number>,
  b: ArrayLike<number>,
  difference?: Float32Array,
): Comparison {
  const n = a.length / 3
  const deltas = new Float64Array(n)
  let squares = 0
  for (let i = 0; i < n; i++) {
    const p = [a[i * 3]!, a[i * 3 + 1]!, a[i * 3 + 2]!]
    const q = [b[i * 3]!, b[i * 3 + 1]!, b[i * 3 + 2]!]
    for (let k = 0; k < 3; k++) squares += (p[k]! - q[k]!) ** 2
    const d = deltaE2000(labFromRec709(p), labFromRec709(q))
    deltas[i] = d
    if (difference) difference[i] = d
  }
  const mse = squares / (3 * n)
  const mean = deltas.reduce((s, x) => s + x, 0) / n
  deltas.sort()
  return {
    rmse: Math.sqrt(mse),
    psnr: mse > 0 ? -10 * Math.log10(mse) : Infinity,
    deltaE2000: { mean, p95: deltas[Math.min(n - 1, Math.floor(n * 0.95))]!, max: deltas[n - 1]! },
  }
}
