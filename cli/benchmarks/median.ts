/** Middle one of some figures, the higher of two; NaN where there are none. */
export const median = (figures: readonly number[]): number =>
  [...figures].sort((a, b) => a - b)[figures.length >> 1] ?? NaN
