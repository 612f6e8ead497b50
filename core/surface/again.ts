/**
 * Light that meets microfacets again and again (Kulla & Conty 2017, "Revisiting Physically Based Shading", §2).
 */
/** Least share of the light that is lost between the facets for which its return is computed. */
export const MISSED = 0.001

/**
 * Weight of what is reflected again and again between facets: all further meetings at reflectance F, of which the
 * share `average` of each gets out.
 */
export const again = (weight: number, F: number, average: number): number =>
  (weight * F * F * average) / (1 - F * (1 - average))
