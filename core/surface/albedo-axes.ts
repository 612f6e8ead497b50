/**
 * Axes of the albedo table: cosine (quadratic towards grazing), roughness √α, and f = (η − 1)/(η + 1) =
 * √F₀.
 */
export const AXES = { mu: 32, alpha: 24, eta: 16 }
/** Axes of the table of facets that reflect everything: cosine and α, spaced alike. */
export const FACET_AXES = { mu: 40, alpha: 40 }
/**
 * Axes of the table of stretched facets that reflect everything: cosine and α along the grain, spaced alike; the angle
 * from the grain, 0 to a right one; α across it over that along it, 0 to 1, its root.
 */
export const GRAIN_AXES = { mu: 20, alpha: 12, angle: 6, ratio: 7 }
/**
 * Axes of the table of rough glass seen from either side: cosine, α, and f = (η − 1)/(η + 1) from −{@link
 * F_MAX} to it.
 */
export const GLASS_AXES = { mu: 20, alpha: 16, eta: 17 }
/**
 * Axes of the tables of facets below a coat: root of the cosine above it, √α, and f from 0 to {@link F_MAX}.
 */
export const COATED_AXES = { mu: 16, alpha: 14, eta: 9 }
/** Largest f of the table: η about 3. */
export const F_MAX = 0.5
