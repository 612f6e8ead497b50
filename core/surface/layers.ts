/**
 * Layers that lobes lie under.
 *
 * A layer transmits T(μ) = 1 − C·E(μ) of the light at cosine μ and tints it by its colour to the power of the
 * slanted path. Light passes on the way in and out. For diffuse lobes the factor is T(μo)·T(μi)/T̄ (Kelemen &
 * Szirmay-Kalos 2001), for others min(T(μo), T(μi)): both are reciprocal, and neither ever returns more than came
 * in. Darkening by reflection inside a coat is OpenPBR 1.1's. Under a film T differs between the channels: the
 * tint carries what differs.
 */
import { fresnelDielectric } from '../optics/fresnel'
import { FILM } from '../optics/slots'
import { film } from '../optics/thin-film'
import { askAlbedo, dielectricAlbedo, dielectricAlbedoAverage } from './albedo'
import { facetsMissing } from './facets'
import { filmOnLayer } from './fresnel'
import { fuzzAlbedo, fuzzAverage } from './fuzz'
import { GAUSS_W, GAUSS_X } from './gauss'
import { SMOOTH_ALPHA } from './ggx'
import { fitNormal } from './fit-normal'
import { cosineWithin, mediumUnder, shrinkUnder } from './medium'
import { memory, now } from './memory'
import { ALBEDO, CHANNELS, LAYER, LAYER_KIND, MAX_LAYERS, SPEC } from './slots'
import { spread } from './spread'

const { albedo, fit, layerFresnel, layers, spec } = memory

/**
 * Adds a layer that later lobes lie under. `memory.spec` has roughness, index, normal, film, coverage and tint.
 * @param parent layer above, or −1
 * @returns number of the layer
 */
export function pushLayer(parent: number): number {
  const y = openLayer(parent)
  if (y < 0) return parent
  fillLayer(y, parent)
  return y
}

/**
 * {@link pushLayer} of a coat: what lies below lies in its matter.
 * @param index absolute, of the coat
 */
export function pushCoatLayer(parent: number, index: number): number {
  const y = openLayer(parent)
  if (y < 0) return parent
  const o = y * LAYER.stride
  layers[o + LAYER.medium]! += (index - layers[o + LAYER.medium]!) * spec[SPEC.coverage]!
  fillLayer(y, parent)
  return y
}

/**
 * {@link pushLayer} of what reflects by a rise towards grazing angles.
 * @param from reflectance at normal incidence, the largest of its components; to: the same at grazing angles
 */
export function pushRiseLayer(parent: number, from: number, to: number): number {
  const y = openLayer(parent)
  if (y < 0) return parent
  layers[y * LAYER.stride + LAYER.kind] = LAYER_KIND.rise
  layers[y * LAYER.stride + LAYER.from] = from
  layers[y * LAYER.stride + LAYER.to] = to
  fillLayer(y, parent)
  return y
}

/** Fills layer y with what the spec says, and what the layers above it let through. */
function fillLayer(y: number, parent: number): void {
  const o = y * LAYER.stride
  const weight = spec[SPEC.coverage]!
  const r = spec[SPEC.tint]!
  const g = spec[SPEC.tint + 1]!
  const b = spec[SPEC.tint + 2]!
  const alpha = spec[SPEC.alpha]!
  const e = spec[SPEC.eta]! < 1 ? 1 / spec[SPEC.eta]! : spec[SPEC.eta]!
  const cos = viewerCosine(o)
  layers[o + LAYER.alpha] = alpha < SMOOTH_ALPHA ? 0 : alpha > 1 ? 1 : alpha
  layers[o + LAYER.eta] = e
  layers[o + LAYER.film] = spec[SPEC.film]! > 0 ? Math.min(1, spec[SPEC.film]!) : 0
  const coloured = r < 1 || g < 1 || b < 1
  const filmed = layers[o + LAYER.film]! > 0
  layers[o + LAYER.tinted] = coloured || filmed ? 1 : 0
  const up = parent >= 0 ? parent * LAYER.stride : -1
  albedo[ALBEDO.cosine] = cos
  askLayer(o)
  const E = albedo[ALBEDO.answer]!
  layers[o + LAYER.pass] = (1 - weight * E) * (up >= 0 ? layers[up + LAYER.pass]! : 1)
  if (coloured) {
    spread(layers, o + LAYER.log, Math.max(r, 1e-6), Math.max(g, 1e-6), Math.max(b, 1e-6))
    for (let k = 0; k < CHANNELS; k++) layers[o + LAYER.log + k] = Math.log(layers[o + LAYER.log + k]!)
  } else if (filmed) for (let k = 0; k < CHANNELS; k++) layers[o + LAYER.log + k] = 0
  const slant = slantOf(cos, e)
  for (let k = 0; k < CHANNELS; k++) {
    const own = coloured ? 1 - weight + weight * Math.exp(0.5 * slant * layers[o + LAYER.log + k]!) : 1
    layers[o + LAYER.tint + k] = own * (up >= 0 ? layers[up + LAYER.tint + k]! : 1)
  }
  layers[o + LAYER.average] = averagePass(y)
  if (filmed) {
    layers[o + LAYER.filmEta] = spec[SPEC.filmIndex]! / mediumUnder(parent)
    layers[o + LAYER.filmWay] = 2 * spec[SPEC.filmIndex]! * Math.max(0, spec[SPEC.filmThickness]!)
    filmPass(o, cos, E)
    for (let k = 0; k < CHANNELS; k++) layers[o + LAYER.tint + k]! *= layerFresnel[k]!
    evenFilm(o)
  }
}

