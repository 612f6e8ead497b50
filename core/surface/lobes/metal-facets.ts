/** Microfacets of metals, whatever their Fresnel factor. */
import { accumulateColoured } from '../accumulate'
import { memory, now } from '../memory'
import { askFacets, drawFacet, intoMedium, leavesHere } from '../microfacets'
import { ASK, FACET, LOBE } from '../slots'
import { goSmooth } from '../smooth'

const { ask, facet, lobes } = memory

/** @param reflect fills `memory.fresnel` at the facet's cosine */
export function evaluateMetal(o: number, reflect: (o: number) => void): void {
  if (!now.reflected || facet[FACET.light]! <= 0 || lobes[o + LOBE.alpha] === 0 || !askFacets(o)) return
  intoMedium(o)
  reflect(o)
  ask[ASK.pdf] = facet[FACET.visible]!
  ask[ASK.factor] = facet[FACET.shaped]!
  accumulateColoured(o)
}

/** @param reflect fills `memory.fresnel` at the facet's cosine */
export function sampleMetal(o: number, reflect: (o: number) => void): boolean {
  if (!drawFacet(o) || !leavesHere()) return false
  if (lobes[o + LOBE.alpha] !== 0) return true
  goSmooth()
  intoMedium(o)
  reflect(o)
  ask[ASK.factor] = 1
  accumulateColoured(o)
  return true
}
