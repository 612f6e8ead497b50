/**
 * Adding and taking it away leaves what is a multiple of 2⁻³⁰: of a double this large the last binary digit
 * has that place.
 */
const ROUND = 1.5 * 2 ** 22

/**
 * A sample rounded to 2⁻³⁰, so that sums of passes are exact and do not depend on their order. The engine's
 * rounding call costs three times as much.
 */
export const rounded = (x: number): number => x + ROUND - ROUND
