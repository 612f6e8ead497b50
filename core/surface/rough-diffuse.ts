/**
 * Energy-preserving Oren–Nayar reflection (Portsmouth, Kutz & Hill 2024, "EON: A Practical Energy-Preserving
 * Rough Diffuse BRDF"): their F_ON, its albedo and what is reflected again between facets. r is their roughness,
 * 0..1; cosines for angles.
 */
const ONE = 0.5 - 2 / (3 * Math.PI)
const TWO = 2 / 3 - 28 / (15 * Math.PI)

/** Â(r), eq. 14: the share of a facet's plain Lambertian reflection. */
export const roughDiffuseScale = (r: number): number => 1 / (1 + ONE * r)

/** Directional albedo of the single reflection from white facets, exact (eq. 25). @param mu cosine, 0..1 */
export function roughDiffuseAlbedo(mu: number, r: number): number {
  const A = roughDiffuseScale(r)
  const m = Math.max(mu, 1e-4)
  const s = Math.sqrt(Math.max(0, 1 - m * m))
  const G = s * (Math.acos(m) - s * m) + (2 / 3) * ((s / m) * (1 - s * s * s) - s)
  return A + ((r * A) / Math.PI) * G
}

/** Cosine mean of {@link roughDiffuseAlbedo} (eq. 17). */
export const roughDiffuseAverage = (r: number): number => roughDiffuseScale(r) * (1 + TWO * r)

/**
 * Shape of the single reflection: π·f for reflectance 1 (eq. 16).
 * @param ci cosine of one direction; co of the other; d cosine between the two
 */
export function roughDiffuseShape(ci: number, co: number, d: number, r: number): number {
  const s = d - ci * co
  return roughDiffuseScale(r) * (1 + r * (s > 0 ? s / Math.max(ci, co) : s))
}
