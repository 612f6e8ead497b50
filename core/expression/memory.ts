/** What called functions work with, one a thread: arrays, so that nothing is allocated a point. */
export const memory = {
  /** What a function, or a network that gives several numbers, leaves them in. */
  result: new Float64Array(11),
  /** Lists that functions are handed. */
  knots: new Float64Array(32),
}
