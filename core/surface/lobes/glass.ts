/** Clear interface that reflects and refracts (Walter et al. 2007). */
import { GRID_START } from '../../colour/grid'
import { cauchyIndex } from '../../optics/dispersion'
import { fresnelDielectric } from '../../optics/fresnel'
import { glassN } from '../../optics/glasses'
import { accumulate, accumulateColoured, accumulateThrough, clearValue } from '../accumulate'
import { faceFresnel, reflectChance } from '../fresnel'
import { ggxD, ggxLambda } from '../ggx'
import { PASSAGE, UNDER_COAT } from '../lobe'
import { seenFromBothSides } from '../masking'
import { memory, now, scattered } from '../memory'
import { askFacets, askGrain, cosineAtFacet, drawFacet, leavesHere } from '../microfacets'
import { layFilm, newLobe } from '../open-lobe'
import { ASK, CHANNELS, FACET, LAYER, LOBE, SPEC } from '../slots'
import { goSmooth } from '../smooth'
import { spread } from '../spread'
import { noted, rootAlpha, whenRough } from '../traits'
import { pushAgainGlass } from './again-glass'
import { KIND } from './kinds'

const { ask, facet, fresnel, lane, layers, lobes, spec } = memory

/** What colours the light that passes; index of each channel where they differ. */
const TINT = LOBE.f0
const INDICES = LOBE.edge

/** How far the index must be from that of what surrounds a glass for its roughness to show. */
const MATCHED = 1e-4

/**
 * Weight, roughness, index of the inside, normal, grain and film are in `memory.spec`. The tint (tr, tg, tb)
 * colours what passes.
 * @param B coefficient of Cauchy's formula, nm², 0 for none
 */
export function pushGlass(layer: number, tr: number, tg: number, tb: number, B: number): void {
  const nd = spec[SPEC.eta]!
  const o = openGlass(layer, tr, tg, tb)
  if (o < 0 || B <= 0) return
  for (let k = 0; k < 4; k++) lobes[o + INDICES + k] = cauchyIndex(nd, B, GRID_START + lane[k]!)
  disperse(o, nd)
}

/** {@link pushGlass} of glass number `table` of `optics/glasses.ts`, index by wavelength; the spec's is its n_d. */
export function pushMeasuredGlass(layer: number, table: number, tr: number, tg: number, tb: number): void {
  const nd = spec[SPEC.eta]!
  const o = openGlass(layer, tr, tg, tb)
  if (o < 0) return
  for (let k = 0; k < 4; k++) lobes[o + INDICES + k] = glassN[table]![lane[k]!]!
  disperse(o, nd)
}

/** Pushes a glass of one index for all wavelengths. @returns its lobe's offset, −1 for none */
function openGlass(layer: number, tr: number, tg: number, tb: number): number {
  const nd = spec[SPEC.eta]!
  const relative = nd / now.surround
  // a surface between two media of one index bends nothing, however rough: its half vectors would be of no length
  if (Math.abs(relative - 1) < MATCHED) spec[SPEC.alpha] = 0
  spec[SPEC.eta] = now.outside ? relative : 1 / relative
  const o = newLobe(KIND.glass, layer)
  now.glass = nd
  if (o < 0) return -1
  spread(lobes, o + TINT, tr, tg, tb)
  lobes[o + LOBE.albedo] = 1
  if (spec[SPEC.film]! > 0) layFilm(o, now.outside ? now.surround : nd)
  else if (now.coat >= 0) layCoat(o)
  if (lobes[o + LOBE.alpha]! > 0) pushAgainGlass(o, layer)
  return o
}

/** Lays the coat that the surface is under on the face of the lobe at o. */
function layCoat(o: number): void {
  const y = now.coat * LAYER.stride
  lobes[o + LOBE.coat] = layers[y + LAYER.weight]!
  lobes[o + LOBE.coatEta] = layers[y + LAYER.eta]!
  lobes[o + LOBE.spectral] = 1
  for (let k = 0; k < CHANNELS; k++) {
    lobes[o + LOBE.coatLog + k] = layers[y + LAYER.tinted] === 1 ? layers[y + LAYER.log + k]! : 0
    lobes[o + INDICES + k] = lobes[o + LOBE.eta]!
  }
}

