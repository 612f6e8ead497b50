/** What a field is: what rays about a point, no longer than a radius, tell of it. */
import type { Side } from '../point/field-ask'

export interface Field {
  /** How rays are spread over a hemisphere: evenly, or by the cosine with the normal. */
  spread: 'even' | 'cosine'
  /** What one ray tells. @param t how far it came over the radius, 1 where it met nothing */
  tells(t: number): number
  /**
   * How much the means of what rays into the solid and out of it tell count in the field; rays of the side that does
   * not count are not asked for.
   */
  weights(side: Side): { inside: number; outside: number }
  /** Whether the field is a value over the radius, so that it has the unit 1/m. */
  overRadius: boolean
}
