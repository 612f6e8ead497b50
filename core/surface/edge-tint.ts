import { fresnelConductor } from '../optics/fresnel'

/**
 * Tint at the edge (82°) that makes the F82 form agree with a conductor's exact reflectance there (Kutz et al.
 * 2021, eq. 5).
 */
export function edgeTint(n: number, k: number): number {
  const f0 = fresnelConductor(1, n, k)
  const mu = 1 / 7
  return Math.min(1, fresnelConductor(mu, n, k) / (f0 + (1 - f0) * (1 - mu) ** 5))
}
