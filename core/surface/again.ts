/**
 * Light that meets microfacets again and again (Kulla & Conty 2017, "Revisiting Physically Based Shading", §2).
 */
import { memory } from './memory'
import { LOBE } from './slots'

const { lobes } = memory

/** Least share of the light that is lost between the facets for which its return is computed. */
export const MISSED = 0.001

/**
 * Weight of what is reflected again and again between facets: all further meetings at reflectance F, of which the
 * share `average` of each gets out.
 */
export const again = (weight: number, F: number, average: number): number =>
  (weight * F * F * average) / (1 - F * (1 - average))

/**
 * How much of what facets of the root mean square of both α miss, stretched ones miss in a direction. A fit from
 * below to sums of drawn normals at α 0.49 and 0.15 (no source): the test holds it to never give more light than
 * there is, over roughness and anisotropy.
 */
export function grainShare(o: number, x: number, y: number, z: number): number {
  const t = x * lobes[o + LOBE.tx]! + y * lobes[o + LOBE.tx + 1]! + z * lobes[o + LOBE.tx + 2]!
  const b = x * lobes[o + LOBE.bx]! + y * lobes[o + LOBE.bx + 1]! + z * lobes[o + LOBE.bx + 2]!
  const ax = lobes[o + LOBE.ax]!
  const ay = lobes[o + LOBE.ay]!
  const stretch = (ax * ax - ay * ay) / (ax * ax + ay * ay)
  const s2 = t * t + b * b
  const mu = Math.sqrt(Math.max(0, 1 - s2))
  const turn = Math.max(0, s2 > 1e-9 ? (t * t - b * b) / s2 : 0)
  return (1 - 0.072 * stretch) * (1 - 0.33 * stretch * (1 - mu) * turn)
}
