/** Masking of facets that light passes, on both of their sides. */

/**
 * ln Γ(x) for x ≥ 1, by Stirling's series after five steps of Γ(x + 1) = x·Γ(x) (Abramowitz & Stegun 1964, 6.1.15 and
 * 6.1.41): 1e-9.
 */
function lnGamma(x: number): number {
  const y = x + 5
  const i = 1 / y
  const i2 = i * i
  return (
    (y - 0.5) * Math.log(y) -
    y +
    0.9189385332046727 +
    i * (1 / 12 - i2 * (1 / 360 - i2 / 1260)) -
    Math.log(x * (x + 1) * (x + 2) * (x + 3) * (x + 4))
  )
}

/**
 * Chance that a facet is seen from one side and from the other by two directions of which one passes it: B(1 + Λ₁,
 * 1 + Λ₂) of Euler's beta function (Heitz et al. 2016, §5.3), for heights that see much of one side see little of the
 * other.
 */
export const seenFromBothSides = (l1: number, l2: number): number =>
  Math.exp(lnGamma(1 + l1) + lnGamma(1 + l2) - lnGamma(2 + l1 + l2))
