/** A metal by measurement: exact complex Fresnel per wavelength. */
import { GRID_START } from '../../colour/grid'
import { conductorK, conductorN } from '../../optics/conductors'
import { fresnelConductor } from '../../optics/fresnel'
import { FILM } from '../../optics/slots'
import { film, STAND_IN_NM } from '../../optics/thin-film'
import { conductorAverage, rgbIn } from '../conductor-average'
import { beginFilm, coverMetal } from '../fresnel'
import { PASSAGE, UNDER_COAT } from '../lobe'
import { mediumUnder } from '../medium'
import { memory } from '../memory'
import { layFilm, newLobe } from '../open-lobe'
import { CHANNELS, FACET, LOBE, SPEC } from '../slots'
import { colourByMeetings } from '../sawtooth'
import { noted, nothing, rootAlpha, whenRough } from '../traits'
import { colourAgain, pushAgainMetal } from './again-metal'
import { average, averageFresnel, evaluateMetal, noteSeen, sampleMetal } from './metal-facets'
import { KIND } from './kinds'

const { facet, fresnel, lane, lobes, spec } = memory

/** Number of the metal, index of what it lies in, its RGB at normal incidence there, what the viewer sees of it. */
const TABLE = LOBE.table
const MEDIUM = LOBE.eta
const RGB = LOBE.f0
const SEEN = LOBE.edge

/** @param table number in `optics/conductors.ts`. Grain and film as in `memory.spec` */
export function pushConductor(layer: number, table: number): void {
  const weight = spec[SPEC.weight]!
  const o = newLobe(KIND.conductor, layer)
  if (o < 0) return
  const medium = mediumUnder(layer)
  lobes[o + TABLE] = table
  lobes[o + MEDIUM] = medium
  for (let k = 0; k < 3; k++) lobes[o + RGB + k] = rgbIn(table, medium, k)
  lobes[o + LOBE.albedo] = (lobes[o + RGB]! + lobes[o + RGB + 1]! + lobes[o + RGB + 2]!) / 3
  if (spec[SPEC.film]! > 0) layFilm(o, medium)
  if (layer >= 0) noteSeen(o, SEEN, conductorFresnel)
  colourByMeetings(o, conductorFresnel)
  const a = pushAgainMetal(o, layer)
  if (a < 0) return
  if (lobes[o + LOBE.film]! > 0) averageFresnel(o, conductorFresnel)
  else
    for (let k = 0; k < CHANNELS; k++) {
      const f0 = lobes[o + RGB + k - 4]!
      // Schlick's rise has the cosine mean F₀ + (1 − F₀)/21
      average[k] = k < 4 ? conductorAverage(table, lane[k]!, medium) : f0 + (1 - f0) / 21
    }
  for (let k = 0; k < CHANNELS; k++) colourAgain(a, k, weight, average[k]!)
}

export const passage = PASSAGE.far
export const underCoat = UNDER_COAT.mirrors
export const straight = nothing
export { noted as pick, rootAlpha as roughness, whenRough as answers }
export const albedo = (o: number, channel: number): number => lobes[o + SEEN + channel]!
export const guide = (o: number, k: number): number => lobes[o + RGB + k]!

function conductorFresnel(o: number): void {
  const cos = facet[FACET.cosine]!
  const m = 1 - cos
  const m2 = m * m
  const m5 = m2 * m2 * m
  const n = conductorN[lobes[o + TABLE]!]!
  const k = conductorK[lobes[o + TABLE]!]!
  const medium = lobes[o + MEDIUM]!
  for (let c = 0; c < 4; c++) fresnel[c] = fresnelConductor(cos, n[lane[c]!]! / medium, k[lane[c]!]! / medium)
  for (let c = 0; c < 3; c++) {
    const f0 = lobes[o + RGB + c]!
    fresnel[4 + c] = f0 + (1 - f0) * m5
  }
  if (!(lobes[o + LOBE.film]! > 0)) return
  beginFilm(o)
  for (let c = 0; c < CHANNELS; c++) {
    const g = c < 4 ? lane[c]! : STAND_IN_NM[c - 4]! - GRID_START
    film[FILM.n] = n[g]! / medium
    film[FILM.k] = k[g]! / medium
    film[FILM.bare] = fresnel[c]!
    coverMetal(o, c)
  }
}

export const evaluate = (o: number): void => evaluateMetal(o, conductorFresnel)
export const sample = (o: number): boolean => sampleMetal(o, conductorFresnel)