/**
 * Takes a layer that lies under `parent` and covers as much of it as the spec says, with its normal.
 * @returns its number, −1 when there is no room
 */
function openLayer(parent: number): number {
  if (now.layers >= MAX_LAYERS) {
    now.dropped++
    return -1
  }
  const y = now.layers++
  const o = y * LAYER.stride
  fitNormal()
  layers[o] = parent
  layers[o + LAYER.weight] = spec[SPEC.coverage]!
  layers[o + LAYER.nx] = fit[0]!
  layers[o + LAYER.ny] = fit[1]!
  layers[o + LAYER.nz] = fit[2]!
  layers[o + LAYER.kind] = LAYER_KIND.dielectric
  layers[o + LAYER.medium] = mediumUnder(parent)
  layers[o + LAYER.shrink] = shrinkUnder(parent)
  return y
}

/** Cosine at which the viewer sees the layer at o, in the matter above it. */
export const viewerCosine = (o: number): number =>
  cosineWithin(
    Math.min(
      1,
      Math.max(
        1e-5,
        layers[o + LAYER.nx]! * now.ox + layers[o + LAYER.ny]! * now.oy + layers[o + LAYER.nz]! * now.oz,
      ),
    ),
    layers[o + LAYER.shrink]!,
  )

/**
 * Albedo of facets that reflect by a rise of exponent 5. The rise's share is a fit from above (no source) to sums
 * of drawn normals over roughness 0.05–1: what lies below must not get more than there is; at most 0.015 below
 * the sum, 0.1 above it at grazing angles.
 */
function riseAlbedo(cos: number, alpha: number, from: number, to: number): number {
  const m = 1 - cos
  const x = m * m * m * m * m
  return from * (1 - facetsMissing(cos, alpha)) + (Math.max(0, to - from) * x) / (1 + (8 + 20 * alpha) * alpha * x)
}

/**
 * How much of the light at the cosine albedo[ALBEDO.cosine] the layer at o sends back, into albedo[ALBEDO.answer].
 */
export function askLayer(o: number): void {
  const kind = layers[o + LAYER.kind]!
  if (kind === LAYER_KIND.fuzz) {
    albedo[ALBEDO.answer] = fuzzAlbedo(albedo[ALBEDO.cosine]!, layers[o + LAYER.alpha]!)
    return
  }
  if (kind === LAYER_KIND.rise) {
    albedo[ALBEDO.answer] = riseAlbedo(
      albedo[ALBEDO.cosine]!,
      layers[o + LAYER.alpha]!,
      layers[o + LAYER.from]!,
      layers[o + LAYER.to]!,
    )
    return
  }
  albedo[ALBEDO.alpha] = layers[o + LAYER.alpha]!
  albedo[ALBEDO.eta] = layers[o + LAYER.eta]!
  askAlbedo()
}

/**
 * What passes a layer with a film over what passes it without, per channel, into `memory.layerFresnel`.
 * @param E albedo without the film
 */
