/**
 * The cone that a path stands for: how wide it is where the path is, and how fast it spreads (Amanatides 1984; on
 * paths of several bounces Akenine-Möller et al. 2021, "Improved Shader and Texture Level of Detail Using Ray
 * Cones", §2–4: width, spread, change by curvature). Mirrors and glass bend it by the paraxial laws of mirrors and of
 * lenses; below 0 it narrows. A direction that was drawn stands for its share of all that could have been.
 */
import { curvatureAt } from '../point/footprint'
import { now, scattered } from '../surface/memory'
import { PASSAGE } from '../surface/lobe'
import { memory } from './memory'

const { coneRadius, coneSpread } = memory

/** Paths that are taken to share the directions that could be drawn: what one stands for stays small beside them. */
const SHARING = 64
/** Widest spread that a drawn direction gives: half of it is about that of a hemisphere's share. */
const WIDEST = 0.5
/** Spread of a direction that a medium draws. */
export const MEDIUM_SPREAD = Math.sqrt(4 / SHARING)

/** Begins a path's cone at the camera. @param spread growth of its radius over its length */
export function beginCone(path: number, spread: number): void {
  coneRadius[path] = 0
  coneSpread[path] = spread
}

/** Radius of the cone at a distance from where the path is. */
export const radiusAt = (path: number, distance: number): number =>
  Math.abs(coneRadius[path]! + coneSpread[path]! * distance)

/** Takes the cone along. What narrowed to a point spreads behind it. */
export function advanceCone(path: number, distance: number): void {
  const r = coneRadius[path]! + coneSpread[path]! * distance
  coneRadius[path] = Math.abs(r)
  if (r < 0) coneSpread[path] = -coneSpread[path]!
}

/** Spread that a direction brings with it which was drawn by a density, per steradian. */
export const spreadOfDrawn = (density: number): number =>
  density > 0 ? Math.min(WIDEST, Math.sqrt(1 / (Math.PI * density * SHARING))) : WIDEST

/** Bends the cone of a path by what was just drawn at S (`scattered`), seen as the surface under way is. */
export function bendCone(path: number, S: Float64Array): void {
  const spread = coneSpread[path]!
  if (!scattered.smooth) {
    // what is drawn spreads more than any curvature turns it
    coneSpread[path] = Math.abs(spread) + spreadOfDrawn(scattered.pdf)
    return
  }
  const curvature = curvatureAt(S)
  const turn = (now.outside ? curvature : -curvature) * coneRadius[path]!
  if (!scattered.transmitted) coneSpread[path] = spread + 2 * turn
  else if (scattered.passage === PASSAGE.glass && now.glass > 0) {
    const eta = now.outside ? now.surround / now.glass : now.glass / now.surround
    coneSpread[path] = eta * spread + (eta - 1) * turn
  }
}
