/** The working memory of this room, one a thread. */
export const memory = {
  /** How a hit's place in its triangle moves as its coordinates grow, see RATE of `fill-rates.ts`. */
  rates: new Float64Array(4),
  /** A direction of a copy's mesh, turned into the scene. */
  turned: new Float64Array(3),
}
