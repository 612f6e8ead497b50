/** What lobes and layers lie in: under a coat light comes at the angle it was bent to, out of the coat's matter. */
import { memory, now } from './memory'
import { LAYER } from './slots'

const { layers } = memory

/** Index of the matter right below a layer, −1 for none: absolute, of what surrounds the surface where no coat does. */
export const mediumUnder = (layer: number): number =>
  layer < 0 ? now.surround : layers[layer * LAYER.stride + LAYER.medium]!

/** Square of that index over that of what surrounds the surface: how sines shrink on the way there. */
export function shrinkUnder(layer: number): number {
  const ratio = mediumUnder(layer) / now.surround
  return ratio * ratio
}

/**
 * Cosine in a medium below plane faces of light that has the cosine `cos` outside (Snell).
 * @param shrink square of the medium's index over that outside
 */
export function cosineWithin(cos: number, shrink: number): number {
  if (shrink === 1) return cos
  const c2 = 1 - (1 - cos * cos) / shrink
  return c2 > 1e-10 ? Math.sqrt(c2) : 1e-5
}
