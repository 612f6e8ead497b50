import table from './albedo.json'
import { AXES, F_MAX } from './albedo-axes'
import { fresnelDielectric } from '../optics/fresnel'
import { SMOOTH_ALPHA } from './ggx'

const E = Float64Array.from(table.E)
const average = Float64Array.from(table.average)
const M = AXES.mu
const A = AXES.alpha
const F = AXES.eta

/**
 * Directional albedo of a dielectric's reflection: how much of the light from a direction at cosine `mu` it sends
 * back. Exact Fresnel when smooth, the table of scripts/fit-albedo.ts otherwise (error below 0.004, see the test).
 * @param mu 0..1
 * @param alpha GGX α, 0..1
 * @param eta relative index, at least 1 (values beyond 3 use 3)
 */
export function dielectricAlbedo(mu: number, alpha: number, eta: number): number {
  ALBEDO[0] = mu
  ALBEDO[1] = alpha
  ALBEDO[2] = eta
  askAlbedo()
  return ALBEDO[3]!
}

/**
 * Question and answer of {@link askAlbedo}: cosine, α, η, albedo. An array, because numbers passed to calls that
 * are not inlined are boxed.
 */
export const ALBEDO = new Float64Array(4)
/** The last question and its answer: a layer and the reflection above it ask the same. */
const last = new Float64Array(4).fill(NaN)

/** {@link dielectricAlbedo} of ALBEDO[0…2] into ALBEDO[3]. */
export function askAlbedo(): void {
  if (ALBEDO[0] === last[0] && ALBEDO[1] === last[1] && ALBEDO[2] === last[2]) {
    ALBEDO[3] = last[3]!
    return
  }
  last[0] = ALBEDO[0]!
  last[1] = ALBEDO[1]!
  last[2] = ALBEDO[2]!
  lookUpAlbedo()
  last[3] = ALBEDO[3]!
}

function lookUpAlbedo(): void {
  const mu = ALBEDO[0]!
  const alpha = ALBEDO[1]!
  const eta = ALBEDO[2]!
  if (alpha < SMOOTH_ALPHA) {
    ALBEDO[3] = fresnelDielectric(mu, eta)
    return
  }
  const x = Math.sqrt(mu) * (M - 1)
  const y = Math.sqrt(alpha) * (A - 1)
  const z = ((eta - 1) / (eta + 1) / F_MAX) * (F - 1)
  let i = x | 0
  let j = y | 0
  let k = z | 0
  if (i > M - 2) i = M - 2
  if (j > A - 2) j = A - 2
  if (k > F - 2) k = F - 2
  const fx = x - i
  const fy = y - j
  const fz = z - k > 1 ? 1 : z - k
  const o = (k * A + j) * M + i
  const p = o + A * M
  const e00 = E[o]! + (E[o + 1]! - E[o]!) * fx
  const e01 = E[o + M]! + (E[o + M + 1]! - E[o + M]!) * fx
  const e10 = E[p]! + (E[p + 1]! - E[p]!) * fx
  const e11 = E[p + M]! + (E[p + M + 1]! - E[p + M]!) * fx
  const e0 = e00 + (e01 - e00) * fy
  const e1 = e10 + (e11 - e10) * fy
  ALBEDO[3] = e0 + (e1 - e0) * fz
}

/** Cosine-weighted average of {@link dielectricAlbedo} over the hemisphere. */
export function dielectricAlbedoAverage(alpha: number, eta: number): number {
  const y = Math.sqrt(alpha) * (A - 1)
  const z = ((eta - 1) / (eta + 1) / F_MAX) * (F - 1)
  let j = y | 0
  let k = z | 0
  if (j > A - 2) j = A - 2
  if (k > F - 2) k = F - 2
  const fy = y - j
  const fz = z - k > 1 ? 1 : z - k
  const o = k * A + j
  const p = o + A
  const a = average[o]! + (average[o + 1]! - average[o]!) * fy
  const b = average[p]! + (average[p + 1]! - average[p]!) * fy
  return a + (b - a) * fz
}
