/**
 * OpenPBR Surface 1.1, compiled down to lobes under layers. The section names are the specification's. From the
 * top: fuzz, coat, film, and below them metal, glass, or an opaque base whose light is scattered at the surface or
 * below it.
 */
import { cauchyB } from '../optics/dispersion'
import { pushEmission } from './finish'
import { setInterior, setMilkyInterior } from './inside'
import { darkenFrom, layerQ, pushFuzzLayer } from './layers'
import {
  coatReflectQ,
  diffuseQ,
  glassQ,
  metalQ,
  pushFuzz,
  pushRoughDiffuse,
  pushThrough,
  pushTranslucent,
  pushWalk,
  reflectQ,
  sheetQ,
} from './lobes'
import { AT, OPENPBR_NUMBERS } from './openpbr-inputs'
import { now, Q, setQ } from './state'

/** Values of one surface, in the order of OPENPBR_INPUTS with colours and vectors unrolled; see {@link AT}. */
export const inputs = new Float64Array(OPENPBR_NUMBERS)

const BASE_WEIGHT = AT.base_weight
const BASE_COLOR = AT.base_color
const DIFFUSE_ROUGHNESS = AT.base_diffuse_roughness
const METALNESS = AT.base_metalness
const SPECULAR_WEIGHT = AT.specular_weight
const SPECULAR_COLOR = AT.specular_color
const ROUGHNESS = AT.specular_roughness
const IOR = AT.specular_ior
const ANISOTROPY = AT.specular_roughness_anisotropy
const TRANSMISSION = AT.transmission_weight
const TRANSMISSION_COLOR = AT.transmission_color
const DEPTH = AT.transmission_depth
const SCATTER = AT.transmission_scatter
const SCATTER_G = AT.transmission_scatter_anisotropy
const DISPERSION = AT.transmission_dispersion_scale
const ABBE = AT.transmission_dispersion_abbe_number
const SUBSURFACE = AT.subsurface_weight
const SUBSURFACE_COLOR = AT.subsurface_color
const RADIUS = AT.subsurface_radius
const RADIUS_SCALE = AT.subsurface_radius_scale
const SUBSURFACE_G = AT.subsurface_scatter_anisotropy
const FUZZ_WEIGHT = AT.fuzz_weight
const FUZZ_COLOR = AT.fuzz_color
const FUZZ_ROUGHNESS = AT.fuzz_roughness
const COAT = AT.coat_weight
const COAT_COLOR = AT.coat_color
const COAT_ROUGHNESS = AT.coat_roughness
const COAT_ANISOTROPY = AT.coat_roughness_anisotropy
const COAT_IOR = AT.coat_ior
const DARKENING = AT.coat_darkening
const FILM_WEIGHT = AT.thin_film_weight
const FILM_THICKNESS = AT.thin_film_thickness
const FILM_IOR = AT.thin_film_ior
const LUMINANCE = AT.emission_luminance
const EMISSION_COLOR = AT.emission_color
const OPACITY = AT.geometry_opacity
const THIN = AT.geometry_thin_walled
const NORMAL = AT.geometry_normal
const COAT_NORMAL = AT.geometry_coat_normal
const TANGENT = AT.geometry_tangent
const COAT_TANGENT = AT.geometry_coat_tangent

/** Brings a value into 0..1; what is not a number becomes 0. */
const clamp01 = (x: number) => (x > 0 ? (x < 1 ? x : 1) : 0)

/**
 * Index of refraction whose normal reflectance is `weight` times that of `ior` ("Specular weight", eq. for η′).
 */
export function modulatedIor(ior: number, weight: number): number {
  if (weight === 1) return ior
  const f = (ior - 1) / (ior + 1)
  const e = Math.sign(f) * Math.sqrt(Math.min(0.999, Math.max(0, weight) * f * f))
  return (1 + e) / (1 - e)
}

