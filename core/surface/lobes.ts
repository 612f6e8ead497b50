/**
 * Pushes lobes onto the current surface. Weights already include what the mixes above say; layers take their share
 * when light is scattered.
 */
import { cauchyIndex } from '../optics/dispersion'
import { glassN } from '../optics/glasses'
import { GRID_START } from '../colour/grid'
import { ALBEDO, askAlbedo, dielectricAlbedoAverage } from './albedo'
import { facetsAverage, facetsMissing } from './facets'
import { fuzzAlbedo } from './fuzz'
import { SMOOTH_ALPHA } from './ggx'
import { glassMissing, glassMissingAverage } from './glass-missing'
import { roughDiffuseAlbedo, roughDiffuseAverage } from './rough-diffuse'
import {
  AGAIN_DIFFUSE,
  AGAIN_GLASS,
  AGAIN_METAL,
  basis,
  below,
  belowAlbedo,
  CHANNELS,
  CLASS,
  CONDUCTOR,
  DIFFUSE,
  fit,
  fitNormal,
  FUZZ,
  GLASS,
  lane,
  lobes,
  L_ALBEDO,
  L_ALPHA,
  L_AX,
  L_AY,
  L_BX,
  L_CLASS,
  L_COS,
  L_EDGE,
  L_ETA,
  L_EXPONENT,
  L_F0,
  L_FILM,
  L_FILM_ETA,
  L_FILM_WAY,
  L_GRAIN,
  L_GRAZE,
  L_LAYER,
  L_NORM,
  L_NX,
  L_NY,
  L_NZ,
  L_ONCE,
  L_SPECTRAL,
  L_STRIDE,
  L_TABLE,
  L_TX,
  L_W,
  MAX_LOBES,
  METAL,
  now,
  Q,
  REFLECT,
  ROUGH_DIFFUSE,
  setQ,
  SHEET,
  spread,
  THROUGH,
  TRANSLUCENT,
  WALK,
} from './state'
import { conductorAverage } from './conductor-average'

/** {@link spread} of Q[0…2]. */
function spreadQ(target: Float64Array, o: number): void {
  const r = Q[0]!
  const g = Q[1]!
  const b = Q[2]!
  for (let k = 0; k < 4; k++) target[o + k] = basis[k * 3]! * r + basis[k * 3 + 1]! * g + basis[k * 3 + 2]! * b
  target[o + 4] = r
  target[o + 5] = g
  target[o + 6] = b
}

/**
 * Opens a lobe with what Q says.
 * @returns its offset in {@link lobes}, −1 when it weighs nothing or there is no room
 */
function newLobe(kind: number, layer: number): number {
  if (now.leaving || !(Q[0]! + Q[1]! + Q[2]! > 0)) return -1
  return openLobe(kind, layer)
}

function openLobe(kind: number, layer: number): number {
  const alpha = Q[3]!
  const eta = Q[4]!
  if (now.lobes >= MAX_LOBES) {
    now.dropped++
    return -1
  }
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
  lobes[o + L_NORM] = 0
  lobes[o + L_GRAIN] = 0
  lobes[o + L_FILM] = 0
  lobes[o + L_SPECTRAL] = 0
  lobes[o + L_ONCE] = 1
  lobes[o + L_CLASS] = kind === DIFFUSE ? CLASS.diffuse : CLASS.specular
  if (Q[12]! > 0) setGrain(o)
  return o
}

/**
 * Stretches the microfacets along the grain (OpenPBR Surface 1.1, "Microfacet model": αx = r²·√(2/(1 + (1 −
 * a)²)), αy = (1 − a)·αx).
 */
function setGrain(o: number): void {
  const alpha = lobes[o + L_ALPHA]!
  const a = Q[12]! > 1 ? 1 : Q[12]!
  const nx = lobes[o + L_NX]!
  const ny = lobes[o + L_NY]!
  const nz = lobes[o + L_NZ]!
  if (alpha === 0) return
  const along = Q[13]! * nx + Q[14]! * ny + Q[15]! * nz
  let tx = Q[13]! - along * nx
  let ty = Q[14]! - along * ny
  let tz = Q[15]! - along * nz
  const l = Math.sqrt(tx * tx + ty * ty + tz * tz)
  if (!(l > 1e-6)) return
  tx /= l
  ty /= l
  tz /= l
  const ax = Math.min(1, alpha * Math.sqrt(2 / (1 + (1 - a) * (1 - a))))
  const ay = Math.max(SMOOTH_ALPHA, (1 - a) * ax)
  lobes[o + L_GRAIN] = 1
  lobes[o + L_AX] = ax
  lobes[o + L_AY] = ay
  lobes[o + L_ALPHA] = Math.sqrt(ax * ay)
  lobes[o + L_TX] = tx
  lobes[o + L_TX + 1] = ty
  lobes[o + L_TX + 2] = tz
  lobes[o + L_BX] = ny * tz - nz * ty
  lobes[o + L_BX + 1] = nz * tx - nx * tz
  lobes[o + L_BX + 2] = nx * ty - ny * tx
}

