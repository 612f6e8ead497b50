/** Reflection of a dielectric interface seen from outside. */
import { fresnelDielectric } from '../../optics/fresnel'
import { accumulate, accumulateColoured } from '../accumulate'
import { askAlbedo } from '../albedo'
import { faceFresnel } from '../fresnel'
import { PASSAGE, UNDER_COAT } from '../lobe'
import { memory, now } from '../memory'
import { cosineWithin, mediumUnder } from '../medium'
import { askFacets, drawFacet, intoMedium, leavesHere } from '../microfacets'
import { layFilm, newLobe } from '../open-lobe'
import { ALBEDO, ASK, CLASS, FACET, LOBE, SPEC } from '../slots'
import { goSmooth } from '../smooth'
import { noted, nothing, rootAlpha, whenRough } from '../traits'
import { KIND } from './kinds'

const { albedo: known, ask, facet, lobes, spec } = memory

/** Weights, roughness, index, normal, grain and film are in `memory.spec`. */
export function pushReflection(layer: number): void {
  if (spec[SPEC.eta]! < 1) spec[SPEC.eta] = 1 / spec[SPEC.eta]!
  const o = newLobe(KIND.reflection, layer)
  if (o < 0) return
  known[ALBEDO.cosine] = cosineWithin(lobes[o + LOBE.cosine]!, lobes[o + LOBE.shrink]!)
  known[ALBEDO.alpha] = lobes[o + LOBE.alpha]!
  known[ALBEDO.eta] = lobes[o + LOBE.eta]!
  askAlbedo()
  lobes[o + LOBE.albedo] = known[ALBEDO.answer]!
  if (spec[SPEC.film]! > 0) {
    layFilm(o, mediumUnder(layer))
    lobes[o + LOBE.albedo] = Math.max(0.05, known[ALBEDO.answer]!)
  }
}

/** {@link pushReflection} of a coat, kept apart where radiance is kept by lobe. */
export function pushCoatReflection(layer: number): void {
  const before = now.lobes
  pushReflection(layer)
  if (now.lobes > before) lobes[before * LOBE.stride + LOBE.class] = CLASS.coat
}

export const passage = PASSAGE.far
export const underCoat = UNDER_COAT.mirrors
export const straight = nothing
export { noted as albedo, noted as guide, rootAlpha as roughness, whenRough as answers }

/**
 * Least albedo by which facets that reflect are picked. Tables tell it badly where light grazes an interior that
 * hardly differs: a sample of what they call nothing then weighs hundreds (largest of 8 million random samples: 368
 * before, 41 since).
 */
const LEAST = 0.02
export const pick = (o: number): number => Math.max(LEAST, lobes[o + LOBE.albedo]!)

export function evaluate(o: number): void {
  if (!now.reflected || facet[FACET.light]! <= 0 || lobes[o + LOBE.alpha] === 0 || !askFacets(o)) return
  ask[ASK.pdf] = facet[FACET.visible]!
  intoMedium(o)
  if (lobes[o + LOBE.spectral] === 1) {
    faceFresnel(o)
    ask[ASK.factor] = facet[FACET.shaped]!
    accumulateColoured(o)
  } else {
    ask[ASK.factor] = facet[FACET.shaped]! * fresnelDielectric(facet[FACET.cosine]!, lobes[o + LOBE.eta]!)
    accumulate(o)
  }
}

export function sample(o: number): boolean {
  if (!drawFacet(o) || !leavesHere()) return false
  if (lobes[o + LOBE.alpha] !== 0) return true
  goSmooth()
  intoMedium(o)
  if (lobes[o + LOBE.spectral] === 1) {
    faceFresnel(o)
    ask[ASK.factor] = 1
    accumulateColoured(o)
  } else {
    ask[ASK.factor] = fresnelDielectric(facet[FACET.cosine]!, lobes[o + LOBE.eta]!)
    accumulate(o)
  }
  return true
}
