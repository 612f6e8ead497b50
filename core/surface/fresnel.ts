/** Fresnel's factor of a lobe's interface per channel: metals, films, dispersion, thin sheets. */
import { GRID_START } from '../colour/grid'
import { conductorK, conductorN } from '../optics/conductors'
import { fresnelConductor, fresnelDielectric } from '../optics/fresnel'
import { FILM, meanRGB, prepareFilm, reflectFilm, STAND_IN_NM } from '../optics/thin-film'
import {
  CHANNELS,
  CONDUCTOR,
  L_EDGE,
  L_ETA,
  L_EXPONENT,
  L_F0,
  L_FILM,
  L_FILM_ETA,
  L_FILM_WAY,
  L_GRAZE,
  L_KIND,
  L_TABLE,
  lane,
  layers,
  lobes,
  METAL,
  SHEET,
  Y_ETA,
  Y_FILM,
  Y_FILM_ETA,
  Y_FILM_WAY,
} from './state'

/** Result of the functions here, per channel. */
export const fresnel = new Float64Array(CHANNELS)
/**
 * What a facet is asked for; an array, as numbers passed to calls are boxed. 0 cosine between the viewer and the
 * facet: what Fresnel's factors are asked for; 1 visible normals' D over four times the viewer's cosine, 2 the
 * same with both maskings; 3–5 direction of the light, 6 its cosine.
 */
export const FACET = new Float64Array(7)

/** Reflectance of a metal lobe at o. */
export function metalFresnel(o: number): void {
  const cos = FACET[0]!
  const m = 1 - cos
  const m2 = m * m
  const m5 = m2 * m2 * m
  const exponent = lobes[o + L_EXPONENT]!
  if (lobes[o + L_KIND] === CONDUCTOR) {
    const n = conductorN[lobes[o + L_TABLE]!]!
    const k = conductorK[lobes[o + L_TABLE]!]!
    for (let c = 0; c < 4; c++) fresnel[c] = fresnelConductor(cos, n[lane[c]!]!, k[lane[c]!]!)
    for (let c = 0; c < 3; c++) {
      const f0 = lobes[o + L_F0 + c]!
      fresnel[4 + c] = f0 + (1 - f0) * m5
    }
  } else {
    const edge = cos * m5 * m
    const rise = exponent > 0 ? m ** exponent : 0
    for (let c = 0; c < CHANNELS; c++) {
      const f0 = lobes[o + L_F0 + c]!
      const f =
        (exponent > 0 ? f0 + (lobes[o + L_GRAZE + c]! - f0) * rise : f0 + (1 - f0) * m5) -
        lobes[o + L_EDGE + c]! * edge
      fresnel[c] = f < 0 ? 0 : f > 1 ? 1 : f
    }
  }
  if (lobes[o + L_FILM]! > 0) metalUnderFilm(o)
}

/** Puts the film of a metal lobe over {@link fresnel}. */
function metalUnderFilm(o: number): void {
  const cos = FACET[0]!
  const w = lobes[o + L_FILM]!
  const measured = lobes[o + L_KIND] === CONDUCTOR
  FILM[0] = cos
  FILM[1] = lobes[o + L_FILM_ETA]!
  FILM[4] = lobes[o + L_FILM_WAY]!
  for (let c = 0; c < CHANNELS; c++) {
    const bare = fresnel[c]!
    let own = bare
    if (measured) {
      const g = c < 4 ? lane[c]! : STAND_IN_NM[c - 4]! - GRID_START
      FILM[2] = conductorN[lobes[o + L_TABLE]!]![g]!
      FILM[3] = conductorK[lobes[o + L_TABLE]!]![g]!
    } else {
      // n and k with the reflectance of the colour at normal incidence, half way between their bounds (Gulbrandsen
      // 2014, "Artist Friendly Metallic Fresnel", eqs. 2, 3)
      const r = Math.min(0.999, Math.max(1e-3, lobes[o + L_F0 + c]!))
      const root = Math.sqrt(r)
      const n = 0.5 * ((1 - r) / (1 + r) + (1 + root) / (1 - root))
      const k = Math.sqrt(Math.max(0, (r * (n + 1) * (n + 1) - (n - 1) * (n - 1)) / (1 - r)))
      FILM[2] = n
      FILM[3] = k
      own = fresnelConductor(cos, n, k)
    }
    prepareFilm()
    let f: number
    if (c < 4) {
      FILM[5] = GRID_START + lane[c]!
      reflectFilm()
      f = FILM[6]!
    } else {
      meanRGB(c - 4)
      f = FILM[7 + c - 4]!
    }
    f = own > 0 ? (f * bare) / own : f
    fresnel[c] = bare + ((f > 1 ? 1 : f) - bare) * w
  }
}

