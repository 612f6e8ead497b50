import table from './albedo.json'
import { AXES, F_MAX } from './albedo-axes'
import { fresnelDielectric } from '../optics/fresnel'
import { SMOOTH_ALPHA } from './ggx'
import { memory } from './memory'
import { ALBEDO } from './slots'

const { albedo, lastAlbedo: last } = memory

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
  albedo[ALBEDO.cosine] = mu
  albedo[ALBEDO.alpha] = alpha
  albedo[ALBEDO.eta] = eta
  askAlbedo()
  return albedo[ALBEDO.answer]!
}

/** {@link dielectricAlbedo} of the question in `memory.albedo`. */
export function askAlbedo(): void {
  if (
    albedo[ALBEDO.cosine] === last[ALBEDO.cosine] &&
    albedo[ALBEDO.alpha] === last[ALBEDO.alpha] &&
    albedo[ALBEDO.eta] === last[ALBEDO.eta]
  ) {
    albedo[ALBEDO.answer] = last[ALBEDO.answer]!
    return
  }
  last[ALBEDO.cosine] = albedo[ALBEDO.cosine]!
  last[ALBEDO.alpha] = albedo[ALBEDO.alpha]!
  last[ALBEDO.eta] = albedo[ALBEDO.eta]!
  lookUpAlbedo()
  last[ALBEDO.answer] = albedo[ALBEDO.answer]!
}

function lookUpAlbedo(): void {
  const mu = albedo[ALBEDO.cosine]!
  const alpha = albedo[ALBEDO.alpha]!
  const eta = albedo[ALBEDO.eta]!
  if (alpha < SMOOTH_ALPHA) {
    albedo[ALBEDO.answer] = fresnelDielectric(mu, eta)
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
  albedo[ALBEDO.answer] = e0 + (e1 - e0) * fz
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
