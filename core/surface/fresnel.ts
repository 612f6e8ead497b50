/** Fresnel's factor of an interface per channel: films on dielectrics and metals, dispersion. */
import { GRID_START } from '../colour/grid'
import { fresnelDielectric } from '../optics/fresnel'
import { FILM } from '../optics/slots'
import { film, meanRGB, prepareFilm, reflectFilm } from '../optics/thin-film'
import { memory, now } from './memory'
import { CHANNELS, FACET, LAYER, LOBE } from './slots'

const { facet, fresnel, lane, layerFresnel, layers, lobes, passes } = memory

/**
 * Reflectance of a film on a dielectric of relative index `film[FILM.n]`, mixed with the bare interface by its
 * share w. Cosine, index and way are in {@link film}.
 */
function dielectricUnderFilm(target: Float64Array, w: number): void {
  const bare = fresnelDielectric(film[FILM.cosine]!, film[FILM.n]!)
  film[FILM.k] = 0
  prepareFilm()
  for (let c = 0; c < 4; c++) {
    film[FILM.wavelength] = GRID_START + lane[c]!
    reflectFilm()
    target[c] = bare + (film[FILM.reflectance]! - bare) * w
  }
  for (let c = 0; c < 3; c++) {
    meanRGB(c)
    target[4 + c] = bare + (film[FILM.mean + c]! - bare) * w
  }
}

/** Reflectance, and what passes, of the face of a dielectric lobe at o whose channels differ, at the facet's cosine. */
export function faceFresnel(o: number): void {
  const share = lobes[o + LOBE.film]!
  if (lobes[o + LOBE.coat]! > 0) {
    coatedFace(o)
    return
  }
  if (share > 0) {
    beginFilm(o)
    film[FILM.n] = lobes[o + LOBE.eta]!
    dielectricUnderFilm(fresnel, share)
  } else
    for (let c = 0; c < CHANNELS; c++)
      fresnel[c] = fresnelDielectric(facet[FACET.cosine]!, lobes[o + LOBE.edge + c]!)
  for (let c = 0; c < CHANNELS; c++) passes[c] = 1 - fresnel[c]!
}

/**
 * The face of a glass under a coat, as one sum over its two faces (1 outside, 2 the coat, 3 the glass) without phase
 * (Stokes 1862): R = F₂₃ + (1 − F₂₃)²F₁₂t²/D and T = (1 − F₁₂)(1 − F₂₃)t/D from within the glass, with what crosses the
 * coat once, t = tint^(1/(2 cos)), and D = 1 − F₁₂F₂₃t². From outside the layer above the lobe takes 1 − F₁₂ and t on
 * each way (`accumulate.ts`): what is left of R − F₁₂ and T without these.
 */
function coatedFace(o: number): void {
  const C = lobes[o + LOBE.coat]!
  const eta = lobes[o + LOBE.coatEta]!
  const cos = facet[FACET.cosine]!
  for (let c = 0; c < CHANNELS; c++) {
    const glass = lobes[o + LOBE.edge + c]!
    const bare = fresnelDielectric(cos, glass)
    // index of the coat over that of what light comes from
    const across = now.outside ? eta : eta * glass
    const sin2 = (1 - cos * cos) / (across * across)
    let R = 1
    let T = 0
    if (sin2 < 1) {
      const inside = Math.sqrt(1 - sin2)
      const near = fresnelDielectric(cos, across)
      const far = fresnelDielectric(inside, now.outside ? glass / eta : 1 / eta)
      const t2 = Math.exp(lobes[o + LOBE.coatLog + c]! / inside)
      const D = 1 - near * far * t2
      R = now.outside ? (far * (1 - near)) / D : near + ((1 - near) * (1 - near) * far * t2) / D
      T = now.outside ? (1 - far) / D : ((1 - near) * (1 - far) * Math.sqrt(t2)) / D
    }
    fresnel[c] = bare + (R - bare) * C
    passes[c] = 1 - bare + (T - 1 + bare) * C
  }
}

/**
 * Reflectance per channel of the film on the layer at y, at the cosine in {@link film}, to `memory.layerFresnel`.
 */
export function filmOnLayer(y: number): void {
  film[FILM.index] = layers[y + LAYER.filmEta]!
  film[FILM.n] = layers[y + LAYER.eta]!
  film[FILM.way] = layers[y + LAYER.filmWay]!
  dielectricUnderFilm(layerFresnel, layers[y + LAYER.film]!)
}

/** Says which film lies on the lobe at o, and at which cosine it is seen. */
export function beginFilm(o: number): void {
  film[FILM.cosine] = facet[FACET.cosine]!
  film[FILM.index] = lobes[o + LOBE.filmEta]!
  film[FILM.way] = lobes[o + LOBE.filmWay]!
}

/**
 * Lays that film over channel c of a metal in `memory.fresnel`: n, k and what they reflect bare are in {@link
 * film}.
 */
export function coverMetal(o: number, c: number): void {
  const bare = fresnel[c]!
  const own = film[FILM.bare]!
  prepareFilm()
  let f: number
  if (c < 4) {
    film[FILM.wavelength] = GRID_START + lane[c]!
    reflectFilm()
    f = film[FILM.reflectance]!
  } else {
    meanRGB(c - 4)
    f = film[FILM.mean + c - 4]!
  }
  f = own > 0 ? (f * bare) / own : f
  fresnel[c] = bare + ((f > 1 ? 1 : f) - bare) * lobes[o + LOBE.film]!
}

/**
 * Chance with which a lobe that both reflects and transmits reflects, by what is in `memory.fresnel`: the same for
 * all wavelengths.
 */
export function reflectChance(): number {
  const mean = (fresnel[4]! + fresnel[5]! + fresnel[6]!) / 3
  return mean < 0.02 ? 0.02 : mean > 0.98 ? 0.98 : mean
}
