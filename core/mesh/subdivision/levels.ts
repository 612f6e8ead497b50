/** Most steps of subdivision: each makes four faces of one. */
export const MOST_LEVELS = 6

export interface Subdivision {
  /** Steps, 0 to {@link MOST_LEVELS}. */
  levels: number
  /** Edges of faces that meet at more than this stay sharp, degrees; none where it is left out. */
  crease?: number
}
