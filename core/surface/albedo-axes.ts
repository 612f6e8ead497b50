/** Axes of the albedo table: cosine (quadratic towards grazing), roughness √α, and f = (η − 1)/(η + 1) = √F₀. */
export const AXES = { mu: 32, alpha: 24, eta: 16 }
/** Largest f of the table: η about 3. */
export const F_MAX = 0.5

export const muOf = (i: number) => (i / (AXES.mu - 1)) ** 2
export const alphaOf = (i: number) => (i / (AXES.alpha - 1)) ** 2
export const etaOf = (i: number) => { const f = i / (AXES.eta - 1) * F_MAX; return (1 + f) / (1 - f) }
