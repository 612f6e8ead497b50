/** What a network asks of the shape around a point. */

/** Which of the two sides of a surface counts. */
export type Side = 'convex' | 'concave' | 'both'
export const SIDES: readonly Side[] = ['convex', 'concave', 'both']

/** A field; its radius, metres, is found at each point. */
export interface FieldAsk {
  /** A name of `core/fields/index.ts`. */
  field: string
  side: Side
}