/** Lays the film of Q[16…18] on a lobe's interface; `outer` is the index of the medium of incidence. */
function setFilm(o: number, outer: number): void {
  lobes[o + L_FILM] = Q[16]! > 1 ? 1 : Q[16]!
  lobes[o + L_FILM_ETA] = Q[17]! / outer
  lobes[o + L_FILM_WAY] = 2 * Q[17]! * Math.max(0, Q[18]!)
  lobes[o + L_SPECTRAL] = 1
}

/**
 * Weight of what is reflected again and again between facets: all further meetings at reflectance F, of which the
 * share `average` of each gets out (Kulla & Conty 2017, §2).
 */
const again = (weight: number, F: number, average: number): number =>
  (weight * F * F * average) / (1 - F * (1 - average))

/** Lambertian reflection of reflectance (r, g, b). */
export function pushDiffuse(
  layer: number,
  r: number,
  g: number,
  b: number,
  nx: number,
  ny: number,
  nz: number,
): void {
  setQ(r, g, b, 1, 1, nx, ny, nz)
  diffuseQ(layer)
}
export function diffuseQ(layer: number): void {
  Q[3] = 1
  Q[4] = 1
  const o = newLobe(DIFFUSE, layer)
  if (o < 0) return
  lobes[o + L_NORM] = 1
  lobes[o + L_ALBEDO] = 1
}

/**
 * Energy-preserving rough diffuse reflection (Portsmouth, Kutz & Hill 2024, "EON"): light reflected once, and
 * again and again between the facets.
 * @param weight share of the surface; r, g, b reflectance; roughness 0..1
 */
export function pushRoughDiffuse(
  layer: number,
  weight: number,
  r: number,
  g: number,
  b: number,
  roughness: number,
  nx: number,
  ny: number,
  nz: number,
): void {
  if (!(roughness > 0)) {
    pushDiffuse(layer, weight * r, weight * g, weight * b, nx, ny, nz)
    return
  }
  setQ(weight * r, weight * g, weight * b, 1, 1, nx, ny, nz)
  const o = newLobe(ROUGH_DIFFUSE, layer)
  const rough = Math.min(1, roughness)
  if (o < 0) return
  const E = roughDiffuseAlbedo(lobes[o + L_COS]!, rough)
  const average = roughDiffuseAverage(rough)
  lobes[o + L_ALPHA] = rough
  lobes[o + L_NORM] = 1
  lobes[o + L_ALBEDO] = E
  lobes[o + L_CLASS] = CLASS.diffuse
  setQ(1, 1, 1, 1, 1, nx, ny, nz)
  const a = newLobe(AGAIN_DIFFUSE, layer)
  if (a < 0) return
  for (let k = 0; k < CHANNELS; k++) {
    const rho = weight > 0 ? lobes[o + L_W + k]! / weight : 0
    lobes[a + L_W + k] = again(weight, rho, average)
  }
  lobes[a + L_ALPHA] = rough
  lobes[a + L_ETA] = (1 - E) / Math.max(1e-6, 1 - average)
  lobes[a + L_NORM] = 1
  lobes[a + L_ALBEDO] = 1 - E
  lobes[a + L_CLASS] = CLASS.diffuse
}

/**
 * Overwrites the spectral channels of the newest lobe with a band: 1 within, 0 outside; the companion keeps its
 * RGB.
 */
export function bandNewest(fromIndex: number, toIndex: number, weight: number): void {
  const o = (now.lobes - 1) * L_STRIDE + L_W
  for (let k = 0; k < 4; k++) lobes[o + k] = lane[k]! >= fromIndex && lane[k]! <= toIndex ? weight : 0
}

