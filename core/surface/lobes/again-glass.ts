/**
 * Light that meets the facets of rough glass more than once (Kulla & Conty 2017, §2.3): what the first meeting
 * misses leaves diffusely on both sides. The shares of both are such that the lobe is reciprocal, (1 − r)·n² in
 * step with what the far side misses, and towards the denser side as a smooth face would let pass in the mean.
 */
import { accumulate, accumulateThrough } from '../accumulate'
import { dielectricAlbedoAverage } from '../albedo'
import { MISSED } from '../again'
import { drawCosine } from '../cosine-draw'
import { glassMissing, glassMissingAverage } from '../glass-missing'
import { PASSAGE, UNDER_COAT } from '../lobe'
import { memory, now } from '../memory'
import { newLobe } from '../open-lobe'
import { ASK, CHANNELS, FACET, LOBE, SPEC } from '../slots'
import { always, noted, rootAlpha } from '../traits'
import { KIND } from './kinds'

const { ask, facet, lobes, spec } = memory

/** What colours the light that passes; share that passes; what both sides are scaled by. */
const TINT = LOBE.f0
const PASSES = LOBE.edge
const NEAR = LOBE.edge + 1
const FAR = LOBE.edge + 2

/** Pushes it for the rough glass at o. */
export function pushAgainGlass(o: number, layer: number): void {
  const alpha = lobes[o + LOBE.alpha]!
  const eta = lobes[o + LOBE.eta]!
  const near = glassMissingAverage(alpha, eta)
  const far = glassMissingAverage(alpha, 1 / eta)
  if (near < MISSED || far < MISSED) return
  spec[SPEC.anisotropy] = 0
  const own = glassMissing(lobes[o + LOBE.cosine]!, alpha, eta)
  const a = newLobe(KIND['again-glass'], layer)
  if (a < 0) return
  const even = eta * eta * far
  const mean = (1 - dielectricAlbedoAverage(0, eta > 1 ? eta : 1 / eta)) * eta * eta * far
  for (let k = 0; k < CHANNELS; k++) lobes[a + TINT + k] = lobes[o + TINT + k]!
  lobes[a + LOBE.alpha] = alpha
  lobes[a + LOBE.eta] = eta
  lobes[a + LOBE.albedo] = own
  lobes[a + PASSES] = mean / Math.max(even, near)
  lobes[a + NEAR] = own / near
  lobes[a + FAR] = own / far
}

export const passage = PASSAGE.glass
export const underCoat = UNDER_COAT.passes
export const answers = always
export { noted as albedo, noted as pick, noted as guide, rootAlpha as roughness }

export function evaluate(o: number): void {
  const ci = facet[FACET.light]!
  if (now.reflected ? ci <= 0 : ci >= 0) return
  const cosine = Math.abs(ci) / Math.PI
  const eta = lobes[o + LOBE.eta]!
  const mu = Math.min(1, Math.abs(ci))
  const passes = lobes[o + PASSES]!
  if (ci > 0) {
    const p = cosine * (1 - passes)
    ask[ASK.pdf] = p
    ask[ASK.factor] = p * lobes[o + NEAR]! * glassMissing(mu, lobes[o + LOBE.alpha]!, eta)
    accumulate(o)
  } else {
    const p = cosine * passes
    ask[ASK.pdf] = p
    ask[ASK.factor] = p * lobes[o + FAR]! * glassMissing(mu, lobes[o + LOBE.alpha]!, 1 / eta)
    accumulateThrough(o, false)
  }
}

export const sample = (o: number): boolean => drawCosine(o, ask[ASK.choose]! < lobes[o + PASSES]!)

export function straight(o: number): void {
  ask[ASK.factor] = lobes[o + LOBE.albedo]! * lobes[o + PASSES]!
  accumulateThrough(o, false)
}
