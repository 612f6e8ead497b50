import table from './albedo.json'
import { F_MAX, GLASS_AXES } from './albedo-axes'
import { memory } from './memory'

const { cell: place } = memory

const missing = Float64Array.from(table.glass.E, x => 1 - x)
const mean = Float64Array.from(table.glass.average, x => 1 - x)
const M = GLASS_AXES.mu
const A = GLASS_AXES.alpha
const F = GLASS_AXES.eta

/** Corner of the table below (α, η); how far beyond it, into `memory.cell`. */
function locate(alpha: number, eta: number): number {
  const y = Math.sqrt(alpha) * (A - 1)
  const z = Math.min(1, Math.max(0, ((eta - 1) / (eta + 1) / F_MAX + 1) / 2)) * (F - 1)
  let j = y | 0
  let k = z | 0
  if (j > A - 2) j = A - 2
  if (k > F - 2) k = F - 2
  place[0] = y - j
  place[1] = z - k
  return k * A + j
}

/**
 * What rough glass neither sends back nor lets through at the first meeting with its facets, by the table of
 * scripts/fit-albedo.ts.
 * @param mu cosine, 0..1; alpha 0..1; eta index beyond over index on this side (clamped to 1/3…3)
 */
export function glassMissing(mu: number, alpha: number, eta: number): number {
  const o = locate(alpha, eta)
  const x = Math.sqrt(mu) * (M - 1)
  const fy = place[0]!
  const fz = place[1]!
  let i = x | 0
  if (i > M - 2) i = M - 2
  const fx = x - i
  const at = (corner: number) => {
    const c = corner * M + i
    return missing[c]! + (missing[c + 1]! - missing[c]!) * fx
  }
  const a = at(o) + (at(o + 1) - at(o)) * fy
  const b = at(o + A) + (at(o + A + 1) - at(o + A)) * fy
  return a + (b - a) * fz
}

/** Cosine mean of {@link glassMissing}. */
export function glassMissingAverage(alpha: number, eta: number): number {
  const o = locate(alpha, eta)
  const fy = place[0]!
  const fz = place[1]!
  const a = mean[o]! + (mean[o + 1]! - mean[o]!) * fy
  const b = mean[o + A]! + (mean[o + A + 1]! - mean[o + A]!) * fy
  return a + (b - a) * fz
}