/** Turns the indices of the four wavelengths into relative ones, and lets the lobe refract by that of the hero. */
function disperse(o: number, nd: number): void {
  for (let k = 0; k < CHANNELS; k++) {
    const n = (k < 4 ? lobes[o + INDICES + k]! : nd) / now.surround
    lobes[o + INDICES + k] = now.outside ? n : 1 / n
  }
  lobes[o + LOBE.eta] = lobes[o + INDICES + now.hero]!
  if (lobes[o + LOBE.alpha] === 0) {
    lobes[o + LOBE.spectral] = 1
    if (now.disperses === 0) now.disperses = 1
  } else now.disperses = 2
}

export const passage = PASSAGE.glass
export const underCoat = UNDER_COAT.passes
export const behind = true
export { noted as albedo, noted as pick, noted as guide, rootAlpha as roughness, whenRough as answers }

export function evaluate(o: number): void {
  const ci = facet[FACET.light]!
  if (lobes[o + LOBE.alpha] === 0) return
  if (now.reflected) {
    if (ci > 0) evaluateReflected(o)
  } else if (ci < 0) evaluateRefracted(o)
}

function evaluateReflected(o: number): void {
  if (!askFacets(o)) return
  if (lobes[o + LOBE.spectral] === 1) {
    faceFresnel(o)
    ask[ASK.pdf] = facet[FACET.visible]! * reflectChance()
    ask[ASK.factor] = facet[FACET.shaped]!
    accumulateColoured(o)
  } else {
    const F = fresnelDielectric(facet[FACET.cosine]!, lobes[o + LOBE.eta]!)
    ask[ASK.pdf] = facet[FACET.visible]! * F
    ask[ASK.factor] = facet[FACET.shaped]! * F
    accumulate(o)
  }
}

/** Walter et al. 2007, eqs. 16, 17 and 21, masked as light that passes is; h points to the side of o. */
function evaluateRefracted(o: number): void {
  const ci = facet[FACET.light]!
  const eta = lobes[o + LOBE.eta]!
  const ix = ask[ASK.x]!
  const iy = ask[ASK.y]!
  const iz = ask[ASK.z]!
  const nx = lobes[o + LOBE.nx]!
  const ny = lobes[o + LOBE.ny]!
  const nz = lobes[o + LOBE.nz]!
  const co = lobes[o + LOBE.cosine]!
  let hx = now.ox + eta * ix
  let hy = now.oy + eta * iy
  let hz = now.oz + eta * iz
  const inverse = 1 / Math.sqrt(hx * hx + hy * hy + hz * hz)
  hx *= inverse
  hy *= inverse
  hz *= inverse
  let ch = nx * hx + ny * hy + nz * hz
  if (ch < 0) {
    hx = -hx
    hy = -hy
    hz = -hz
    ch = -ch
  }
  const toH = now.ox * hx + now.oy * hy + now.oz * hz
  const ih = ix * hx + iy * hy + iz * hz
  if (toH <= 0 || ih >= 0) return
  const denominator = toH + eta * ih
  const jacobian = (eta * eta * -ih) / (denominator * denominator)
  let D: number
  let lo: number
  let li: number
  if (lobes[o + LOBE.grain] === 1) {
    facet[FACET.hx] = hx
    facet[FACET.hy] = hy
    facet[FACET.hz] = hz
    facet[FACET.ch] = Math.min(1, ch)
    askGrain(o)
    D = facet[FACET.D]!
    lo = facet[FACET.lambdaO]!
    li = facet[FACET.lambdaI]!
  } else {
    const alpha = lobes[o + LOBE.alpha]!
    D = ggxD(Math.min(1, ch), alpha)
    lo = ggxLambda(co, alpha)
    li = ggxLambda(-ci, alpha)
  }
  const common = (D * toH * jacobian) / co
  // radiance is compressed by η² on refraction, and expanded again on the way out: kept as basic radiance L/n²,
  // so no factor here
  if (lobes[o + LOBE.spectral] === 1) {
    facet[FACET.cosine] = Math.min(1, toH)
    faceFresnel(o)
    ask[ASK.pdf] = (common * (1 - reflectChance())) / (1 + lo)
    ask[ASK.factor] = common * seenFromBothSides(lo, li)
    accumulateThrough(o, true)
    return
  }
  const F = fresnelDielectric(Math.min(1, toH), eta)
  ask[ASK.pdf] = (common * (1 - F)) / (1 + lo)
  ask[ASK.factor] = common * (1 - F) * seenFromBothSides(lo, li)
  accumulateThrough(o, false)
}

