import type { Field } from './field'

const WEIGHT = 8 / 3

/**
 * Mean curvature by the ball integral invariant (Pottmann, Wallner, Huang & Yang 2009, "Integral invariants for robust
 * geometry processing"): the solid inside a ball of radius r about a point of its surface is
 * V = 2π/3·r³ − π/4·H·r⁴ + O(r⁵). A ray into the solid that leaves after t fills t³ of its cone instead of r³, one out
 * of it that meets the solid at t adds r³ − t³, so H·r = 8/3·(I − O) with the means I and O of 1 − (t/r)³. Networks see
 * H·r: 0 on a plane, 1 on a sphere of that radius, 4/3 on a right-angled edge. Convex is I alone, concave O
 * alone, both their difference.
 */
export const curvature: Field = {
  spread: 'even',
  tells: t => 1 - t * t * t,
  weights: side => ({
    inside: side === 'concave' ? 0 : WEIGHT,
    outside: side === 'convex' ? 0 : side === 'concave' ? WEIGHT : -WEIGHT,
  }),
  overRadius: true,
}
