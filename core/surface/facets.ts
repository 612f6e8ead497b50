import table from './albedo.json'
import { FACET_AXES } from './albedo-axes'

const missing = Float64Array.from(table.facets.E, x => 1 - x)
const average = Float64Array.from(table.facets.average)
const M = FACET_AXES.mu
const A = FACET_AXES.alpha

/**
 * What GGX facets that reflect everything do not send back at the first meeting, by the table of
 * scripts/fit-albedo.ts.
 * @param mu cosine, 0..1
 * @param alpha 0..1
 */
export function facetsMissing(mu: number, alpha: number): number {
  const x = Math.sqrt(mu) * (M - 1)
  const y = Math.sqrt(alpha) * (A - 1)
  let i = x | 0
  let j = y | 0
  if (i > M - 2) i = M - 2
  if (j > A - 2) j = A - 2
  const fx = x - i
  const fy = y - j
  const o = j * M + i
  const a = missing[o]! + (missing[o + 1]! - missing[o]!) * fx
  const b = missing[o + M]! + (missing[o + M + 1]! - missing[o + M]!) * fx
  return a + (b - a) * fy
}

/** Cosine mean of what such facets send back. */
export function facetsAverage(alpha: number): number {
  const y = Math.sqrt(alpha) * (A - 1)
  let j = y | 0
  if (j > A - 2) j = A - 2
  return average[j]! + (average[j + 1]! - average[j]!) * (y - j)
}
