import type { Field } from './field'

/**
 * Mean curvature, 1/m, by the ball integral invariant (Pottmann, Wallner, Huang & Yang 2009, "Integral invariants for
 * robust geometry processing"): the solid inside a ball of radius r about a point of its surface is
 * V = 2π/3·r³ − π/4·H·r⁴ + O(r⁵). A ray into the solid that leaves after t fills t³ of its cone instead of r³, one out
 * of it that meets the solid at t adds r³ − t³, so H·r = 8/3·(I − O) with the means I and O of 1 − (t/r)³.
 */
export const curvature: Field = {
  asks: side => ({ inside: side !== 'concave', outside: side !== 'convex' }),
  spread: 'even',
  tells: t => 1 - t * t * t,
  of: (inside, outside, radius) => ((8 / 3) * (inside - outside)) / radius,
}
