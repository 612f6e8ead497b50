/** Draws of paths in matter. */
import { hash2 } from './hash'
import { memory, tile } from './memory'
import { draw2 } from './sampler'
import { PAIR } from './slots'

const { drawn, places, seeds, steps } = memory

/** Steps that paths go together; from then on draws are hashes of their own, for the tile has no points for so many. */
export const TOGETHER = 32

const TO_UNIT = 2 ** -32
/** Bounces that have pairs of their own for light that is asked for along a way. */
const BOUNCES = 255

/** Two draws of a path in matter, into `drawn`. @param what of the pair's uses */
export function drawInMatter(path: number, bounce: number, what: number): void {
  const step = steps[path]!
  if (step <= TOGETHER) {
    const pair =
      what < PAIR.stride
        ? PAIR.first + bounce * PAIR.stride + what
        : PAIR.within + (bounce & BOUNCES) * 2 + what - PAIR.stride
    draw2(places[path]!, seeds[path]!, pair)
    return
  }
  const h = hash2(hash2(seeds[path]!, tile.pass), step * 16 + what)
  drawn[0] = (h >>> 0) * TO_UNIT
  drawn[1] = (hash2(h, what + 1) >>> 0) * TO_UNIT
}