/**
 * Reflection of a dielectric interface seen from outside; weights, roughness, index, normal, grain and film in Q.
 */
export function reflectQ(layer: number): void {
  if (Q[4]! < 1) Q[4] = 1 / Q[4]!
  const o = newLobe(REFLECT, layer)
  if (o < 0) return
  ALBEDO[0] = lobes[o + L_COS]!
  ALBEDO[1] = lobes[o + L_ALPHA]!
  ALBEDO[2] = lobes[o + L_ETA]!
  askAlbedo()
  lobes[o + L_ALBEDO] = ALBEDO[3]!
  if (Q[16]! > 0) {
    setFilm(o, Q[19]!)
    lobes[o + L_ALBEDO] = Math.max(0.05, ALBEDO[3]!)
  }
}

/** Reflection of a coat: {@link reflectQ}, kept apart where radiance is kept by lobe. */
export function coatReflectQ(layer: number): void {
  const before = now.lobes
  reflectQ(layer)
  if (now.lobes > before) lobes[before * L_STRIDE + L_CLASS] = CLASS.coat
}

/**
 * Metal number `table` of `optics/conductors.ts`, exact complex Fresnel per wavelength; (fr, fg, fb) its RGB at
 * normal incidence. Grain and film as in Q.
 */
export function conductorQ(layer: number, table: number, fr: number, fg: number, fb: number): void {
  const weight = Q[0]!
  const o = newLobe(CONDUCTOR, layer)
  if (o < 0) return
  lobes[o + L_TABLE] = table
  lobes[o + L_F0] = fr
  lobes[o + L_F0 + 1] = fg
  lobes[o + L_F0 + 2] = fb
  lobes[o + L_ALBEDO] = (fr + fg + fb) / 3
  if (Q[16]! > 0) setFilm(o, Q[19]!)
  const a = againMetal(o, layer)
  if (a < 0) return
  const mean = conductorAverage(table)
  const average = lobes[a + L_TABLE]!
  for (let k = 0; k < CHANNELS; k++) {
    const F = k < 4 ? mean[lane[k]!]! : lobes[o + L_F0 + k - 4]! + (1 - lobes[o + L_F0 + k - 4]!) / 21
    lobes[a + L_W + k] = again(weight, F, average)
  }
}

/**
 * Metal by colour facing the viewer and tint at the edge (Kutz et al. 2021, F82-tint). Grain and film as in Q, and
 * so the colour at grazing angles and the exponent of the rise towards it, for the standard's generalised form
 * (MaterialX 1.39, generalized_schlick_bsdf).
 */
export function metalQ(
  layer: number,
  fr: number,
  fg: number,
  fb: number,
  er: number,
  eg: number,
  eb: number,
): void {
  const weight = Q[0]!
  const o = newLobe(METAL, layer)
  if (o < 0) return
  spread(lobes, o + L_F0, fr, fg, fb)
  spread(lobes, o + L_EDGE, er, eg, eb)
  // F(µ) = F0 + (F90 − F0)(1 − µ)ᵉ − a·µ(1 − µ)⁶ with a chosen so that F at µ̄ = 1/7 is the
  // Schlick value times the tint
  const plain = Q[23] === 0
  const e = plain ? 5 : Q[23]!
  const rise = plain ? (6 / 7) ** 5 : (6 / 7) ** e
  const inverse = 7 / (6 / 7) ** 6
  const mean = 2 / ((e + 1) * (e + 2))
  lobes[o + L_EXPONENT] = Q[23]!
  if (!plain) spread(lobes, o + L_GRAZE, Q[20]!, Q[21]!, Q[22]!)
  for (let k = 0; k < CHANNELS; k++) {
    const f0 = lobes[o + L_F0 + k]!
    lobes[o + L_EDGE + k] =
      (f0 + ((plain ? 1 : lobes[o + L_GRAZE + k]!) - f0) * rise) * (1 - lobes[o + L_EDGE + k]!) * inverse
  }
  lobes[o + L_ALBEDO] = Math.max(
    0.05,
    plain ? (fr + fg + fb) / 3 : ((fr + fg + fb) / 3) * (1 - mean) + ((Q[20]! + Q[21]! + Q[22]!) / 3) * mean,
  )
  if (Q[16]! > 0) setFilm(o, Q[19]!)
  const a = againMetal(o, layer)
  if (a < 0) return
  const average = lobes[a + L_TABLE]!
  for (let k = 0; k < CHANNELS; k++) {
    // cosine mean of that F: ∫ 2µ(1 − µ)ᵉ dµ = 2/((e + 1)(e + 2)), ∫ 2µ·µ(1 − µ)⁶ dµ = 1/126
    const f0 = lobes[o + L_F0 + k]!
    const F = Math.min(
      1,
      Math.max(0, f0 + ((plain ? 1 : lobes[o + L_GRAZE + k]!) - f0) * mean - lobes[o + L_EDGE + k]! / 126),
    )
    lobes[a + L_W + k] = again(weight, F, average)
  }
}

