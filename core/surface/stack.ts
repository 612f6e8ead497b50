/**
 * The surface at one shading point: lobes under layers, as a compiled network pushes them.
 *
 * There is one current surface a thread, held in flat arrays of this module: the render loop fills it, scatters from it and moves on,
 * without allocating. Seven channels ride along: four wavelengths (0–3) and the RGB companion (4–6), see `colour/wavelengths.ts`.
 * No decision (lobe choice, direction, roulette) may depend on the wavelengths; they look at the companion only.
 *
 * Layering. A layer transmits T(μ) = 1 − C·E(μ) of the light at cosine μ and tints it by its colour to the power of the slanted path.
 * Light passes on the way in and out. For diffuse lobes the factor is T(μo)·T(μi)/T̄ (Kelemen & Szirmay-Kalos 2001), for others
 * min(T(μo), T(μi)): both are reciprocal, and neither ever returns more than came in. Darkening by reflection inside a coat is OpenPBR 1.1's.
 */
import { ALBEDO, askAlbedo, dielectricAlbedo, dielectricAlbedoAverage } from './albedo'
import { fresnelConductor } from '../optics/fresnel'
import { POINT, POINT_STRIDE } from '../network/shading-point'
import { SMOOTH_ALPHA } from './ggx'

/** Number of channels. */
export const CHANNELS = 7
export const MAX_LOBES = 32
export const MAX_LAYERS = 16

export const DIFFUSE = 0, REFLECT = 1, CONDUCTOR = 2, METAL = 3, GLASS = 4
/** What a lobe counts as when radiance is kept by lobe ({@link L_CLASS}); what passes through glass counts as transmission whatever its lobe says. */
export const CLASS = { diffuse: 0, specular: 1, transmission: 2, coat: 3 } as const

/** Words of a lobe in {@link lobes}. */
export const L_KIND = 0, L_LAYER = 1, L_W = 2, L_ALPHA = 9, L_ETA = 10, L_NX = 11, L_NY = 12, L_NZ = 13, L_COS = 14, L_PICK = 15,
  L_TABLE = 16, L_F0 = 17, L_EDGE = 24, L_NORM = 31, L_ALBEDO = 32, L_CLASS = 33, L_STRIDE = 34
/** Words of a layer in {@link layers}. */
export const Y_PARENT = 0, Y_WEIGHT = 1, Y_ALPHA = 2, Y_ETA = 3, Y_NX = 4, Y_NY = 5, Y_NZ = 6, Y_TINTED = 7, Y_LOG = 8, Y_PASS = 15, Y_TINT = 16, Y_AVERAGE = 23, Y_STRIDE = 24

export const lobes = new Float64Array(MAX_LOBES * L_STRIDE)
export const layers = new Float64Array(MAX_LAYERS * Y_STRIDE)
/** Curves B of the path's wavelengths: three a lane. */
export const basis = new Float64Array(12)
/** Grid index of each lane. */
export const lane = new Int32Array(4)
/** Radiance the surface itself sends towards the viewer, per channel. */
export const emission = new Float64Array(CHANNELS)
/** Absorption inside the surface per channel, 1/m; set by glass with depth. */
export const interior = new Float64Array(CHANNELS)

/** Counters and geometry of the current surface. Vectors are unit; `g` faces the viewer. */
export const now = {
  lobes: 0, layers: 0,
  /** Whether the viewer stands on the outer side. */
  outside: true,
  ox: 0.5, oy: 0.5, oz: 0.5, gx: 0.5, gy: 0.5, gz: 0.5,
  /** Index of the glass, 0 for an opaque surface. */
  glass: 0.5,
  absorbs: false,
  /** Lobes dropped because there was no room: a fault to report, never silent. */
  dropped: 0,
}

/** Starts a new surface seen from direction o (unit, away from it), with geometric normal g on the outer side. */
export function beginSurface(ox: number, oy: number, oz: number, gx: number, gy: number, gz: number): void {
  seenFrom.set([-ox, -oy, -oz], POINT.view)
  seenFrom.set([gx, gy, gz], POINT.geometric)
  beginSurfaceAt(seenFrom)
}
const seenFrom = new Float64Array(POINT_STRIDE)

