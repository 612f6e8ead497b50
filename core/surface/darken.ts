/** Darkening below a coat by light that its inner face sends back. */
import { dielectricAlbedo, dielectricAlbedoAverage } from './albedo'
import { slantOf, viewerCosine } from './layers'
import { albedoOfLobe, roughnessOfLobe } from './lobes/dispatch'
import { memory, now } from './memory'
import { CHANNELS, LAYER, LOBE } from './slots'

const { layers, lobes } = memory

/**
 * Darkens the lobes from `first` on by light that the layer sends back to them from within (OpenPBR Surface 1.1,
 * "Coat darkening": Δ = (1 − K)/(1 − E·K), with K between the mirror-like and the diffuse internal
 * reflection; in the denominator with what a tint leaves of light on its way there and back, which the
 * specification's formula leaves out: half of its tint over white would come out 0.11 too bright). Diffuse light
 * lies at cosines below the critical one µ for the most part: its mean tint ∫ 2µ′F(µ′)c^(1/µ′)dµ′/K
 * is (c^(1.08/µ) + c^(2.1/µ))/2 within 0.02 for indices from 1.3 to 2.5 and all c.
 * @param weight of the surface before it was split into these lobes
 * @param amount 0..1, coat weight times darkening
 */
export function darkenFrom(first: number, layer: number, weight: number, amount: number): void {
  if (amount <= 0 || weight <= 0) return
  const o = layer * LAYER.stride
  const eta = layers[o + LAYER.eta]!
  const alpha = layers[o + LAYER.alpha]!
  const mirror = dielectricAlbedo(viewerCosine(o), alpha, eta)
  const diffuse = 1 - (1 - dielectricAlbedoAverage(alpha, eta)) / (eta * eta)
  const tinted = layers[o + LAYER.tinted] === 1
  const slant = slantOf(viewerCosine(o), eta)
  const steepest = 1 / Math.sqrt(1 - 1 / (eta * eta))
  for (let k = 0; k < CHANNELS; k++) {
    let albedo = 0
    let rough = 0
    let total = 0
    for (let i = first; i < now.lobes; i++) {
      const l = i * LOBE.stride
      const kind = lobes[l + LOBE.kind]!
      const a = lobes[l + LOBE.weight + k]! * lobes[l + LOBE.once]! * albedoOfLobe(kind, l, k)
      albedo += a
      total += a
      rough += a * roughnessOfLobe(kind, l)
    }
    if (total <= 0) continue
    const f = rough / total
    const K = mirror + (diffuse - mirror) * f
    const log = layers[o + LAYER.log + k]!
    // what comes back has crossed the tint twice more
    const returns = tinted
      ? (1 - f) * mirror * Math.exp(slant * log) +
        f * diffuse * 0.5 * (Math.exp(1.08 * steepest * log) + Math.exp(2.1 * steepest * log))
      : K
    const E = Math.min(1, albedo / weight)
    const delta = 1 + amount * ((1 - K) / (1 - E * returns) - 1)
    for (let i = first; i < now.lobes; i++) lobes[i * LOBE.stride + LOBE.weight + k]! *= delta
  }
}