/** Least share of the light that is lost between the facets for which its return is computed. */
const MISSED = 0.001

/**
 * Lobe of the light that meets the microfacets of the metal at o more than once (Kulla & Conty 2017, "Revisiting
 * Physically Based Shading", §2): what the single reflection misses comes back as (1 − E(µo))(1 −
 * E(µi))/(π(1 − Ē)), coloured by the mean reflectance of every further meeting.
 */
function againMetal(o: number, layer: number): number {
  const grain = lobes[o + L_GRAIN] === 1
  const ax = lobes[o + L_AX]!
  const ay = lobes[o + L_AY]!
  const alpha = grain ? Math.sqrt((ax * ax + ay * ay) / 2) : lobes[o + L_ALPHA]!
  const missing = 1 - facetsAverage(alpha)
  if (missing < MISSED) return -1
  Q[12] = 0
  const a = newLobe(AGAIN_METAL, layer)
  if (a < 0) return -1
  lobes[a + L_ALPHA] = alpha
  if (grain) for (let k = L_GRAIN; k < L_FILM; k++) lobes[a + k] = lobes[o + k]!
  const own = facetsMissing(lobes[o + L_COS]!, alpha) * (grain ? grainShare(a, now.ox, now.oy, now.oz) : 1)
  lobes[o + L_ONCE] = 1 - own
  lobes[a + L_ETA] = own / missing
  lobes[a + L_TABLE] = 1 - missing
  lobes[a + L_ALBEDO] = Math.max(0.01, own)
  return a
}

/**
 * How much of what facets of the root mean square of both α miss, stretched ones miss in a direction. A fit from
 * below to sums of drawn normals at α 0.49 and 0.15 (no source): the test holds it to never give more light than
 * there is, over roughness and anisotropy.
 */
export function grainShare(o: number, x: number, y: number, z: number): number {
  const t = x * lobes[o + L_TX]! + y * lobes[o + L_TX + 1]! + z * lobes[o + L_TX + 2]!
  const b = x * lobes[o + L_BX]! + y * lobes[o + L_BX + 1]! + z * lobes[o + L_BX + 2]!
  const ax = lobes[o + L_AX]!
  const ay = lobes[o + L_AY]!
  const stretch = (ax * ax - ay * ay) / (ax * ax + ay * ay)
  const s2 = t * t + b * b
  const mu = Math.sqrt(Math.max(0, 1 - s2))
  return (
    (1 - 0.072 * stretch) * (1 - 0.33 * stretch * (1 - mu) * Math.max(0, s2 > 1e-9 ? (t * t - b * b) / s2 : 0))
  )
}

/** How far the index must be from that of what surrounds a glass for its roughness to show. */
const MATCHED = 1e-4

/**
 * Clear interface that reflects and refracts; Q has weight, roughness, index of the inside, normal, grain and
 * film. The tint colours what passes.
 * @param B coefficient of Cauchy's formula, nm², 0 for none
 */
export function glassQ(layer: number, tr: number, tg: number, tb: number, B: number): void {
  const nd = Q[4]!
  const o = openGlass(layer, tr, tg, tb)
  if (o < 0 || B <= 0) return
  for (let k = 0; k < 4; k++) lobes[o + L_EDGE + k] = cauchyIndex(nd, B, GRID_START + lane[k]!)
  disperse(o, nd)
}

/** {@link glassQ} of glass number `table` of `optics/glasses.ts`, index by wavelength; Q[4] is its n_d. */
export function measuredGlassQ(layer: number, table: number, tr: number, tg: number, tb: number): void {
  const nd = Q[4]!
  const o = openGlass(layer, tr, tg, tb)
  if (o < 0) return
  for (let k = 0; k < 4; k++) lobes[o + L_EDGE + k] = glassN[table]![lane[k]!]!
  disperse(o, nd)
}

