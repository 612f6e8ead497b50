/** Microfacets of metals, whatever their Fresnel factor. */
import { accumulateColoured } from '../accumulate'
import { memory, now } from '../memory'
import { GAUSS_W, GAUSS_X } from '../gauss'
import { cosineWithin } from '../medium'
import { askFacets, drawFacet, intoMedium, leavesFacets, leavesHere } from '../microfacets'
import { askFolded, foldUp, unfold } from '../sawtooth'
import { ASK, CHANNELS, FACET, LOBE } from '../slots'
import { goSmooth } from '../smooth'

const { ask, facet, fresnel, lobes } = memory

/** Cosine mean of a reflectance per channel, by {@link averageFresnel}. */
export const average = new Float64Array(CHANNELS)

/** @param reflect fills `memory.fresnel` at the facet's cosine */
export function evaluateMetal(o: number, reflect: (o: number) => void): void {
  if (!now.reflected || lobes[o + LOBE.alpha] === 0) return
  if (facet[FACET.light]! > 0 && askFacets(o)) {
    intoMedium(o)
    reflect(o)
    ask[ASK.pdf] = facet[FACET.visible]!
    ask[ASK.factor] = facet[FACET.shaped]!
    accumulateColoured(o)
  }
  if (askFolded(o)) addFolded(o, reflect)
}

/**
 * Under relief: adds what the facets send below the horizon in the direction that is this one mirrored there; a back
 * and another face have turned it up.
 */
function addFolded(o: number, reflect: (o: number) => void): void {
  if (askFacets(o)) {
    intoMedium(o)
    reflect(o)
    for (let k = 0; k < CHANNELS; k++) fresnel[k]! *= fresnel[k]! * fresnel[k]!
    ask[ASK.pdf]! += facet[FACET.visible]!
    ask[ASK.factor] = facet[FACET.shaped]!
    accumulateColoured(o)
  }
  unfold()
}

/** @param reflect fills `memory.fresnel` at the facet's cosine */
export function sampleMetal(o: number, reflect: (o: number) => void): boolean {
  if (!drawFacet(o)) return false
  if (lobes[o + LOBE.alpha] !== 0) {
    if (!leavesFacets(o)) return false
    foldUp()
    return true
  }
  if (!leavesHere()) return false
  goSmooth()
  intoMedium(o)
  reflect(o)
  ask[ASK.factor] = 1
  accumulateColoured(o)
  return true
}

/**
 * Notes what the viewer sees of a metal per channel, for what lies above it.
 * @param to word of the lobe from which on it is noted
 * @param reflect fills `memory.fresnel` at the facet's cosine
 */
export function noteSeen(o: number, to: number, reflect: (o: number) => void): void {
  facet[FACET.cosine] = cosineWithin(lobes[o + LOBE.cosine]!, lobes[o + LOBE.shrink]!)
  reflect(o)
  for (let k = 0; k < CHANNELS; k++) lobes[o + to + k] = fresnel[k]!
}

/**
 * Cosine mean of what a metal reflects, into {@link average}; by five points in µ².
 * @param reflect fills `memory.fresnel` at the facet's cosine
 */
export function averageFresnel(o: number, reflect: (o: number) => void): void {
  average.fill(0)
  for (let i = 0; i < 5; i++) {
    facet[FACET.cosine] = Math.sqrt(GAUSS_X[i]!)
    reflect(o)
    for (let k = 0; k < CHANNELS; k++) average[k]! += GAUSS_W[i]! * fresnel[k]!
  }
}
