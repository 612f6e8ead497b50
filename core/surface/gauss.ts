/**
 * Gauss–Legendre nodes and weights of five points on 0..1. Over µ² they give cosine means: ∫ 2µ·f(µ) dµ.
 */
export const GAUSS_X: readonly number[] = [
  0.046910077030668, 0.2307653449471585, 0.5, 0.7692346550528415, 0.953089922969332,
]
export const GAUSS_W: readonly number[] = [
  0.1184634425280945, 0.2393143352496832, 0.2844444444444444, 0.2393143352496832, 0.1184634425280945,
]
