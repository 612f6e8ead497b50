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
import { ALBEDO, askAlbedo, dielectricAlbedo, dielectricAlbedoAverage } from './albedo'
import { facetsMissing } from './facets'
import { FACET, fresnel, layerFresnel } from './fresnel'
import { fuzzAlbedo, fuzzAverage } from './fuzz'
import { GAUSS_W, GAUSS_X } from './gauss'
import { SMOOTH_ALPHA } from './ggx'
import {
  CHANNELS,
  DIFFUSE,
  fit,
  fitNormal,
  LAYER,
  layers,
  lobes,
  L_ALBEDO,
  L_ALPHA,
  L_F0,
  L_ONCE,
  L_STRIDE,
  L_W,
  MAX_LAYERS,
  METAL,
  now,
  Q,
  spread,
  Y_ALPHA,
  Y_AVERAGE,
  Y_ETA,
  Y_EVEN,
  Y_FILM,
  Y_FILM_ETA,
  Y_FILM_WAY,
  Y_FROM,
  Y_KIND,
  Y_LOG,
  Y_NX,
  Y_NY,
  Y_NZ,
  Y_PASS,
  Y_STRIDE,
  Y_TINT,
  Y_TINTED,
  Y_TO,
  Y_WEIGHT,
} from './state'

/**
 * Adds a layer that later lobes lie under. Q has roughness, index, normal, film; 8 its coverage C, 0..1; 9–11
 * what it does to light that goes in and out at normal incidence.
 * @param parent layer above, or −1
 * @returns number of the layer
 */
export function layerQ(parent: number): number {
  const y = openLayer(parent)
  if (y < 0) return parent
  fillLayer(y, parent)
  return y
}

/**
 * {@link layerQ} of what reflects by a rise towards grazing angles.
 * @param from reflectance at normal incidence, the largest of its components; to: the same at grazing angles
 */
export function riseLayerQ(parent: number, from: number, to: number): number {
  const y = openLayer(parent)
  if (y < 0) return parent
  layers[y * Y_STRIDE + Y_KIND] = LAYER.rise
  layers[y * Y_STRIDE + Y_FROM] = from
  layers[y * Y_STRIDE + Y_TO] = to
  fillLayer(y, parent)
  return y
}

/** Fills layer y with what Q says, and what the layers above it let through. */
function fillLayer(y: number, parent: number): void {
  const o = y * Y_STRIDE
  const weight = Q[8]!
  const r = Q[9]!
  const g = Q[10]!
  const b = Q[11]!
  const alpha = Q[3]!
  const e = Q[4]! < 1 ? 1 / Q[4]! : Q[4]!
  const cos = viewerCosine(o)
  layers[o + Y_ALPHA] = alpha < SMOOTH_ALPHA ? 0 : alpha > 1 ? 1 : alpha
  layers[o + Y_ETA] = e
  layers[o + Y_FILM] = Q[16]! > 0 ? Math.min(1, Q[16]!) : 0
  const coloured = r < 1 || g < 1 || b < 1
  const film = layers[o + Y_FILM]! > 0
  layers[o + Y_TINTED] = coloured || film ? 1 : 0
  const up = parent >= 0 ? parent * Y_STRIDE : -1
  ALBEDO[0] = cos
  askLayer(o)
  const E = ALBEDO[3]!
  layers[o + Y_PASS] = (1 - weight * E) * (up >= 0 ? layers[up + Y_PASS]! : 1)
  if (coloured) {
    spread(layers, o + Y_LOG, Math.max(r, 1e-6), Math.max(g, 1e-6), Math.max(b, 1e-6))
    for (let k = 0; k < CHANNELS; k++) layers[o + Y_LOG + k] = Math.log(layers[o + Y_LOG + k]!)
  } else if (film) for (let k = 0; k < CHANNELS; k++) layers[o + Y_LOG + k] = 0
  const slant = slantOf(cos, e)
  for (let k = 0; k < CHANNELS; k++) {
    const own = coloured ? 1 - weight + weight * Math.exp(0.5 * slant * layers[o + Y_LOG + k]!) : 1
    layers[o + Y_TINT + k] = own * (up >= 0 ? layers[up + Y_TINT + k]! : 1)
  }
  layers[o + Y_AVERAGE] = averagePass(y)
  if (film) {
    layers[o + Y_FILM_ETA] = Q[17]! / Q[19]!
    layers[o + Y_FILM_WAY] = 2 * Q[17]! * Math.max(0, Q[18]!)
    filmPass(o, cos, E)
    for (let k = 0; k < CHANNELS; k++) layers[o + Y_TINT + k]! *= fresnel[k]!
    evenFilm(o)
  }
}

