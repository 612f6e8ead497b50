/** What fills the inside of a glass. */
import { CHANNELS, interior, interiorAlbedo, now, spread } from './state'

/** Fills the inside of a glass by coefficients, 1/m: absorption and scattering of each component, and the mean cosine of the latter. */
export function setCoefficients(ar: number, ag: number, ab: number, sr: number, sg: number, sb: number, cosine: number): void {
  sr = Math.max(0, sr); sg = Math.max(0, sg); sb = Math.max(0, sb)
  // coefficients, not colours: their spectrum is the smooth mean of the three
  spread(interior, 0, Math.max(0, ar) + sr, Math.max(0, ag) + sg, Math.max(0, ab) + sb)
  now.fillDepth = 0
  now.fills = sr > 0 || sg > 0 || sb > 0 ? 2 : 1
  if (now.fills === 1) return
  spread(interiorAlbedo, 0, sr, sg, sb)
  for (let k = 0; k < CHANNELS; k++) interiorAlbedo[k] = interior[k]! > 0 ? Math.min(1, interiorAlbedo[k]! / interior[k]!) : 0
  now.interiorG = Math.max(-0.99, Math.min(0.99, cosine))
}

/**
 * Fills the inside of a glass: colour (r, g, b) is what is left after `depth` metres (Beer–Lambert).
 * @param sr what scatters (OpenPBR "Transmission": µs = transmission_scatter/depth; absorption below zero is lifted to zero for all components alike)
 * @param g mean cosine of the scattering
 */
export function setInterior(r: number, g: number, b: number, depth: number, sr = 0, sg = 0, sb = 0, cosine = 0): void {
  let tr = -Math.log(Math.min(1, Math.max(1e-6, r))) / depth, tg = -Math.log(Math.min(1, Math.max(1e-6, g))) / depth, tb = -Math.log(Math.min(1, Math.max(1e-6, b))) / depth
  if (sr > 0 || sg > 0 || sb > 0) {
    const least = Math.min(tr - sr / depth, tg - sg / depth, tb - sb / depth)
    if (least < 0) { tr -= least; tg -= least; tb -= least }
    setCoefficients(tr - sr / depth, tg - sg / depth, tb - sb / depth, sr / depth, sg / depth, sb / depth, cosine)
    return
  }
  // the logarithms wait until light goes in: most of what meets a glass is only looked at
  spread(interior, 0, r, g, b)
  now.fillDepth = depth
  now.fills = 1
}

/** Turns what {@link setInterior} said into extinctions, 1/m. Once a surface, before they are read. */
export function settleInterior(): void {
  if (now.fillDepth === 0) return
  for (let k = 0; k < CHANNELS; k++) interior[k] = -Math.log(Math.min(1, Math.max(1e-6, interior[k]!))) / now.fillDepth
  now.fillDepth = 0
}
