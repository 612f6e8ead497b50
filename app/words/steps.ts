/** Steps of a test strip. */
const STEPS = 5

/**
 * Values to try of a number: evenly over its range where it has one, else from half to twice what it is. One of
 * them is the value itself.
 * @param low and high of the range; infinite where there is none
 */
export function stepsOf(value: number, low: number, high: number): number[] {
  const bounded = Number.isFinite(low) && Number.isFinite(high)
  const even = Array.from({ length: STEPS }, (_, i) =>
    bounded ? low + ((high - low) * i) / (STEPS - 1) : value === 0 ? i / (STEPS - 1) : value * 2 ** ((i - 2) / 2),
  )
  // the step nearest to what is there gives way to it
  let nearest = 0
  even.forEach((v, i) => {
    if (Math.abs(v - value) < Math.abs(even[nearest]! - value)) nearest = i
  })
  even[nearest] = value
  return even.map(v => +v.toPrecision(4))
}
