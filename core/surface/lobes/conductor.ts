/** A metal by measurement: exact complex Fresnel per wavelength. */
import { GRID_START } from '../../colour/grid'
import { conductorK, conductorN } from '../../optics/conductors'
import { fresnelConductor } from '../../optics/fresnel'
import { FILM } from '../../optics/slots'
import { film, STAND_IN_NM } from '../../optics/thin-film'
import { conductorAverage } from '../conductor-average'
import { beginFilm, coverMetal } from '../fresnel'
import { PASSAGE } from '../lobe'
import { memory } from '../memory'
import { layFilm, newLobe } from '../open-lobe'
import { CHANNELS, FACET, LOBE, SPEC } from '../slots'
import { noted, nothing, rootAlpha, whenRough } from '../traits'
import { colourAgain, pushAgainMetal } from './again-metal'
import { evaluateMetal, sampleMetal } from './metal-facets'
import { KIND } from './kinds'

const { facet, fresnel, lane, lobes, spec } = memory

/** Number of the metal, and its RGB at normal incidence. */
const TABLE = LOBE.table
const RGB = LOBE.f0

/**
 * @param table number in `optics/conductors.ts`
 * @param fr its RGB at normal incidence, with fg and fb. Grain and film as in `memory.spec`
 */
export function pushConductor(layer: number, table: number, fr: number, fg: number, fb: number): void {
  const weight = spec[SPEC.weight]!
  const o = newLobe(KIND.conductor, layer)
  if (o < 0) return
  lobes[o + TABLE] = table
  lobes[o + RGB] = fr
  lobes[o + RGB + 1] = fg
  lobes[o + RGB + 2] = fb
  lobes[o + LOBE.albedo] = (fr + fg + fb) / 3
  if (spec[SPEC.film]! > 0) layFilm(o, spec[SPEC.filmUnder]!)
  const a = pushAgainMetal(o, layer)
  if (a < 0) return
  const mean = conductorAverage(table)
  for (let k = 0; k < CHANNELS; k++) {
    // Schlick's rise has the cosine mean F₀ + (1 − F₀)/21
    const F = k < 4 ? mean[lane[k]!]! : lobes[o + RGB + k - 4]! + (1 - lobes[o + RGB + k - 4]!) / 21
    colourAgain(a, k, weight, F)
  }
}

export const passage = PASSAGE.far
export const straight = nothing
export { noted as albedo, noted as pick, rootAlpha as roughness, whenRough as answers }
export const guide = (o: number, k: number): number => lobes[o + RGB + k]!

function conductorFresnel(o: number): void {
  const cos = facet[FACET.cosine]!
  const m = 1 - cos
  const m2 = m * m
  const m5 = m2 * m2 * m
  const n = conductorN[lobes[o + TABLE]!]!
  const k = conductorK[lobes[o + TABLE]!]!
  for (let c = 0; c < 4; c++) fresnel[c] = fresnelConductor(cos, n[lane[c]!]!, k[lane[c]!]!)
  for (let c = 0; c < 3; c++) {
    const f0 = lobes[o + RGB + c]!
    fresnel[4 + c] = f0 + (1 - f0) * m5
  }
  if (!(lobes[o + LOBE.film]! > 0)) return
  beginFilm(o)
  for (let c = 0; c < CHANNELS; c++) {
    const g = c < 4 ? lane[c]! : STAND_IN_NM[c - 4]! - GRID_START
    film[FILM.n] = n[g]!
    film[FILM.k] = k[g]!
    film[FILM.bare] = fresnel[c]!
    coverMetal(o, c)
  }
}

export const evaluate = (o: number): void => evaluateMetal(o, conductorFresnel)
export const sample = (o: number): boolean => sampleMetal(o, conductorFresnel)