/** {@link beginSurface} at a shading point, seen by the ray that found it. */
export function beginSurfaceAt(S: Float64Array): void {
  now.lobes = 0
  now.layers = 0
  now.glass = 0
  now.absorbs = false
  const ox = -S[POINT.view]!, oy = -S[POINT.view + 1]!, oz = -S[POINT.view + 2]!, gx = S[POINT.geometric]!, gy = S[POINT.geometric + 1]!, gz = S[POINT.geometric + 2]!
  now.outside = ox * gx + oy * gy + oz * gz >= 0
  const s = now.outside ? 1 : -1
  now.ox = ox; now.oy = oy; now.oz = oz
  now.gx = gx * s; now.gy = gy * s; now.gz = gz * s
  emission[0] = 0; emission[1] = 0; emission[2] = 0; emission[3] = 0; emission[4] = 0; emission[5] = 0; emission[6] = 0
}

/** Writes the seven channels of an RGB colour to `target[o …]`. */
export function spread(target: Float64Array, o: number, r: number, g: number, b: number): void {
  target[o] = basis[0]! * r + basis[1]! * g + basis[2]! * b
  target[o + 1] = basis[3]! * r + basis[4]! * g + basis[5]! * b
  target[o + 2] = basis[6]! * r + basis[7]! * g + basis[8]! * b
  target[o + 3] = basis[9]! * r + basis[10]! * g + basis[11]! * b
  target[o + 4] = r
  target[o + 5] = g
  target[o + 6] = b
}

/** {@link spread} of Q[0…2]. */
function spreadQ(target: Float64Array, o: number): void {
  const r = Q[0]!, g = Q[1]!, b = Q[2]!
  for (let k = 0; k < 4; k++) target[o + k] = basis[k * 3]! * r + basis[k * 3 + 1]! * g + basis[k * 3 + 2]! * b
  target[o + 4] = r
  target[o + 5] = g
  target[o + 6] = b
}

/** Normal made fit for the viewer by {@link fitNormal}. */
const fit = new Float64Array(3)

/**
 * Turns a shading normal so that it faces the viewer and the mirror direction leaves on the same side of the geometry:
 * the smallest bend that does it (Keller et al. 2017, appendix A.3).
 */
function fitNormal(): void {
  let nx = Q[5]!, ny = Q[6]!, nz = Q[7]!
  const { ox, oy, oz, gx, gy, gz } = now
  if (nx * gx + ny * gy + nz * gz < 0) { nx = -nx; ny = -ny; nz = -nz }
  const no = nx * ox + ny * oy + nz * oz
  const rx = 2 * no * nx - ox, ry = 2 * no * ny - oy, rz = 2 * no * nz - oz
  const below = rx * gx + ry * gy + rz * gz
  const EPSILON = 1e-4
  if (below < EPSILON || no < EPSILON) {
    // mirror direction pushed onto the horizon, normal half way between it and the viewer
    const push = EPSILON - Math.min(below, 0) * 1.0001
    let tx = rx + push * gx, ty = ry + push * gy, tz = rz + push * gz
    const l = 1 / Math.sqrt(tx * tx + ty * ty + tz * tz)
    tx *= l; ty *= l; tz *= l
    nx = ox + tx; ny = oy + ty; nz = oz + tz
    let m = Math.sqrt(nx * nx + ny * ny + nz * nz)
    if (m < 1e-6) { nx = gx; ny = gy; nz = gz; m = 1 }
    nx /= m; ny /= m; nz /= m
  }
  fit[0] = nx; fit[1] = ny; fit[2] = nz
}

/**
 * Arguments of the functions below that end in Q: 0–2 weight or reflectance, 3 α, 4 η, 5–7 normal, 8 coverage of a layer, 9–11 its tint. An array, because numbers
 * passed to calls that the engine does not inline are boxed, one allocation each.
 */
export const Q = new Float64Array(12)

