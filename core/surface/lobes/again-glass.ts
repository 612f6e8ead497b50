/**
 * Light that meets the facets of rough glass more than once: what comes back and what passes are by a walk on them
 * (Heitz et al. 2016), and leave diffusely, each in step with what its own side gives there (after Kulla & Conty 2017,
 * §2.3), so that the lobe is reciprocal.
 */
import { accumulate, accumulateThrough } from '../accumulate'
import { MISSED } from '../again'
import { drawCosine } from '../cosine-draw'
import { PARTED, partGlass, partGlassAverage } from '../glass-missing'
import { PASSAGE, UNDER_COAT } from '../lobe'
import { memory, now } from '../memory'
import { newLobe } from '../open-lobe'
import { ASK, CHANNELS, FACET, LOBE, SPEC } from '../slots'
import { always, noted, rootAlpha } from '../traits'
import { KIND } from './kinds'

const { ask, facet, lobes, parted, spec } = memory

/** What colours the light that passes; share that passes; what either side's share is scaled by. */
const TINT = LOBE.f0
const PASSES = LOBE.edge
const NEAR = LOBE.edge + 1
const FAR = LOBE.edge + 2

/** Pushes it for the rough glass at o. */
export function pushAgainGlass(o: number, layer: number): void {
  const alpha = lobes[o + LOBE.alpha]!
  const eta = lobes[o + LOBE.eta]!
  partGlassAverage(alpha, eta)
  const back = parted[PARTED.back]!
  if (back + parted[PARTED.passes]! < MISSED) return
  partGlassAverage(alpha, 1 / eta)
  const passesBackwards = parted[PARTED.passes]!
  spec[SPEC.anisotropy] = 0
  const a = newLobe(KIND['again-glass'], layer)
  if (a < 0) return
  partGlass(lobes[o + LOBE.cosine]!, alpha, eta)
  const own = parted[PARTED.back]! + parted[PARTED.passes]!
  for (let k = 0; k < CHANNELS; k++) lobes[a + TINT + k] = lobes[o + TINT + k]!
  lobes[a + LOBE.alpha] = alpha
  lobes[a + LOBE.eta] = eta
  lobes[a + LOBE.albedo] = own
  lobes[a + PASSES] = own > 0 ? parted[PARTED.passes]! / own : 0
  lobes[a + NEAR] = back > 0 ? parted[PARTED.back]! / back : 0
  lobes[a + FAR] = passesBackwards > 0 ? parted[PARTED.passes]! / passesBackwards : 0
}

export const passage = PASSAGE.glass
export const underCoat = UNDER_COAT.passes
export const behind = true
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
    partGlass(mu, lobes[o + LOBE.alpha]!, eta)
    ask[ASK.pdf] = cosine * (1 - passes)
    ask[ASK.factor] = cosine * lobes[o + NEAR]! * parted[PARTED.back]!
    accumulate(o)
  } else {
    partGlass(mu, lobes[o + LOBE.alpha]!, 1 / eta)
    ask[ASK.pdf] = cosine * passes
    ask[ASK.factor] = cosine * lobes[o + FAR]! * parted[PARTED.passes]!
    accumulateThrough(o, false)
  }
}

export const sample = (o: number): boolean => drawCosine(o, ask[ASK.choose]! < lobes[o + PASSES]!)

export function straight(o: number): void {
  ask[ASK.factor] = lobes[o + LOBE.albedo]! * lobes[o + PASSES]!
  accumulateThrough(o, false)
}