/**
 * What the base is made of, for the functions below: 0 share of the surface, 1 α, 2 index, 3 index of what a film
 * on it lies under. An array, as numbers passed to calls are boxed.
 */
const BASE = new Float64Array(4)

/** Puts roughness, index and normal of the base into Q, its grain, and the film on it. */
function baseQ(): void {
  const p = inputs
  Q[3] = BASE[1]!
  Q[4] = BASE[2]!
  Q[5] = p[NORMAL]!
  Q[6] = p[NORMAL + 1]!
  Q[7] = p[NORMAL + 2]!
  Q[12] = p[ANISOTROPY]!
  if (Q[12] > 0) {
    Q[13] = p[TANGENT]!
    Q[14] = p[TANGENT + 1]!
    Q[15] = p[TANGENT + 2]!
  }
  Q[16] = p[FILM_WEIGHT]!
  if (Q[16] > 0) {
    // thickness in micrometres ("Thin-film iridescence")
    Q[17] = Math.max(1, p[FILM_IOR]!)
    Q[18] = Math.max(0, p[FILM_THICKNESS]!) * 1000
    Q[19] = BASE[3]!
  }
}

/**
 * The coat's reflection, and the layer that it makes. Q holds both: weights, roughness, index, normal, grain;
 * 8–11 coverage and tint.
 * @returns number of the layer
 */
function coatQ(layer: number): number {
  coatReflectQ(layer)
  return layerQ(layer)
}

/** {@link coatQ} of the surface in {@link inputs}. BASE: 0 share of the surface, 1 α, 2 index, 3 coverage. */
function pushCoat(layer: number): number {
  const p = inputs
  const C = BASE[3]!
  const w = BASE[0]! * C
  setQ(w, w, w, BASE[1]!, BASE[2]!, p[COAT_NORMAL]!, p[COAT_NORMAL + 1]!, p[COAT_NORMAL + 2]!)
  Q[12] = p[COAT_ANISOTROPY]!
  if (Q[12] > 0) {
    Q[13] = p[COAT_TANGENT]!
    Q[14] = p[COAT_TANGENT + 1]!
    Q[15] = p[COAT_TANGENT + 2]!
  }
  Q[8] = C
  Q[9] = clamp01(p[COAT_COLOR]!)
  Q[10] = clamp01(p[COAT_COLOR + 1]!)
  Q[11] = clamp01(p[COAT_COLOR + 2]!)
  return coatQ(layer)
}

/**
 * Pushes the surface in {@link inputs}.
 * @param layer layer above, or −1
 * @param weight share of the surface here, 0..1
 */
