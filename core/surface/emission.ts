/** Light that a surface sends out. */
import { memory, now } from './memory'
import { CHANNELS, LAYER } from './slots'
import { spread } from './spread'

const { basis, emission, layers } = memory

/** Adds light sent out from under `layer` (−1: from the surface itself), RGB radiance relative to D65. */
export function pushEmission(layer: number, r: number, g: number, b: number): void {
  if (!(r > 0 || g > 0 || b > 0)) return
  const y = layer * LAYER.stride
  for (let k = 0; k < CHANNELS; k++) {
    const colour =
      k < 4 ? basis[k * 3]! * r + basis[k * 3 + 1]! * g + basis[k * 3 + 2]! * b : k === 4 ? r : k === 5 ? g : b
    emission[k]! += colour * (layer >= 0 ? layers[y + LAYER.pass]! * layers[y + LAYER.tint + k]! : 1)
  }
}

/**
 * {@link pushEmission} within a cone about a normal (the standard's conical_edf): whole up to half the inner
 * angle, none beyond half the outer.
 * @param inner full angle, degrees
 */
export function pushConicalEmission(
  layer: number,
  r: number,
  g: number,
  b: number,
  nx: number,
  ny: number,
  nz: number,
  inner: number,
  outer: number,
): void {
  const cos = nx * now.ox + ny * now.oy + nz * now.oz
  const from = Math.cos((Math.min(360, Math.max(0, Math.max(inner, outer))) * Math.PI) / 360)
  const to = Math.cos((Math.min(360, Math.max(0, inner)) * Math.PI) / 360)
  if (cos < from) return
  const t = cos >= to ? 1 : (cos - from) / (to - from)
  const s = t * t * (3 - 2 * t)
  pushEmission(layer, r * s, g * s, b * s)
}

/**
 * Shows a number or colour as light sent out, the same from every side: what a tap on a node displays. Negative
 * values stay negative.
 */
export function tap(r: number, g: number, b: number): void {
  spread(emission, 0, r, g, b)
}