export function sample(o: number): boolean {
  if (!drawFacet(o)) return false
  const smooth = lobes[o + LOBE.alpha] === 0
  const spectral = lobes[o + LOBE.spectral] === 1
  let F: number
  if (spectral) {
    faceFresnel(o)
    F = reflectChance()
  } else F = fresnelDielectric(facet[FACET.cosine]!, lobes[o + LOBE.eta]!)
  if (ask[ASK.choose]! >= F) return refract(o, F)
  if (smooth && spectral) for (let k = 0; k < CHANNELS; k++) fresnel[k]! /= F
  if (!leavesHere()) return false
  if (!smooth) return true
  goSmooth()
  ask[ASK.factor] = 1
  if (spectral) accumulateColoured(o)
  else accumulate(o)
  return true
}

/** Refracts at the facet h; F is the chance with which it would have reflected. */
function refract(o: number, F: number): boolean {
  const { ox, oy, oz } = now
  const hx = facet[FACET.hx]!
  const hy = facet[FACET.hy]!
  const hz = facet[FACET.hz]!
  const eta = lobes[o + LOBE.eta]!
  const c = ox * hx + oy * hy + oz * hz
  const sin2 = (1 - c * c) / (eta * eta)
  if (sin2 >= 1) return false // only with films and dispersion, whose chance to reflect stays below one
  const s = c / eta - Math.sqrt(1 - sin2)
  let x = s * hx - ox / eta
  let y = s * hy - oy / eta
  let z = s * hz - oz / eta
  const inverse = 1 / Math.sqrt(x * x + y * y + z * z)
  x *= inverse
  y *= inverse
  z *= inverse
  scattered.x = x
  scattered.y = y
  scattered.z = z
  scattered.transmitted = true
  if (x * now.gx + y * now.gy + z * now.gz >= 0) return false
  if (lobes[o + LOBE.alpha] === 0) {
    const spectral = lobes[o + LOBE.spectral] === 1
    scattered.smooth = true
    clearValue()
    ask[ASK.factor] = spectral ? 1 / (1 - F) : 1 // (1 − F) over its own probability
    accumulateThrough(o, spectral)
  }
  return true
}

export function chance(o: number): number {
  const eta = lobes[o + LOBE.eta]!
  const rough = lobes[o + LOBE.alpha]! > 0
  const cos = rough ? cosineAtFacet(scattered.transmitted ? eta : 1) : lobes[o + LOBE.cosine]!
  if (lobes[o + LOBE.spectral] !== 1) return fresnelDielectric(cos, eta)
  facet[FACET.cosine] = cos
  faceFresnel(o)
  return reflectChance()
}

/**
 * On its way out light meets the face at the angle it keeps, as if from outside: so it would after the bend that is
 * left out; films count on the way in.
 */
export function straight(o: number): void {
  const coloured = now.outside && lobes[o + LOBE.spectral] === 1
  const eta = lobes[o + LOBE.eta]!
  const cos = lobes[o + LOBE.cosine]!
  if (coloured) {
    facet[FACET.cosine] = cos
    faceFresnel(o)
  }
  ask[ASK.factor] = coloured ? 1 : 1 - fresnelDielectric(cos, now.outside ? eta : 1 / eta)
  accumulateThrough(o, coloured)
}