export function filmPass(o: number, cos: number, E: number): void {
  film[FILM.cosine] = cos
  filmOnLayer(o)
  const weight = layers[o + LAYER.weight]!
  const smooth = Math.max(1e-4, fresnelDielectric(cos, layers[o + LAYER.eta]!))
  const plain = 1 - weight * E
  for (let k = 0; k < CHANNELS; k++)
    layerFresnel[k] = plain > 1e-6 ? (1 - weight * Math.min(1, (E * layerFresnel[k]!) / smooth)) / plain : 1
}

/**
 * Cosine mean of the film's own part of what passes the layer at o, per channel, so that {@link LAYER.even} times
 * what passes twice never exceeds what passes once.
 */
function evenFilm(o: number): void {
  const even = layers.subarray(o + LAYER.even, o + LAYER.even + CHANNELS)
  even.fill(0)
  let plain = 0
  for (let i = 0; i < 5; i++) {
    const mu = Math.sqrt(GAUSS_X[i]!)
    const E = dielectricAlbedo(mu, layers[o + LAYER.alpha]!, layers[o + LAYER.eta]!)
    const T = 1 - layers[o + LAYER.weight]! * E
    filmPass(o, mu, E)
    plain += GAUSS_W[i]! * T
    for (let k = 0; k < CHANNELS; k++) even[k]! += GAUSS_W[i]! * T * layerFresnel[k]!
  }
  for (let k = 0; k < CHANNELS; k++) even[k] = plain / Math.max(1e-3, even[k]!)
}

/** Adds a layer of fuzz: what lies below gets what the fibres let through. @returns number of the layer */
export function pushFuzzLayer(
  parent: number,
  weight: number,
  roughness: number,
  nx: number,
  ny: number,
  nz: number,
): number {
  spec[SPEC.normal] = nx
  spec[SPEC.normal + 1] = ny
  spec[SPEC.normal + 2] = nz
  spec[SPEC.coverage] = weight
  const y = openLayer(parent)
  if (y < 0) return parent
  const o = y * LAYER.stride
  const up = parent >= 0 ? parent * LAYER.stride : -1
  layers[o + LAYER.alpha] = roughness
  layers[o + LAYER.eta] = 1.5
  layers[o + LAYER.kind] = LAYER_KIND.fuzz
  layers[o + LAYER.film] = 0
  layers[o + LAYER.tinted] = 0
  layers[o + LAYER.pass] =
    (1 - weight * fuzzAlbedo(viewerCosine(o), roughness)) * (up >= 0 ? layers[up + LAYER.pass]! : 1)
  for (let k = 0; k < CHANNELS; k++) layers[o + LAYER.tint + k] = up >= 0 ? layers[up + LAYER.tint + k]! : 1
  layers[o + LAYER.average] = averagePass(y)
  return y
}

/** Length of the way through a layer of unit thickness at outer cosine `cos`, after refraction. */
export function slantOf(cos: number, eta: number): number {
  return 1 / Math.sqrt(1 - (1 - cos * cos) / (eta * eta))
}

/** Cosine average of what passes layer y and those above it. */
function averagePass(y: number): number {
  const o = y * LAYER.stride
  if (layers[o]! < 0 && layers[o + LAYER.kind] !== LAYER_KIND.rise)
    return (
      1 -
      layers[o + LAYER.weight]! *
        (layers[o + LAYER.kind] === LAYER_KIND.fuzz
          ? fuzzAverage(layers[o + LAYER.alpha]!)
          : dielectricAlbedoAverage(layers[o + LAYER.alpha]!, layers[o + LAYER.eta]!))
    )
  let sum = 0
  for (let i = 0; i < 5; i++) {
    const mu = Math.sqrt(GAUSS_X[i]!)
    let pass = 1
    for (let z = y; z >= 0; z = layers[z * LAYER.stride]!) {
      albedo[ALBEDO.cosine] = cosineWithin(mu, layers[z * LAYER.stride + LAYER.shrink]!)
      askLayer(z * LAYER.stride)
      pass *= 1 - layers[z * LAYER.stride + LAYER.weight]! * albedo[ALBEDO.answer]!
    }
    sum += GAUSS_W[i]! * pass
  }
  return sum
}