/** Pushes a glass of one index for all wavelengths. @returns its lobe's offset, −1 for none */
function openGlass(layer: number, tr: number, tg: number, tb: number): number {
  const nd = Q[4]!
  const relative = nd / now.surround
  // a surface between two media of one index bends nothing, however rough: its half vectors would be of no length
  if (Math.abs(relative - 1) < MATCHED) Q[3] = 0
  Q[4] = now.outside ? relative : 1 / relative
  const o = newLobe(GLASS, layer)
  now.glass = nd
  if (o < 0) return -1
  spread(lobes, o + L_F0, tr, tg, tb)
  lobes[o + L_ALBEDO] = 1
  if (Q[16]! > 0) setFilm(o, now.outside ? now.surround : nd)
  if (lobes[o + L_ALPHA]! > 0) againGlass(o, layer)
  return o
}

/**
 * Turns the indices of the four wavelengths in L_EDGE into relative ones, and lets the lobe at o refract by that
 * of the hero.
 */
function disperse(o: number, nd: number): void {
  for (let k = 0; k < CHANNELS; k++) {
    const n = (k < 4 ? lobes[o + L_EDGE + k]! : nd) / now.surround
    lobes[o + L_EDGE + k] = now.outside ? n : 1 / n
  }
  lobes[o + L_ETA] = lobes[o + L_EDGE + now.hero]!
  if (lobes[o + L_ALPHA] === 0) {
    lobes[o + L_SPECTRAL] = 1
    if (now.disperses === 0) now.disperses = 1
  } else now.disperses = 2
}

/**
 * Lobe of the light that meets the microfacets of the rough glass at o more than once (Kulla & Conty 2017, §2.3):
 * what the first meeting misses leaves diffusely on both sides. The shares of both are such that the lobe is
 * reciprocal, (1 − r)·n² in step with what the far side misses, and towards the denser side as a smooth face
 * would let pass in the mean.
 */
function againGlass(o: number, layer: number): void {
  const alpha = lobes[o + L_ALPHA]!
  const eta = lobes[o + L_ETA]!
  const near = glassMissingAverage(alpha, eta)
  const far = glassMissingAverage(alpha, 1 / eta)
  if (near < MISSED || far < MISSED) return
  Q[12] = 0
  const own = glassMissing(lobes[o + L_COS]!, alpha, eta)
  const a = newLobe(AGAIN_GLASS, layer)
  if (a < 0) return
  const passes =
    ((1 - dielectricAlbedoAverage(0, eta > 1 ? eta : 1 / eta)) * eta * eta * far) / Math.max(eta * eta * far, near)
  for (let k = 0; k < CHANNELS; k++) lobes[a + L_F0 + k] = lobes[o + L_F0 + k]!
  lobes[a + L_ALPHA] = alpha
  lobes[a + L_ETA] = eta
  lobes[a + L_ALBEDO] = own
  // share that passes; what both sides are scaled by
  lobes[a + L_EDGE] = passes
  lobes[a + L_EDGE + 1] = own / near
  lobes[a + L_EDGE + 2] = own / far
}

/**
 * Thin sheet of glass, both faces in one: reflects and lets pass without bending. The film lies on its outer face.
 * Weight, roughness, index, normal, grain and film in Q.
 */
export function sheetQ(layer: number, tr: number, tg: number, tb: number): void {
  if (Q[4]! < 1) Q[4] = 1 / Q[4]!
  const o = newLobe(SHEET, layer)
  if (o < 0) return
  spread(lobes, o + L_F0, tr, tg, tb)
  lobes[o + L_ALBEDO] = 1
  if (Q[16]! > 0) setFilm(o, 1)
}

/** Fuzz of small fibres on the surface (Zeltner, Burley & Chiang 2022). @param roughness 0..1 */
export function pushFuzz(
  layer: number,
  weight: number,
  r: number,
  g: number,
  b: number,
  roughness: number,
  nx: number,
  ny: number,
  nz: number,
): void {
  setQ(weight * r, weight * g, weight * b, 1, 1, nx, ny, nz)
  const o = newLobe(FUZZ, layer)
  if (o < 0) return
  lobes[o + L_ALPHA] = roughness
  lobes[o + L_ALBEDO] = fuzzAlbedo(lobes[o + L_COS]!, roughness)
}

