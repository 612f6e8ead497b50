/** Directions drawn in proportion to their cosine, and lobes that pass all of their light one way. */
import { accumulateThrough, clearValue } from './accumulate'
import { CIRCLE, onCircle } from './circle'
import { buildFrame, toWorld } from './frame'
import { memory, now, scattered } from './memory'
import { ASK, LOBE } from './slots'

const { ask, lobes } = memory

/**
 * Draws a direction about the normal of the lobe at o by ask[u, v], on the viewer's side or the far one.
 * @returns false where the geometry is in its way
 */
export function drawCosine(o: number, far: boolean): boolean {
  const u = ask[ASK.u]!
  onCircle(ask[ASK.v]!)
  const r = Math.sqrt(u)
  const z = Math.sqrt(Math.max(0, 1 - u))
  const x = r * CIRCLE[0]!
  const y = r * CIRCLE[1]!
  buildFrame(o)
  toWorld(x, y, far ? -z : z, lobes[o + LOBE.nx]!, lobes[o + LOBE.ny]!, lobes[o + LOBE.nz]!)
  const side = scattered.x * now.gx + scattered.y * now.gy + scattered.z * now.gz
  if (far ? side >= 0 : side <= 0) return false
  scattered.transmitted = far
  return true
}

/** A lobe that answers no given direction: all of it goes the way that was drawn. */
export function passWhole(o: number): boolean {
  scattered.smooth = true
  scattered.transmitted = true
  clearValue()
  ask[ASK.factor] = 1
  accumulateThrough(o, false)
  return true
}