export function pushOpenPbr(layer: number, weight: number): void {
  const p = inputs
  const opacity = clamp01(p[OPACITY]!)
  const thin = p[THIN]! > 0.5
  if (opacity < 1) {
    pushThrough(weight * (1 - opacity))
    weight *= opacity
  }
  // a sheet has no inside
  if (thin) now.outside = true
  const M = clamp01(p[METALNESS]!)
  const specularWeight = Math.max(0, p[SPECULAR_WEIGHT]!)
  const T = clamp01(p[TRANSMISSION]!)
  const ior = Math.max(1.0001, p[IOR]!)
  let roughness = clamp01(p[ROUGHNESS]!)
  let top = layer
  const fuzz = clamp01(p[FUZZ_WEIGHT]!)
  if (fuzz > 0 && now.outside) {
    const rough = clamp01(p[FUZZ_ROUGHNESS]!)
    pushFuzz(
      layer,
      weight * fuzz,
      clamp01(p[FUZZ_COLOR]!),
      clamp01(p[FUZZ_COLOR + 1]!),
      clamp01(p[FUZZ_COLOR + 2]!),
      rough,
      p[NORMAL]!,
      p[NORMAL + 1]!,
      p[NORMAL + 2]!,
    )
    top = pushFuzzLayer(layer, fuzz, rough, p[NORMAL]!, p[NORMAL + 1]!, p[NORMAL + 2]!)
  }
  const C = clamp01(p[COAT]!)
  const coatIor = C > 0 ? Math.max(1.0001, p[COAT_IOR]!) : 1.6
  let under = top
  if (C > 0 && now.outside) {
    const coatRoughness = clamp01(p[COAT_ROUGHNESS]!)
    BASE[0] = weight
    BASE[1] = coatRoughness * coatRoughness
    BASE[2] = coatIor
    BASE[3] = C
    under = pushCoat(top)
    // "Coat roughening": the base seen through a rough coat
    const r4 = roughness ** 4
    const roughened = Math.min(1, r4 + 2 * coatRoughness ** 4) ** 0.25
    roughness += (roughened - roughness) * C
  }
  const underFirst = now.lobes
  BASE[1] = roughness * roughness
  BASE[3] = C > 0 ? 1 + (coatIor - 1) * C : now.surround
  if (M < 1) {
    const dielectric = weight * (1 - M)
    if (dielectric * (1 - T) > 0) {
      BASE[0] = dielectric * (1 - T)
      BASE[2] = modulatedIor(baseIor(ior, coatIor, C), specularWeight)
      pushOpaqueBase(under, thin)
    }
    if (dielectric * T > 0) {
      BASE[0] = dielectric * T
      BASE[2] = modulatedIor(ior, specularWeight)
      pushGlassBase(under, thin)
    }
  }
  if (M > 0) {
    const base = clamp01(p[BASE_WEIGHT]!)
    const w = weight * M * clamp01(specularWeight)
    Q[0] = w
    Q[1] = w
    Q[2] = w
    BASE[2] = 1
    baseQ()
    metalQ(
      under,
      base * clamp01(p[BASE_COLOR]!),
      base * clamp01(p[BASE_COLOR + 1]!),
      base * clamp01(p[BASE_COLOR + 2]!),
      clamp01(p[SPECULAR_COLOR]!),
      clamp01(p[SPECULAR_COLOR + 1]!),
      clamp01(p[SPECULAR_COLOR + 2]!),
    )
  }
  if (under !== top) darkenFrom(underFirst, under, weight, C * clamp01(p[DARKENING]!))
  const luminance = p[LUMINANCE]! * weight
  if (luminance > 0)
    pushEmission(
      under,
      luminance * p[EMISSION_COLOR]!,
      luminance * p[EMISSION_COLOR + 1]!,
      luminance * p[EMISSION_COLOR + 2]!,
    )
}

/**
 * "Specular IOR under a coat": inverted where the coat is the denser, so that no light is trapped; and relative to
 * what surrounds the surface.
 */
function baseIor(ior: number, coatIor: number, C: number): number {
  const relative = ior / coatIor
  const bare = ior / now.surround
  return C > 0 ? bare + (Math.max(relative, 1 / relative) - bare) * C : bare
}