/**
 * Takes a layer that lies under `parent` and covers Q[8] of it, with the normal of Q.
 * @returns its number, −1 when there is no room
 */
function openLayer(parent: number): number {
  if (now.layers >= MAX_LAYERS) {
    now.dropped++
    return -1
  }
  const y = now.layers++
  const o = y * Y_STRIDE
  fitNormal()
  layers[o] = parent
  layers[o + Y_WEIGHT] = Q[8]!
  layers[o + Y_NX] = fit[0]!
  layers[o + Y_NY] = fit[1]!
  layers[o + Y_NZ] = fit[2]!
  layers[o + Y_KIND] = LAYER.dielectric
  return y
}

/** Cosine at which the viewer sees the layer at o. */
const viewerCosine = (o: number): number =>
  Math.min(1, Math.max(1e-5, layers[o + Y_NX]! * now.ox + layers[o + Y_NY]! * now.oy + layers[o + Y_NZ]! * now.oz))

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

/** How much of the light at the cosine ALBEDO[0] the layer at o sends back, into ALBEDO[3]. */
export function askLayer(o: number): void {
  const kind = layers[o + Y_KIND]!
  if (kind === LAYER.fuzz) {
    ALBEDO[3] = fuzzAlbedo(ALBEDO[0]!, layers[o + Y_ALPHA]!)
    return
  }
  if (kind === LAYER.rise) {
    ALBEDO[3] = riseAlbedo(ALBEDO[0]!, layers[o + Y_ALPHA]!, layers[o + Y_FROM]!, layers[o + Y_TO]!)
    return
  }
  ALBEDO[1] = layers[o + Y_ALPHA]!
  ALBEDO[2] = layers[o + Y_ETA]!
  askAlbedo()
}

/**
 * What passes a layer with a film over what passes it without, per channel, into {@link fresnel}.
 * @param E albedo without the film
 */
export function filmPass(o: number, cos: number, E: number): void {
  FACET[0] = cos
  layerFresnel(o)
  const weight = layers[o + Y_WEIGHT]!
  const smooth = Math.max(1e-4, fresnelDielectric(cos, layers[o + Y_ETA]!))
  const plain = 1 - weight * E
  for (let k = 0; k < CHANNELS; k++)
    fresnel[k] = plain > 1e-6 ? (1 - weight * Math.min(1, (E * fresnel[k]!) / smooth)) / plain : 1
}

/**
 * Cosine mean of the film's own part of what passes the layer at o, per channel, so that {@link Y_EVEN} times what
 * passes twice never exceeds what passes once.
 */