function setQ(wr: number, wg: number, wb: number, alpha: number, eta: number, nx: number, ny: number, nz: number): void {
  Q[0] = wr; Q[1] = wg; Q[2] = wb; Q[3] = alpha; Q[4] = eta; Q[5] = nx; Q[6] = ny; Q[7] = nz
}

function newLobe(kind: number, layer: number): number {
  const wr = Q[0]!, wg = Q[1]!, wb = Q[2]!, alpha = Q[3]!, eta = Q[4]!
  if (now.lobes >= MAX_LOBES) { now.dropped++; return -1 }
  if (!(wr + wg + wb > 0)) return -1
  const o = now.lobes++ * L_STRIDE
  fitNormal()
  lobes[o] = kind
  lobes[o + L_LAYER] = layer
  spreadQ(lobes, o + L_W)
  lobes[o + L_ALPHA] = alpha < SMOOTH_ALPHA ? 0 : alpha > 1 ? 1 : alpha
  lobes[o + L_ETA] = eta
  lobes[o + L_NX] = fit[0]!
  lobes[o + L_NY] = fit[1]!
  lobes[o + L_NZ] = fit[2]!
  const cos = fit[0]! * now.ox + fit[1]! * now.oy + fit[2]! * now.oz
  lobes[o + L_COS] = cos < 1e-5 ? 1e-5 : cos > 1 ? 1 : cos
  lobes[o + L_NORM] = 1
  lobes[o + L_CLASS] = kind === DIFFUSE ? CLASS.diffuse : CLASS.specular
  return o
}

/** Lambertian reflection of reflectance (r, g, b); weights already include what lies above. */
export function pushDiffuse(layer: number, r: number, g: number, b: number, nx: number, ny: number, nz: number): void {
  setQ(r, g, b, 1, 1, nx, ny, nz)
  diffuseQ(layer)
}
export function diffuseQ(layer: number): void {
  Q[3] = 1; Q[4] = 1
  const o = newLobe(DIFFUSE, layer)
  if (o >= 0) lobes[o + L_ALBEDO] = 1
}

/** Overwrites the spectral channels of the newest lobe with a band: 1 within, 0 outside; the companion keeps its RGB. */
export function bandNewest(fromIndex: number, toIndex: number, weight: number): void {
  const o = (now.lobes - 1) * L_STRIDE + L_W
  for (let k = 0; k < 4; k++) lobes[o + k] = lane[k]! >= fromIndex && lane[k]! <= toIndex ? weight : 0
}

/** Reflection of a dielectric interface seen from outside; the tint colours the reflection alone. */
export function pushReflect(layer: number, r: number, g: number, b: number, alpha: number, eta: number, nx: number, ny: number, nz: number): void {
  setQ(r, g, b, alpha, eta, nx, ny, nz)
  reflectQ(layer)
}
export function reflectQ(layer: number): void {
  if (Q[4]! < 1) Q[4] = 1 / Q[4]!
  const o = newLobe(REFLECT, layer)
  if (o < 0) return
  ALBEDO[0] = lobes[o + L_COS]!; ALBEDO[1] = lobes[o + L_ALPHA]!; ALBEDO[2] = lobes[o + L_ETA]!
  askAlbedo()
  lobes[o + L_ALBEDO] = ALBEDO[3]!
}

/** Reflection of a coat: {@link pushReflect}, kept apart where radiance is kept by lobe. */
export function pushCoatReflect(layer: number, weight: number, alpha: number, eta: number, nx: number, ny: number, nz: number): void {
  const before = now.lobes
  pushReflect(layer, weight, weight, weight, alpha, eta, nx, ny, nz)
  if (now.lobes > before) lobes[before * L_STRIDE + L_CLASS] = CLASS.coat
}

/** Metal number `table` of `optics/conductors.ts`, exact complex Fresnel per wavelength; (fr, fg, fb) its RGB at normal incidence. */
export function pushConductor(layer: number, r: number, g: number, b: number, alpha: number, table: number, fr: number, fg: number, fb: number, nx: number, ny: number, nz: number): void {
  setQ(r, g, b, alpha, 1, nx, ny, nz)
  const o = newLobe(CONDUCTOR, layer)
  if (o < 0) return
  lobes[o + L_TABLE] = table
  lobes[o + L_F0] = fr
  lobes[o + L_F0 + 1] = fg
  lobes[o + L_F0 + 2] = fb
  lobes[o + L_ALBEDO] = (fr + fg + fb) / 3
}

