/**
 * What metal facets reflect again and again between them (Kulla & Conty 2017, "Revisiting Physically Based
 * Shading", §2): what the single reflection misses comes back as (1 − E(µo))(1 − E(µi))/(π(1 − Ē)),
 * coloured by the mean reflectance of every further meeting.
 */
import { accumulate } from '../accumulate'
import { again, MISSED } from '../again'
import { drawCosine } from '../cosine-draw'
import { facetsAverage, facetsMissing } from '../facets'
import { grainMissing, grainMissingAverage } from '../grain-missing'
import { PASSAGE, UNDER_COAT } from '../lobe'
import { memory, now } from '../memory'
import { newLobe } from '../open-lobe'
import { ASK, FACET, LOBE, SPEC } from '../slots'
import { askFolded, foldUp, unfold } from '../sawtooth'
import { always, noted, nothing, rootAlpha } from '../traits'
import { KIND } from './kinds'

const { ask, facet, lobes, spec } = memory

/** (1 − E(µo))/(1 − Ē), and Ē. */
const SCALE = LOBE.eta
const MEAN = LOBE.table

/**
 * Pushes it for the metal lobe at o.
 * @returns its offset, colours to be filled by {@link colourAgain}; −1 for none
 */
export function pushAgainMetal(o: number, layer: number): number {
  const grain = lobes[o + LOBE.grain] === 1
  const alpha = lobes[o + LOBE.alpha]!
  const missing = grain ? grainMissingAverage(lobes[o + LOBE.ax]!, lobes[o + LOBE.ay]!) : 1 - facetsAverage(alpha)
  if (missing < MISSED) return -1
  spec[SPEC.anisotropy] = 0
  const a = newLobe(KIND['again-metal'], layer)
  if (a < 0) return -1
  lobes[a + LOBE.alpha] = alpha
  if (grain) for (let k = LOBE.grain; k < LOBE.film; k++) lobes[a + k] = lobes[o + k]!
  const own = grain ? grainMissing(a, now.ox, now.oy, now.oz) : facetsMissing(lobes[o + LOBE.cosine]!, alpha)
  lobes[o + LOBE.once] = 1 - own
  lobes[a + SCALE] = own / missing
  lobes[a + MEAN] = 1 - missing
  lobes[a + LOBE.albedo] = Math.max(0.01, own)
  return a
}

/** Fills channel k of its weight. @param F mean reflectance of the metal */
export function colourAgain(a: number, k: number, weight: number, F: number): void {
  lobes[a + LOBE.weight + k] = again(weight, F, lobes[a + MEAN]!)
}

export const passage = PASSAGE.far
export const underCoat = UNDER_COAT.again
export const answers = always
export const straight = nothing
export { noted as albedo, noted as pick, noted as guide, rootAlpha as roughness }

export function evaluate(o: number): void {
  if (!now.reflected) return
  if (facet[FACET.light]! > 0) add(o)
  if (!askFolded(o)) return
  add(o)
  unfold()
}

function add(o: number): void {
  const ci = facet[FACET.light]!
  const cosine = ci / Math.PI
  const missing =
    lobes[o + LOBE.grain] === 1
      ? grainMissing(o, facet[FACET.x]!, facet[FACET.y]!, facet[FACET.z]!)
      : facetsMissing(ci > 1 ? 1 : ci, lobes[o + LOBE.alpha]!)
  ask[ASK.pdf]! += cosine
  ask[ASK.factor] = cosine * lobes[o + SCALE]! * missing
  accumulate(o)
}

export function sample(o: number): boolean {
  if (!drawCosine(o, false)) foldUp()
  return true
}