/** "Glossy-diffuse" and "Subsurface": a dielectric interface over what scatters light back. */
function pushOpaqueBase(under: number, thin: boolean): void {
  const p = inputs
  const opaque = BASE[0]!
  baseQ()
  Q[8] = 1
  Q[9] = 1
  Q[10] = 1
  Q[11] = 1
  const y = layerQ(under)
  Q[0] = opaque * clamp01(p[SPECULAR_COLOR]!)
  Q[1] = opaque * clamp01(p[SPECULAR_COLOR + 1]!)
  Q[2] = opaque * clamp01(p[SPECULAR_COLOR + 2]!)
  reflectQ(under)
  const S = clamp01(p[SUBSURFACE]!)
  const nx = p[NORMAL]!
  const ny = p[NORMAL + 1]!
  const nz = p[NORMAL + 2]!
  const rough = p[DIFFUSE_ROUGHNESS]!
  const w = opaque * (1 - S) * clamp01(p[BASE_WEIGHT]!)
  if (rough > 0)
    pushRoughDiffuse(
      y,
      w,
      clamp01(p[BASE_COLOR]!),
      clamp01(p[BASE_COLOR + 1]!),
      clamp01(p[BASE_COLOR + 2]!),
      clamp01(rough),
      nx,
      ny,
      nz,
    )
  else {
    Q[0] = w * clamp01(p[BASE_COLOR]!)
    Q[1] = w * clamp01(p[BASE_COLOR + 1]!)
    Q[2] = w * clamp01(p[BASE_COLOR + 2]!)
    Q[12] = 0
    diffuseQ(y)
  }
  if (S <= 0) return
  const r = clamp01(p[SUBSURFACE_COLOR]!)
  const g = clamp01(p[SUBSURFACE_COLOR + 1]!)
  const b = clamp01(p[SUBSURFACE_COLOR + 2]!)
  const cosine = p[SUBSURFACE_G]!
  const share = opaque * S
  if (thin) {
    // "Thin-walled": what is scattered leaves on both sides, forward scattering on the far one
    const far = share * clamp01(0.5 * (1 + cosine))
    const near = share - far
    pushRoughDiffuse(y, near, r, g, b, clamp01(rough), nx, ny, nz)
    pushTranslucent(y, far * r, far * g, far * b, nx, ny, nz)
    return
  }
  const radius = Math.max(0, p[RADIUS]!)
  pushWalk(
    y,
    share,
    r,
    g,
    b,
    radius * clamp01(p[RADIUS_SCALE]!),
    radius * clamp01(p[RADIUS_SCALE + 1]!),
    radius * clamp01(p[RADIUS_SCALE + 2]!),
    cosine,
    nx,
    ny,
    nz,
  )
}

/** "Translucent base": clear, absorbing or scattering inside, or a thin sheet. */
function pushGlassBase(under: number, thin: boolean): void {
  const p = inputs
  const weight = BASE[0]!
  const eta = BASE[2]!
  const r = clamp01(p[TRANSMISSION_COLOR]!)
  const g = clamp01(p[TRANSMISSION_COLOR + 1]!)
  const b = clamp01(p[TRANSMISSION_COLOR + 2]!)
  const depth = p[DEPTH]!
  Q[0] = weight
  Q[1] = weight
  Q[2] = weight
  if (thin) {
    BASE[3] = 1
    baseQ()
    sheetQ(under, r, g, b)
    return
  }
  baseQ()
  // "Dispersion": V = V_d/scale
  const scale = p[DISPERSION]!
  const B = scale > 0 ? cauchyB(eta, Math.max(1, p[ABBE]!) / scale) : 0
  if (depth > 0) {
    glassQ(under, 1, 1, 1, B)
    if (p[SCATTER]! > 0 || p[SCATTER + 1]! > 0 || p[SCATTER + 2]! > 0)
      setMilkyInterior(
        r,
        g,
        b,
        depth,
        Math.max(0, p[SCATTER]!),
        Math.max(0, p[SCATTER + 1]!),
        Math.max(0, p[SCATTER + 2]!),
        p[SCATTER_G]!,
      )
    else setInterior(r, g, b, depth)
  } else glassQ(under, r, g, b, B)
}

/**
 * Our coat over any surface (`wl_coat_over`): pushes the coat's reflection and returns the layer that the surface
 * below lies under. Call {@link darkenFrom} with the lobes of that surface afterwards.
 */
export function pushCoatOver(
  layer: number,
  weight: number,
  C: number,
  r: number,
  g: number,
  b: number,
  roughness: number,
  ior: number,
  nx: number,
  ny: number,
  nz: number,
): number {
  C = clamp01(C)
  if (C <= 0 || !now.outside) return layer
  setQ(weight * C, weight * C, weight * C, clamp01(roughness) ** 2, Math.max(1.0001, ior), nx, ny, nz)
  Q[8] = C
  Q[9] = clamp01(r)
  Q[10] = clamp01(g)
  Q[11] = clamp01(b)
  return coatQ(layer)
}
