/** Darkening below a coat by light that its inner face sends back. */
import { fresnelDielectric } from '../optics/fresnel'
import { dielectricAlbedo, dielectricAlbedoAverage } from './albedo'
import { askCoated, coated } from './coated'
import { slantOf, viewerCosine } from './layers'
import { UNDER_COAT } from './lobe'
import { albedoOfLobe, roughnessOfLobe, underCoatOfLobe } from './lobes/dispatch'
import { memory, now } from './memory'
import { CHANNELS, LAYER, LOBE, MAX_LOBES } from './slots'

const { layers, lobes } = memory

/**
 * Per channel, of all lobes: their albedo; what the coat sends back of it, of light that met them once and of what
 * comes again; the same through the tint; and Δ.
 */
const albedo = new Float64Array(CHANNELS)
const sent = new Float64Array(CHANNELS)
const sentAgain = new Float64Array(CHANNELS)
const kept = new Float64Array(CHANNELS)
const keptAgain = new Float64Array(CHANNELS)
const delta = new Float64Array(CHANNELS)

/** What is left of light that crosses the tint twice: of the mirrored direction, of all directions. */
const narrow = new Float64Array(CHANNELS)
const spread = new Float64Array(CHANNELS)
/** By lobe: one over what the layer lets through of its light on the average. */
const evened = new Float64Array(MAX_LOBES)

/** Most that is thrown back at a time: of all, the sum over all times would have no end. */
const MOST_BACK = 0.999

/**
 * Darkens the lobes from `first` on by light that the layer sends back to them from within. What leaves after one
 * meeting, after two, and so on, of albedo E: E(1 − K₁) + E·K₁·E(1 − K₂) + E·K₁·E·K₂·E(1 − K₂) … = E·Δ, with
 * Δ = 1 − K₁ + K₁·E(1 − K₂)/(1 − E·K₂); for K₁ = K₂ that is OpenPBR Surface 1.1, "Coat darkening". K₁ and K₂ of facets
 * are tabulated (`coated.ts`): what was sent back once lies outside of the cone that leaves for the most part, and
 * stays there. Of diffuse light both are 1 − (1 − F̄)/η².
 *
 * A tint takes its part of light on its way there and back, which the specification's formula leaves out: half of its
 * tint over white would come out 0.11 too bright. Diffuse light lies at cosines below the critical one µ for the most
 * part: its mean tint ∫ 2µ′F(µ′)c^(1/µ′)dµ′/K is (c^(1.08/µ) + c^(2.1/µ))/2 within 0.02 for indices from 1.3 to 2.5 and
 * all c.
 * @param weight of the surface before it was split into these lobes
 * @param amount 0..1, coat weight times darkening
 */
export function darkenFrom(first: number, layer: number, weight: number, amount: number): void {
  if (amount <= 0 || weight <= 0) return
  const o = layer * LAYER.stride
  const eta = layers[o + LAYER.eta]!
  const alpha = layers[o + LAYER.alpha]!
  const cos = viewerCosine(o)
  const mirror = fresnelDielectric(cos, eta)
  // what a rough face sends back more than a smooth one
  const rough = dielectricAlbedo(cos, alpha, eta) - mirror
  const enters = 1 - dielectricAlbedoAverage(alpha, eta)
  const diffuse = 1 - enters / (eta * eta)
  crossTwice(o, cos)
  albedo.fill(0)
  sent.fill(0)
  sentAgain.fill(0)
  kept.fill(0)
  keptAgain.fill(0)
  for (let i = first; i < now.lobes; i++) {
    const l = i * LOBE.stride
    // the face of a glass knows of its coat
    if (lobes[l + LOBE.coat]! > 0) continue
    const kind = lobes[l + LOBE.kind]!
    let back = diffuse
    let further = diffuse
    // how much of it lies at wide angles
    let wide = 1
    // the lesser of both ways is let through (`accumulate.ts`): on the average, in parts of what passes to the viewer
    let passes = 1
    switch (underCoatOfLobe(kind)) {
      case UNDER_COAT.mirrors:
        askCoated(cos, lobes[l + LOBE.alpha]!, eta)
        back = Math.min(MOST_BACK, Math.max(0, mirror + coated.first + rough))
        further = Math.min(MOST_BACK, Math.max(0, mirror + coated.further + rough))
        wide = back > mirror ? (back - mirror) / back : 0
        passes = coated.passes
        break
      case UNDER_COAT.again:
        passes = Math.min(1, enters / (1 - mirror))
        break
      case UNDER_COAT.passes:
        wide = roughnessOfLobe(kind, l)
        back = mirror + rough + (diffuse - mirror - rough) * wide
        further = back
        break
    }
    evened[i] = 1 + amount * (1 / passes - 1)
    for (let k = 0; k < CHANNELS; k++) {
      const a = lobes[l + LOBE.weight + k]! * lobes[l + LOBE.once]! * albedoOfLobe(kind, l, k)
      const through = narrow[k]! + (spread[k]! - narrow[k]!) * wide
      albedo[k]! += a
      sent[k]! += a * back
      sentAgain[k]! += a * further
      kept[k]! += a * back * through
      keptAgain[k]! += a * further * through
    }
  }
  for (let k = 0; k < CHANNELS; k++) {
    const all = albedo[k]!
    if (all <= 0) continue
    const E = Math.min(1, all / weight)
    const again = ((kept[k]! / all) * E * (1 - sentAgain[k]! / all)) / (1 - (E * keptAgain[k]!) / all)
    delta[k] = 1 + amount * (again - sent[k]! / all)
  }
  for (let i = first; i < now.lobes; i++) {
    const l = i * LOBE.stride
    if (lobes[l + LOBE.coat]! > 0) continue
    for (let k = 0; k < CHANNELS; k++) if (albedo[k]! > 0) lobes[l + LOBE.weight + k]! *= delta[k]! * evened[i]!
  }
}

/** Fills `narrow` and `spread` for the layer at o, seen at a cosine. */
function crossTwice(o: number, cos: number): void {
  narrow.fill(1)
  spread.fill(1)
  if (layers[o + LAYER.tinted] !== 1) return
  const eta = layers[o + LAYER.eta]!
  const slant = slantOf(cos, eta)
  // a coat in matter of its own index throws nothing back
  const steepest = 1 / Math.sqrt(Math.max(1e-4, 1 - 1 / (eta * eta)))
  for (let k = 0; k < CHANNELS; k++) {
    const log = layers[o + LAYER.log + k]!
    narrow[k] = Math.exp(slant * log)
    spread[k] = 0.5 * (Math.exp(1.08 * steepest * log) + Math.exp(2.1 * steepest * log))
  }
}
