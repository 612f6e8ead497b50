/** What called functions work with, one a thread: arrays, so that nothing is allocated a point. */
export const memory = {
  /** What a function, or a network that gives several numbers, leaves them in. */
  result: new Float64Array(4),
  /** A displacement at the point and beside it: three times three numbers, then the two steps. */
  slopes: new Float64Array(11),
  /** Lists that functions are handed. */
  knots: new Float64Array(32),
}