/** Opens a lobe whose light leaves on the far side, uncoloured beyond its weight. */
function openFar(kind: number, layer: number, of: number): number {
  const o = newLobe(kind, layer)
  if (o < 0) return -1
  for (let k = 0; k < CHANNELS; k++) lobes[o + L_F0 + k] = 1
  lobes[o + L_ALBEDO] = 1
  lobes[o + L_CLASS] = of
  return o
}

/** Lambertian passage through a thin sheet to its other side. */
export function pushTranslucent(
  layer: number,
  r: number,
  g: number,
  b: number,
  nx: number,
  ny: number,
  nz: number,
): void {
  setQ(r, g, b, 1, 1, nx, ny, nz)
  openFar(TRANSLUCENT, layer, CLASS.transmission)
}

/** What passes an opening straight. */
export function pushThrough(weight: number): void {
  setQ(weight, weight, weight, 0, 1, now.gx, now.gy, now.gz)
  openFar(THROUGH, -1, CLASS.transmission)
}

/**
 * Scattering below the surface by a random walk through a medium that looks of colour (r, g, b) when it is endless
 * and thick.
 *
 * Single-scattering albedo from the colour: Kulla & Conty 2017 (§ on volumes), a fit to van de Hulst's similarity
 * relation, as OpenPBR Surface 1.1 ("Subsurface") has it: s = 4.09712 + 4.20863·C − √(9.59217 + 41.6808·C +
 * 17.7126·C²), ϖ = (1 − s²)/(1 − g·s²); checked against the half-space albedo of Chandrasekhar's H in the
 * test.
 * @param dr mean free path of each component, metres
 * @param g mean cosine, −1..1
 */
export function pushWalk(
  layer: number,
  weight: number,
  r: number,
  gr: number,
  b: number,
  dr: number,
  dg: number,
  db: number,
  g: number,
  nx: number,
  ny: number,
  nz: number,
): void {
  if (now.leaving) {
    if (!(weight > 0)) return
    setQ(weight, weight, weight, 1, 1, nx, ny, nz)
    const o = openLobe(DIFFUSE, layer)
    if (o >= 0) {
      lobes[o + L_ALBEDO] = 1
      lobes[o + L_CLASS] = CLASS.subsurface
    }
    return
  }
  setQ(weight, weight, weight, 1, 1, nx, ny, nz)
  const o = openFar(WALK, layer, CLASS.subsurface)
  if (o < 0) return
  lobes[o + L_ALBEDO] = Math.max(0.05, (r + gr + b) / 3)
  spread(belowAlbedo, 0, r, gr, b)
  spread(below, 0, dr, dg, db)
  for (let k = 0; k < CHANNELS; k++) {
    const C = belowAlbedo[k]!
    const s = Math.max(0, 4.09712 + 4.20863 * C - Math.sqrt(9.59217 + 41.6808 * C + 17.7126 * C * C))
    const s2 = s * s
    belowAlbedo[k] = Math.min(1, Math.max(0, (1 - s2) / (1 - g * s2)))
    below[k] = 1 / Math.max(1e-7, below[k]!)
  }
  now.belowG = Math.max(-0.99, Math.min(0.99, g))
}

/** Sets the grain of Q by α along and across a tangent. */
export function grainQ(along: number, across: number, tx: number, ty: number, tz: number): void {
  const swap = across > along
  const most = Math.max(1e-4, swap ? across : along)
  const least = Math.max(0, swap ? along : across)
  const rest = least / most
  Q[3] = most * Math.sqrt((1 + rest * rest) / 2)
  Q[12] = Math.min(1, 1 - rest)
  if (swap) {
    const nx = Q[5]!
    const ny = Q[6]!
    const nz = Q[7]!
    Q[13] = ny * tz - nz * ty
    Q[14] = nz * tx - nx * tz
    Q[15] = nx * ty - ny * tx
  } else {
    Q[13] = tx
    Q[14] = ty
    Q[15] = tz
  }
}

/**
 * Sets the colour that reflection rises to at grazing angles, and the exponent, at least 0.1, of the rise; for
 * {@link metalQ}.
 */
export function riseQ(r: number, g: number, b: number, exponent: number): void {
  Q[20] = r
  Q[21] = g
  Q[22] = b
  Q[23] = exponent > 0.1 ? exponent : 0.1
}
