/** The working memory of the functions that nodes call, one a thread, so that nothing is allocated a point. */
import { memory as expression } from '../expression/memory'

/** Points that a ramp or a curve may have. */
export const MOST_POINTS = 8

export const memory = {
  /** What a function or a network that gives several numbers leaves its result in. */
  result: expression.result,
  /** See `expression/memory.ts`. */
  slopes: expression.slopes,
  /** Positions of a curve's or ramp's points, then their values or colours. */
  knots: expression.knots,

  /** Of a noise: heights of the gradients' planes at the corners of the cell, x fastest; point and value. */
  corners: new Float64Array(8),
  noise: new Float64Array(4),
}
