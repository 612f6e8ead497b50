/** What fills the inside of a glass. */
import { memory, now } from './memory'
import { CHANNELS } from './slots'
import { spread } from './spread'

const { interior, interiorAlbedo } = memory

/**
 * Fills the inside of a glass by coefficients, 1/m: absorption and scattering of each component, and the mean
 * cosine of the latter.
 */
export function setCoefficients(
  ar: number,
  ag: number,
  ab: number,
  sr: number,
  sg: number,
  sb: number,
  cosine: number,
): void {
  sr = Math.max(0, sr)
  sg = Math.max(0, sg)
  sb = Math.max(0, sb)
  // coefficients, not colours: their spectrum is the smooth mean of the three
  spread(interior, 0, Math.max(0, ar) + sr, Math.max(0, ag) + sg, Math.max(0, ab) + sb)
  now.fillDepth = 0
  now.fills = sr > 0 || sg > 0 || sb > 0 ? 2 : 1
  if (now.fills === 1) return
  spread(interiorAlbedo, 0, sr, sg, sb)
  for (let k = 0; k < CHANNELS; k++)
    interiorAlbedo[k] = interior[k]! > 0 ? Math.min(1, interiorAlbedo[k]! / interior[k]!) : 0
  now.interiorG = Math.max(-0.99, Math.min(0.99, cosine))
}

/**
 * Fills the inside of a glass: colour (r, g, b) is what is left after `depth` metres (Beer–Lambert). The
 * logarithms wait until light goes in: most of what meets a glass is only looked at.
 */
export function setInterior(r: number, g: number, b: number, depth: number): void {
  spread(interior, 0, r, g, b)
  now.fillDepth = depth
  now.fills = 1
}

/**
 * {@link setInterior} of what scatters too (OpenPBR "Transmission": µs = transmission_scatter/depth; absorption
 * below zero is lifted to zero for all components alike).
 * @param sr what scatters, per component
 * @param cosine mean cosine of the scattering
 */
export function setMilkyInterior(
  r: number,
  g: number,
  b: number,
  depth: number,
  sr: number,
  sg: number,
  sb: number,
  cosine: number,
): void {
  const ar = (-Math.log(Math.min(1, Math.max(1e-6, r))) - sr) / depth
  const ag = (-Math.log(Math.min(1, Math.max(1e-6, g))) - sg) / depth
  const ab = (-Math.log(Math.min(1, Math.max(1e-6, b))) - sb) / depth
  const lift = Math.max(0, -Math.min(ar, ag, ab))
  setCoefficients(ar + lift, ag + lift, ab + lift, sr / depth, sg / depth, sb / depth, cosine)
}

/** Turns what {@link setInterior} said into extinctions, 1/m. Once a surface, before they are read. */
export function settleInterior(): void {
  if (now.fillDepth === 0) return
  for (let k = 0; k < CHANNELS; k++)
    interior[k] = -Math.log(Math.min(1, Math.max(1e-6, interior[k]!))) / now.fillDepth
  now.fillDepth = 0
}
