/** How finely a part is cut before it is displaced. */
import type { Part } from '../mesh/model'
import { trianglesFor } from '../mesh/tessellate'
import { usualEdge } from './usual-edge'

/** Bytes of a displaced triangle, all told, while it is made. */
const BYTES = 320
/** Memory that displaced parts may take while they are made, bytes, and triangles of a part where nobody asks. */
export const USUAL_ROOM = 2 * 2 ** 30
const USUAL_TRIANGLES = 150_000

/** Shortest edge of a part that has no size, metres. */
const LEAST = 1e-6
/** Most tries at an edge that fits. */
const ROUNDS = 20

/** Longest edges of a part's triangles, and what came in the way of what was asked for. */
export interface Density {
  /** Metres. */
  edge: number
  /** What was asked for, where memory did not allow it. */
  wanted?: number
}

/** Longest side of the box about a part, metres. */
export function longestSide({ position }: Part): number {
  let longest = 0
  for (let k = 0; k < 3; k++) {
    let low = Infinity
    let high = -Infinity
    for (let i = k; i < position.length; i += 3) {
      low = Math.min(low, position[i]!)
      high = Math.max(high, position[i]!)
    }
    longest = Math.max(longest, high - low)
  }
  return longest
}

/**
 * The edge that a part is cut to.
 * @param asked metres; by the part's size where it is left out
 * @param room bytes that it may take
 */
export function densityOf(part: Part, asked: number | undefined, room = USUAL_ROOM): Density {
  const wanted = asked ?? Math.max(LEAST, usualEdge(longestSide(part)))
  const most = Math.min(room / BYTES, asked === undefined ? USUAL_TRIANGLES : Infinity)
  let edge = wanted
  // what was there before stays there, however long edges may be
  for (let needed = trianglesFor(part, edge), round = 0; needed > most && round < ROUNDS; round++) {
    edge *= Math.max(1.1, Math.sqrt(needed / most))
    needed = trianglesFor(part, edge)
  }
  return asked === undefined || edge === wanted ? { edge } : { edge, wanted }
}
