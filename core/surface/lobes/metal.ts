/**
 * A metal by its colour facing the viewer and a tint at the edge (Kutz et al. 2021, F82-tint), or by what it rises
 * to and how fast (MaterialX 1.39, generalized_schlick_bsdf).
 */
import { fresnelConductor } from '../../optics/fresnel'
import { FILM } from '../../optics/slots'
import { film } from '../../optics/thin-film'
import { beginFilm, coverMetal } from '../fresnel'
import { PASSAGE, UNDER_COAT } from '../lobe'
import { mediumUnder } from '../medium'
import { memory } from '../memory'
import { layFilm, newLobe } from '../open-lobe'
import { CHANNELS, FACET, LOBE, SPEC } from '../slots'
import { colourByMeetings } from '../sawtooth'
import { spread } from '../spread'
import { noted, nothing, rootAlpha, whenRough } from '../traits'
import { colourAgain, pushAgainMetal } from './again-metal'
import { KIND } from './kinds'
import { average, averageFresnel, evaluateMetal, noteSeen, sampleMetal } from './metal-facets'

const { facet, fresnel, lobes, spec } = memory

/** F₀; the factor a of the edge's dip; exponent of the rise, 0 for the plain form; what it rises to. */
const F0 = LOBE.f0
const DIP = LOBE.edge
const EXPONENT = LOBE.exponent
const F90 = LOBE.graze
/** What the viewer sees of it, under layers; with a rise of its own that is not kept. */
const SEEN = LOBE.graze

/**
 * F(µ) = F₀ + (F₉₀ − F₀)(1 − µ)ᵉ − a·µ(1 − µ)⁶ with a chosen so that F at µ̄ = 1/7 is
 * the Schlick value times the tint. Grain, film and rise are in `memory.spec`.
 * @param fr F₀, with fg and fb; er tint at the edge, with eg and eb
 */
export function pushMetal(
  layer: number,
  fr: number,
  fg: number,
  fb: number,
  er: number,
  eg: number,
  eb: number,
): void {
  const weight = spec[SPEC.weight]!
  const o = newLobe(KIND.metal, layer)
  if (o < 0) return
  spread(lobes, o + F0, fr, fg, fb)
  spread(lobes, o + DIP, er, eg, eb)
  const plain = spec[SPEC.exponent] === 0
  const e = plain ? 5 : spec[SPEC.exponent]!
  const rise = plain ? (6 / 7) ** 5 : (6 / 7) ** e
  const inverse = 7 / (6 / 7) ** 6
  const mean = 2 / ((e + 1) * (e + 2))
  lobes[o + EXPONENT] = spec[SPEC.exponent]!
  const r90 = spec[SPEC.grazing]!
  const g90 = spec[SPEC.grazing + 1]!
  const b90 = spec[SPEC.grazing + 2]!
  if (!plain) spread(lobes, o + F90, r90, g90, b90)
  for (let k = 0; k < CHANNELS; k++) {
    const f0 = lobes[o + F0 + k]!
    lobes[o + DIP + k] =
      (f0 + ((plain ? 1 : lobes[o + F90 + k]!) - f0) * rise) * (1 - lobes[o + DIP + k]!) * inverse
  }
  lobes[o + LOBE.albedo] = Math.max(
    0.05,
    plain ? (fr + fg + fb) / 3 : ((fr + fg + fb) / 3) * (1 - mean) + ((r90 + g90 + b90) / 3) * mean,
  )
  if (spec[SPEC.film]! > 0) layFilm(o, mediumUnder(layer))
  if (layer >= 0 && plain) noteSeen(o, SEEN, metalFresnel)
  colourByMeetings(o, metalFresnel)
  const a = pushAgainMetal(o, layer)
  if (a < 0) return
  if (lobes[o + LOBE.film]! > 0) {
    averageFresnel(o, metalFresnel)
    for (let k = 0; k < CHANNELS; k++) colourAgain(a, k, weight, average[k]!)
    return
  }
  for (let k = 0; k < CHANNELS; k++) {
    // cosine mean of that F: ∫ 2µ(1 − µ)ᵉ dµ = 2/((e + 1)(e + 2)), ∫ 2µ·µ(1 − µ)⁶ dµ = 1/126
    const f0 = lobes[o + F0 + k]!
    const F = f0 + ((plain ? 1 : lobes[o + F90 + k]!) - f0) * mean - lobes[o + DIP + k]! / 126
    colourAgain(a, k, weight, Math.min(1, Math.max(0, F)))
  }
}

export const passage = PASSAGE.far
export const underCoat = UNDER_COAT.mirrors
export const straight = nothing
export { noted as pick, rootAlpha as roughness, whenRough as answers }
export const albedo = (o: number, channel: number): number =>
  lobes[o + (lobes[o + LOBE.layer]! < 0 || lobes[o + EXPONENT]! > 0 ? F0 : SEEN) + channel]!
export const guide = (o: number, k: number): number => lobes[o + F0 + 4 + k]!

function metalFresnel(o: number): void {
  const cos = facet[FACET.cosine]!
  const m = 1 - cos
  const m2 = m * m
  const m5 = m2 * m2 * m
  const exponent = lobes[o + EXPONENT]!
  const edge = cos * m5 * m
  const rise = exponent > 0 ? m ** exponent : 0
  for (let c = 0; c < CHANNELS; c++) {
    const f0 = lobes[o + F0 + c]!
    const f =
      (exponent > 0 ? f0 + (lobes[o + F90 + c]! - f0) * rise : f0 + (1 - f0) * m5) - lobes[o + DIP + c]! * edge
    fresnel[c] = f < 0 ? 0 : f > 1 ? 1 : f
  }
  if (!(lobes[o + LOBE.film]! > 0)) return
  beginFilm(o)
  for (let c = 0; c < CHANNELS; c++) {
    // n and k with the reflectance of the colour at normal incidence, half way between their bounds (Gulbrandsen
    // 2014, "Artist Friendly Metallic Fresnel", eqs. 2, 3)
    const r = Math.min(0.999, Math.max(1e-3, lobes[o + F0 + c]!))
    const root = Math.sqrt(r)
    const n = 0.5 * ((1 - r) / (1 + r) + (1 + root) / (1 - root))
    const k = Math.sqrt(Math.max(0, (r * (n + 1) * (n + 1) - (n - 1) * (n - 1)) / (1 - r)))
    film[FILM.n] = n
    film[FILM.k] = k
    film[FILM.bare] = fresnelConductor(cos, n, k)
    coverMetal(o, c)
  }
}

export const evaluate = (o: number): void => evaluateMetal(o, metalFresnel)
export const sample = (o: number): boolean => sampleMetal(o, metalFresnel)
