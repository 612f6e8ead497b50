/**
 * Thin sheet of glass, both faces in one: reflects and lets pass without bending. A film lies on its outer face.
 */
import { fresnelDielectric } from '../../optics/fresnel'
import { accumulateColoured, accumulateThrough, clearValue } from '../accumulate'
import { faceFresnel, reflectChance } from '../fresnel'
import { PASSAGE, UNDER_COAT } from '../lobe'
import { memory, now, scattered } from '../memory'
import { askFacets, cosineAtFacet, drawFacet, leavesHere } from '../microfacets'
import { layFilm, newLobe } from '../open-lobe'
import { ASK, CHANNELS, FACET, LOBE, SPEC } from '../slots'
import { goSmooth } from '../smooth'
import { spread } from '../spread'
import { noted, rootAlpha, whenRough } from '../traits'
import { KIND } from './kinds'

const { ask, facet, fresnel, lobes, passes, spec } = memory

/** What colours the light that passes. */
const TINT = LOBE.f0

/** Weight, roughness, index, normal, grain and film are in `memory.spec`. */
export function pushSheet(layer: number, tr: number, tg: number, tb: number): void {
  if (spec[SPEC.eta]! < 1) spec[SPEC.eta] = 1 / spec[SPEC.eta]!
  const o = newLobe(KIND.sheet, layer)
  if (o < 0) return
  spread(lobes, o + TINT, tr, tg, tb)
  lobes[o + LOBE.albedo] = 1
  if (spec[SPEC.film]! > 0) layFilm(o, 1)
}

export const passage = PASSAGE.far
export const underCoat = UNDER_COAT.passes
export const behind = true
export { noted as albedo, noted as pick, noted as guide, rootAlpha as roughness, whenRough as answers }

/**
 * Reflectance of both faces and of all that goes to and fro between them, without phase:
 * R = F₁ + (1 − F₁)²F₂/(1 − F₁F₂).
 */
function sheetFresnel(o: number): void {
  const back = fresnelDielectric(facet[FACET.cosine]!, lobes[o + LOBE.eta]!)
  if (lobes[o + LOBE.film]! > 0) faceFresnel(o)
  else fresnel.fill(back)
  for (let c = 0; c < CHANNELS; c++) {
    const f = fresnel[c]!
    const d = 1 - f * back
    fresnel[c] = d > 1e-9 ? f + ((1 - f) * (1 - f) * back) / d : 1
    passes[c] = 1 - fresnel[c]!
  }
}

export function evaluate(o: number): void {
  const ci = facet[FACET.light]!
  if (lobes[o + LOBE.alpha] === 0) return
  if (now.reflected) {
    if (ci <= 0 || !askFacets(o)) return
    sheetFresnel(o)
    ask[ASK.pdf] = facet[FACET.visible]! * reflectChance()
    ask[ASK.factor] = facet[FACET.shaped]!
    accumulateColoured(o)
  } else if (ci < 0) evaluatePassed(o)
}

/** The same facets, mirrored at the sheet. */
function evaluatePassed(o: number): void {
  const ci = facet[FACET.light]!
  const ix = facet[FACET.x]!
  const iy = facet[FACET.y]!
  const iz = facet[FACET.z]!
  facet[FACET.x] = ix - 2 * ci * lobes[o + LOBE.nx]!
  facet[FACET.y] = iy - 2 * ci * lobes[o + LOBE.ny]!
  facet[FACET.z] = iz - 2 * ci * lobes[o + LOBE.nz]!
  facet[FACET.light] = -ci
  const mirrors = askFacets(o)
  // the light itself is what the lobes after this one are asked for
  facet[FACET.x] = ix
  facet[FACET.y] = iy
  facet[FACET.z] = iz
  if (!mirrors) return
  sheetFresnel(o)
  ask[ASK.pdf] = facet[FACET.visible]! * (1 - reflectChance())
  ask[ASK.factor] = facet[FACET.shaped]!
  accumulateThrough(o, true)
}

export function sample(o: number): boolean {
  if (!drawFacet(o)) return false
  const smooth = lobes[o + LOBE.alpha] === 0
  sheetFresnel(o)
  const F = reflectChance()
  if (ask[ASK.choose]! >= F) return pass(o, F)
  if (smooth) for (let k = 0; k < CHANNELS; k++) fresnel[k]! /= F
  if (!leavesHere()) return false
  if (!smooth) return true
  goSmooth()
  ask[ASK.factor] = 1
  accumulateColoured(o)
  return true
}

/** Passes the sheet: the direction that its facet would reflect to, mirrored at the sheet. */
function pass(o: number, F: number): boolean {
  mirrorAtSheet(o)
  scattered.transmitted = true
  if (scattered.x * now.gx + scattered.y * now.gy + scattered.z * now.gz >= 0) return false
  if (lobes[o + LOBE.alpha] === 0) {
    scattered.smooth = true
    clearValue()
    ask[ASK.factor] = 1 / (1 - F)
    accumulateThrough(o, true)
  }
  return true
}

/** Mirrors the direction drawn. */
function mirrorAtSheet(o: number): void {
  const { x, y, z } = scattered
  const along = 2 * (x * lobes[o + LOBE.nx]! + y * lobes[o + LOBE.ny]! + z * lobes[o + LOBE.nz]!)
  scattered.x = x - along * lobes[o + LOBE.nx]!
  scattered.y = y - along * lobes[o + LOBE.ny]!
  scattered.z = z - along * lobes[o + LOBE.nz]!
}

export function chance(o: number): number {
  facet[FACET.cosine] = lobes[o + LOBE.cosine]!
  if (lobes[o + LOBE.alpha]! > 0) {
    if (scattered.transmitted) mirrorAtSheet(o)
    facet[FACET.cosine] = cosineAtFacet(1)
    if (scattered.transmitted) mirrorAtSheet(o)
  }
  sheetFresnel(o)
  return reflectChance()
}

export function straight(o: number): void {
  facet[FACET.cosine] = lobes[o + LOBE.cosine]!
  sheetFresnel(o)
  ask[ASK.factor] = 1
  accumulateThrough(o, true)
}
