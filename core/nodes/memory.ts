/**
 * The working memory of compiled networks, one a thread: what functions that give several numbers leave their
 * result in, and what they are handed lists in. Arrays, so that nothing is allocated a point.
 */

/** Points that a ramp or a curve may have. */
export const MOST_POINTS = 8

export const memory = {
  /** What a function or a network that gives several numbers leaves its result in. */
  result: new Float64Array(4),
  /** Positions of a curve's or ramp's points, then their values or colours. */
  knots: new Float64Array(MOST_POINTS * 4),

  /** Of a noise: heights of the gradients' planes at the corners of the cell, x fastest; point and value. */
  corners: new Float64Array(8),
  noise: new Float64Array(4),
}
