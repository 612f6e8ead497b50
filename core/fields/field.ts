/** What a field is: what rays about a point, no longer than a radius, tell of it. */

/** Which of the two sides of a surface counts. */
export type Side = 'convex' | 'concave' | 'both'
export const SIDES: readonly Side[] = ['convex', 'concave', 'both']

export interface Field {
  /** Whether rays into the solid, and rays out of it, are asked for. */
  asks(side: Side): { inside: boolean; outside: boolean }
  /** How rays are spread over a hemisphere: evenly, or by the cosine with the normal. */
  spread: 'even' | 'cosine'
  /** What one ray tells. @param t how far it came over the radius, 1 where it met nothing @param inside which way */
  tells(t: number, inside: boolean): number
  /** The field of what rays tell in the mean, inside and outside. @param radius metres */
  of(inside: number, outside: number, radius: number): number
}