function evenFilm(o: number): void {
  const even = layers.subarray(o + Y_EVEN, o + Y_EVEN + CHANNELS)
  even.fill(0)
  let plain = 0
  for (let i = 0; i < 5; i++) {
    const mu = Math.sqrt(GAUSS_X[i]!)
    const E = dielectricAlbedo(mu, layers[o + Y_ALPHA]!, layers[o + Y_ETA]!)
    const T = 1 - layers[o + Y_WEIGHT]! * E
    filmPass(o, mu, E)
    plain += GAUSS_W[i]! * T
    for (let k = 0; k < CHANNELS; k++) even[k]! += GAUSS_W[i]! * T * fresnel[k]!
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
  Q[5] = nx
  Q[6] = ny
  Q[7] = nz
  Q[8] = weight
  const y = openLayer(parent)
  if (y < 0) return parent
  const o = y * Y_STRIDE
  const up = parent >= 0 ? parent * Y_STRIDE : -1
  layers[o + Y_ALPHA] = roughness
  layers[o + Y_ETA] = 1.5
  layers[o + Y_KIND] = LAYER.fuzz
  layers[o + Y_FILM] = 0
  layers[o + Y_TINTED] = 0
  layers[o + Y_PASS] = (1 - weight * fuzzAlbedo(viewerCosine(o), roughness)) * (up >= 0 ? layers[up + Y_PASS]! : 1)
  for (let k = 0; k < CHANNELS; k++) layers[o + Y_TINT + k] = up >= 0 ? layers[up + Y_TINT + k]! : 1
  layers[o + Y_AVERAGE] = averagePass(y)
  return y
}

/** Length of the way through a layer of unit thickness at outer cosine `cos`, after refraction. */
export function slantOf(cos: number, eta: number): number {
  return 1 / Math.sqrt(1 - (1 - cos * cos) / (eta * eta))
}

/** Cosine average of what passes layer y and those above it. */
function averagePass(y: number): number {
  const o = y * Y_STRIDE
  if (layers[o]! < 0 && layers[o + Y_KIND] !== LAYER.rise)
    return (
      1 -
      layers[o + Y_WEIGHT]! *
        (layers[o + Y_KIND] === LAYER.fuzz
          ? fuzzAverage(layers[o + Y_ALPHA]!)
          : dielectricAlbedoAverage(layers[o + Y_ALPHA]!, layers[o + Y_ETA]!))
    )
  let sum = 0
  for (let i = 0; i < 5; i++) {
    const mu = Math.sqrt(GAUSS_X[i]!)
    let pass = 1
    for (let z = y; z >= 0; z = layers[z * Y_STRIDE]!) {
      ALBEDO[0] = mu
      askLayer(z * Y_STRIDE)
      pass *= 1 - layers[z * Y_STRIDE + Y_WEIGHT]! * ALBEDO[3]!
    }
    sum += GAUSS_W[i]! * pass
  }
  return sum
}

/**
 * Darkens the lobes from `first` on by light that the layer sends back to them from within (OpenPBR Surface 1.1,
 * "Coat darkening": Δ = (1 − K)/(1 − E·K), with K between the mirror-like and the diffuse internal
 * reflection; in the denominator with what a tint leaves of light on its way there and back, which the
 * specification's formula leaves out: half of its tint over white would come out 0.11 too bright). Diffuse light
 * lies at cosines below the critical one µ for the most part: its mean tint ∫ 2µ′F(µ′)c^(1/µ′)dµ′/K
 * is (c^(1.08/µ) + c^(2.1/µ))/2 within 0.02 for indices from 1.3 to 2.5 and all c.
 * @param weight of the surface before it was split into these lobes
 * @param amount 0..1, coat weight times darkening
 */
export function darkenFrom(first: number, layer: number, weight: number, amount: number): void {
  if (amount <= 0 || weight <= 0) return
  const o = layer * Y_STRIDE
  const eta = layers[o + Y_ETA]!
  const alpha = layers[o + Y_ALPHA]!
  const mirror = dielectricAlbedo(viewerCosine(o), alpha, eta)
  const diffuse = 1 - (1 - dielectricAlbedoAverage(alpha, eta)) / (eta * eta)
  const tinted = layers[o + Y_TINTED] === 1
  const slant = slantOf(viewerCosine(o), eta)
  const steepest = 1 / Math.sqrt(1 - 1 / (eta * eta))
  for (let k = 0; k < CHANNELS; k++) {
    let albedo = 0
    let rough = 0
    let total = 0
    for (let i = first; i < now.lobes; i++) {
      const l = i * L_STRIDE
      const kind = lobes[l]!
      const a =
        lobes[l + L_W + k]! * lobes[l + L_ONCE]! * (kind === METAL ? lobes[l + L_F0 + k]! : lobes[l + L_ALBEDO]!)
      albedo += a
      total += a
      rough += a * (kind === DIFFUSE ? 1 : Math.sqrt(lobes[l + L_ALPHA]!))
    }
    if (total <= 0) continue
    const f = rough / total
    const K = mirror + (diffuse - mirror) * f
    const log = layers[o + Y_LOG + k]!
    // what comes back has crossed the tint twice more
    const returns = tinted
      ? (1 - f) * mirror * Math.exp(slant * log) +
        f * diffuse * 0.5 * (Math.exp(1.08 * steepest * log) + Math.exp(2.1 * steepest * log))
      : K
    const E = Math.min(1, albedo / weight)
    const delta = 1 + amount * ((1 - K) / (1 - E * returns) - 1)
    for (let i = first; i < now.lobes; i++) lobes[i * L_STRIDE + L_W + k]! *= delta
  }
}