/**
 * Reflectance of a film on a dielectric of relative index `FILM[2]`, mixed with the bare interface by its share w.
 * FILM[0…4] are set but for k.
 */
function dielectricUnderFilm(w: number): void {
  const bare = fresnelDielectric(FILM[0]!, FILM[2]!)
  FILM[3] = 0
  prepareFilm()
  for (let c = 0; c < 4; c++) {
    FILM[5] = GRID_START + lane[c]!
    reflectFilm()
    fresnel[c] = bare + (FILM[6]! - bare) * w
  }
  for (let c = 0; c < 3; c++) {
    meanRGB(c)
    fresnel[4 + c] = bare + (FILM[7 + c]! - bare) * w
  }
}

/** Reflectance of a dielectric lobe at o whose channels differ, or of a thin sheet. */
export function dielectricFresnel(o: number): void {
  const cos = FACET[0]!
  const film = lobes[o + L_FILM]!
  if (film > 0) {
    FILM[0] = cos
    FILM[1] = lobes[o + L_FILM_ETA]!
    FILM[2] = lobes[o + L_ETA]!
    FILM[4] = lobes[o + L_FILM_WAY]!
    dielectricUnderFilm(film)
  } else if (lobes[o + L_KIND] === SHEET) fresnel.fill(fresnelDielectric(cos, lobes[o + L_ETA]!))
  else for (let c = 0; c < CHANNELS; c++) fresnel[c] = fresnelDielectric(cos, lobes[o + L_EDGE + c]!)
  if (lobes[o + L_KIND] !== SHEET) return
  // both faces of the sheet and all that goes to and fro between them, without phase: R = F₁ + (1 −
  // F₁)²F₂/(1 − F₁F₂)
  const back = fresnelDielectric(cos, lobes[o + L_ETA]!)
  for (let c = 0; c < CHANNELS; c++) {
    const f = fresnel[c]!
    const d = 1 - f * back
    fresnel[c] = d > 1e-9 ? f + ((1 - f) * (1 - f) * back) / d : 1
  }
}

/** Reflectance per channel of the film on the layer at y, at the cosine FACET[0]. */
export function layerFresnel(y: number): void {
  FILM[0] = FACET[0]!
  FILM[1] = layers[y + Y_FILM_ETA]!
  FILM[2] = layers[y + Y_ETA]!
  FILM[4] = layers[y + Y_FILM_WAY]!
  dielectricUnderFilm(layers[y + Y_FILM]!)
}

/**
 * Chance with which a lobe that both reflects and transmits reflects: the same for all wavelengths. Asks {@link
 * dielectricFresnel} first.
 */
export function reflectChance(): number {
  const mean = (fresnel[4]! + fresnel[5]! + fresnel[6]!) / 3
  return mean < 0.02 ? 0.02 : mean > 0.98 ? 0.98 : mean
}

/** Whether a lobe's Fresnel factor is a metal's. */
export const isMetal = (kind: number): boolean => kind === METAL || kind === CONDUCTOR