/** Metal by colour facing the viewer and tint at the edge (Kutz et al. 2021, F82-tint). */
export function pushMetal(layer: number, weight: number, alpha: number, fr: number, fg: number, fb: number, er: number, eg: number, eb: number, nx: number, ny: number, nz: number): void {
  setQ(weight, weight, weight, alpha, 1, nx, ny, nz)
  const o = newLobe(METAL, layer)
  if (o < 0) return
  spread(lobes, o + L_F0, fr, fg, fb)
  spread(lobes, o + L_EDGE, er, eg, eb)
  for (let k = 0; k < CHANNELS; k++) { // edge word becomes the factor b of F = F0 + (1 − F0)(1 − μ)⁵ − b·μ(1 − μ)⁶
    const f0 = lobes[o + L_F0 + k]!
    const schlick = f0 + (1 - f0) * (1 - 1 / 7) ** 5
    lobes[o + L_EDGE + k] = schlick * (1 - lobes[o + L_EDGE + k]!) / ((1 / 7) * (6 / 7) ** 6)
  }
  lobes[o + L_ALBEDO] = (fr + fg + fb) / 3
}

/** Difference from one below which an index counts as matched: it reflects less than a hundred-millionth. */
const MATCHED = 2e-4

/** Clear interface that reflects and refracts; `eta` is the index of the inside, the tint colours what passes. */
export function pushGlass(layer: number, weight: number, tr: number, tg: number, tb: number, alpha: number, eta: number, nx: number, ny: number, nz: number): void {
  // a surface between two media of one index bends nothing, however rough: its half vectors would be of no length
  setQ(weight, weight, weight, Math.abs(eta - 1) < MATCHED ? 0 : alpha, now.outside ? eta : 1 / eta, nx, ny, nz)
  const o = newLobe(GLASS, layer)
  if (o < 0) return
  spread(lobes, o + L_F0, tr, tg, tb)
  lobes[o + L_ALBEDO] = 1
  now.glass = eta
}

/** Sets the absorption inside: colour (r, g, b) is what is left after `depth` metres (Beer–Lambert). */
export function setInterior(r: number, g: number, b: number, depth: number): void {
  spread(interior, 0, r, g, b)
  for (let k = 0; k < CHANNELS; k++) interior[k] = -Math.log(Math.min(1, Math.max(1e-6, interior[k]!))) / depth
  now.absorbs = true
}

/**
 * Adds a layer that later lobes lie under.
 * @param parent layer above, or −1
 * @param weight coverage C, 0..1
 * @param r what the layer does to light that goes in and out at normal incidence, per RGB component
 * @returns number of the layer
 */
export function pushLayer(parent: number, weight: number, r: number, g: number, b: number, alpha: number, eta: number, nx: number, ny: number, nz: number): number {
  Q[3] = alpha; Q[4] = eta; Q[5] = nx; Q[6] = ny; Q[7] = nz; Q[8] = weight; Q[9] = r; Q[10] = g; Q[11] = b
  return layerQ(parent)
}

/** {@link pushLayer} with its numbers in Q. */
export function layerQ(parent: number): number {
  const weight = Q[8]!, r = Q[9]!, g = Q[10]!, b = Q[11]!, alpha = Q[3]!, eta = Q[4]!
  if (now.layers >= MAX_LAYERS) { now.dropped++; return parent }
  const y = now.layers++, o = y * Y_STRIDE
  fitNormal()
  const e = eta < 1 ? 1 / eta : eta
  layers[o] = parent
  layers[o + Y_WEIGHT] = weight
  layers[o + Y_ALPHA] = alpha < SMOOTH_ALPHA ? 0 : alpha > 1 ? 1 : alpha
  layers[o + Y_ETA] = e
  layers[o + Y_NX] = fit[0]!
  layers[o + Y_NY] = fit[1]!
  layers[o + Y_NZ] = fit[2]!
  const cos = Math.min(1, Math.max(1e-5, fit[0]! * now.ox + fit[1]! * now.oy + fit[2]! * now.oz))
  const tinted = r < 1 || g < 1 || b < 1
  layers[o + Y_TINTED] = tinted ? 1 : 0
  const up = parent >= 0 ? parent * Y_STRIDE : -1
  ALBEDO[0] = cos; ALBEDO[1] = layers[o + Y_ALPHA]!; ALBEDO[2] = e
  askAlbedo()
  layers[o + Y_PASS] = (1 - weight * ALBEDO[3]!) * (up >= 0 ? layers[up + Y_PASS]! : 1)
  if (tinted) {
    spread(layers, o + Y_LOG, Math.max(r, 1e-6), Math.max(g, 1e-6), Math.max(b, 1e-6))
    for (let k = 0; k < CHANNELS; k++) layers[o + Y_LOG + k] = Math.log(layers[o + Y_LOG + k]!)
  }
  const slant = slantOf(cos, e)
  for (let k = 0; k < CHANNELS; k++) {
    const own = tinted ? 1 - weight + weight * Math.exp(0.5 * slant * layers[o + Y_LOG + k]!) : 1
    layers[o + Y_TINT + k] = own * (up >= 0 ? layers[up + Y_TINT + k]! : 1)
  }
  layers[o + Y_AVERAGE] = averagePass(y)
  return y
}

/** Length of the way through a layer of unit thickness at outer cosine `cos`, after refraction. */
export function slantOf(cos: number, eta: number): number {
  return 1 / Math.sqrt(1 - (1 - cos * cos) / (eta * eta))
}

/** Gauss–Legendre nodes and weights of five points on 0..1. */
const GAUSS_X = [0.046910077030668, 0.2307653449471585, 0.5, 0.7692346550528415, 0.953089922969332]
const GAUSS_W = [0.1184634425280945, 0.2393143352496832, 0.2844444444444444, 0.2393143352496832, 0.1184634425280945]

/** Cosine average of what passes layer y and those above it. */
function averagePass(y: number): number {
  const o = y * Y_STRIDE
  if (layers[o]! < 0) return 1 - layers[o + Y_WEIGHT]! * dielectricAlbedoAverage(layers[o + Y_ALPHA]!, layers[o + Y_ETA]!)
  let sum = 0
  for (let i = 0; i < 5; i++) {
    const mu = Math.sqrt(GAUSS_X[i]!)
    let pass = 1
    for (let z = y; z >= 0; z = layers[z * Y_STRIDE]!)
      pass *= 1 - layers[z * Y_STRIDE + Y_WEIGHT]! * dielectricAlbedo(mu, layers[z * Y_STRIDE + Y_ALPHA]!, layers[z * Y_STRIDE + Y_ETA]!)
    sum += GAUSS_W[i]! * pass
  }
  return sum
}

/**
 * Darkens the lobes from `first` on by light that the layer sends back to them from within (OpenPBR Surface 1.1, "Coat darkening":
 * Δ = (1 − K)/(1 − E·K), with K between the mirror-like and the diffuse internal reflection).
 * @param weight of the surface before it was split into these lobes
 * @param amount 0..1, coat weight times darkening
 */
export function darkenFrom(first: number, layer: number, weight: number, amount: number): void {
  if (amount <= 0 || weight <= 0) return
  const o = layer * Y_STRIDE, eta = layers[o + Y_ETA]!, alpha = layers[o + Y_ALPHA]!
  const cos = Math.min(1, Math.max(1e-5, layers[o + Y_NX]! * now.ox + layers[o + Y_NY]! * now.oy + layers[o + Y_NZ]! * now.oz))
  const mirror = dielectricAlbedo(cos, alpha, eta)
  const diffuse = 1 - (1 - dielectricAlbedoAverage(alpha, eta)) / (eta * eta)
  for (let k = 0; k < CHANNELS; k++) {
    let albedo = 0, rough = 0, total = 0
    for (let i = first; i < now.lobes; i++) {
      const l = i * L_STRIDE
      const kind = lobes[l]!
      const a = lobes[l + L_W + k]! * (kind === METAL ? lobes[l + L_F0 + k]! : lobes[l + L_ALBEDO]!)
      albedo += a
      total += a
      rough += a * (kind === DIFFUSE ? 1 : Math.sqrt(lobes[l + L_ALPHA]!))
    }
    if (total <= 0) continue
    const K = mirror + (diffuse - mirror) * rough / total
    const E = Math.min(1, albedo / weight)
    const delta = 1 + amount * ((1 - K) / (1 - E * K) - 1)
    for (let i = first; i < now.lobes; i++) lobes[i * L_STRIDE + L_W + k]! *= delta
  }
}

/** Adds light sent out from under `layer` (−1: from the surface itself), RGB radiance relative to D65. */
export function pushEmission(layer: number, r: number, g: number, b: number): void {
  if (!(r > 0 || g > 0 || b > 0)) return
  const y = layer * Y_STRIDE
  for (let k = 0; k < CHANNELS; k++) {
    const colour = k < 4 ? basis[k * 3]! * r + basis[k * 3 + 1]! * g + basis[k * 3 + 2]! * b : k === 4 ? r : k === 5 ? g : b
    emission[k]! += colour * (layer >= 0 ? layers[y + Y_PASS]! * layers[y + Y_TINT + k]! : 1)
  }
}

/** Directional albedo of the surface per RGB component, as far as it is known without integrating; guides and AOVs only. Call after {@link finishSurface}. */
export function surfaceAlbedo(target: Float64Array, o: number): void {
  for (let k = 0; k < 3; k++) {
    let sum = 0
    for (let i = 0; i < now.lobes; i++) {
      const l = i * L_STRIDE, kind = lobes[l]!, y = lobes[l + L_LAYER]! * Y_STRIDE
      const a = lobes[l + L_W + 4 + k]! * (kind === METAL || kind === CONDUCTOR ? lobes[l + L_F0 + 4 * (kind === METAL ? 1 : 0) + k]! : lobes[l + L_ALBEDO]!)
      sum += a * (y >= 0 ? layers[y + Y_PASS]! * layers[y + Y_TINT + 4 + k]! : 1)
    }
    target[o + k] = sum
  }
}

/** Shows a number or colour as light sent out, the same from every side: what a tap on a node displays. Negative values stay negative. */
export function tap(r: number, g: number, b: number): void {
  spread(emission, 0, r, g, b)
}

/** Tint at the edge (82°) that makes the F82 form agree with a conductor's exact reflectance there (Kutz et al. 2021, eq. 5). */
export function edgeTint(n: number, k: number): number {
  const f0 = fresnelConductor(1, n, k), mu = 1 / 7
  return Math.min(1, fresnelConductor(mu, n, k) / (f0 + (1 - f0) * (1 - mu) ** 5))
}

/** Computes what depends on all lobes together: how likely each is picked. Call after the last push. @returns false when nothing scatters */
export function finishSurface(): boolean {
  let sum = 0
  for (let i = 0; i < now.lobes; i++) {
    const o = i * L_STRIDE, y = lobes[o + L_LAYER]! * Y_STRIDE
    let share = Math.max(0, lobes[o + L_W + 4]!) + Math.max(0, lobes[o + L_W + 5]!) + Math.max(0, lobes[o + L_W + 6]!)
    share *= lobes[o + L_ALBEDO]!
    if (y >= 0) {
      const tint = (layers[y + Y_TINT + 4]! + layers[y + Y_TINT + 5]! + layers[y + Y_TINT + 6]!) / 3
      share *= layers[y + Y_PASS]! * tint
      if (lobes[o] === DIFFUSE) lobes[o + L_NORM] = 1 / layers[y + Y_AVERAGE]!
    }
    share = Math.max(share, 1e-4)
    lobes[o + L_PICK] = share
    sum += share
  }
  for (let i = 0; i < now.lobes; i++) lobes[i * L_STRIDE + L_PICK]! /= sum
  return now.lobes > 0
}
