/**
 * OpenPBR Surface 1.1, compiled down to lobes under layers. The section names are the specification's. From the
 * top: fuzz, coat, film, and below them metal, glass, or an opaque base whose light is scattered at the surface or
 * below it.
 */
import { cauchyB } from '../optics/dispersion'
import { darkenFrom } from './darken'
import { pushEmission } from './emission'
import { setInterior, setMilkyInterior } from './inside'
import { pushCoatLayer, pushFuzzLayer, pushLayer } from './layers'
import { pushDiffuseSpec } from './lobes/diffuse'
import { pushFuzz } from './lobes/fuzz'
import { pushGlass } from './lobes/glass'
import { pushMetal } from './lobes/metal'
import { pushCoatReflection, pushReflection } from './lobes/reflection'
import { pushRoughDiffuse } from './lobes/rough-diffuse'
import { pushSheet } from './lobes/sheet'
import { pushThrough } from './lobes/through'
import { pushTranslucent } from './lobes/translucent'
import { pushWalk } from './lobes/walk'
import { mediumUnder } from './medium'
import { memory, now } from './memory'
import { AT } from './openpbr-inputs'
import { SPEC } from './slots'
import { setSpec } from './spec'

const { openPbrBase: base, spec } = memory

/** Values of one surface, in the order of OPENPBR_INPUTS with colours and vectors unrolled; see {@link AT}. */
export const { openPbr: inputs } = memory

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

/** Words of {@link base}: share of the surface, α, index, coverage of a coat. */
const BASE = { share: 0, alpha: 1, eta: 2, coverage: 3 } as const

/** Puts roughness, index and normal of the base into the spec, its grain, and the film on it. */
function setBase(): void {
  const p = inputs
  spec[SPEC.alpha] = base[BASE.alpha]!
  spec[SPEC.eta] = base[BASE.eta]!
  spec[SPEC.normal] = p[NORMAL]!
  spec[SPEC.normal + 1] = p[NORMAL + 1]!
  spec[SPEC.normal + 2] = p[NORMAL + 2]!
  spec[SPEC.anisotropy] = p[ANISOTROPY]!
  if (spec[SPEC.anisotropy]! > 0) {
    spec[SPEC.grain] = p[TANGENT]!
    spec[SPEC.grain + 1] = p[TANGENT + 1]!
    spec[SPEC.grain + 2] = p[TANGENT + 2]!
  }
  spec[SPEC.film] = p[FILM_WEIGHT]!
  if (spec[SPEC.film]! > 0) {
    // thickness in micrometres ("Thin-film iridescence")
    spec[SPEC.filmIndex] = Math.max(1, p[FILM_IOR]!)
    spec[SPEC.filmThickness] = Math.max(0, p[FILM_THICKNESS]!) * 1000
  }
}

/**
 * The coat's reflection, and the layer that it makes, of what the spec says.
 * @param index absolute, of the coat
 * @returns number of the layer
 */
function pushCoatSpec(layer: number, index: number): number {
  spec[SPEC.eta] = index / mediumUnder(layer)
  if (now.outside) pushCoatReflection(layer)
  const y = pushCoatLayer(layer, index)
  now.coat = y === layer ? -1 : y
  // from within only the face of a glass meets it
  return now.outside ? y : layer
}

/** What is pushed from here on lies under no coat. */
export function endCoat(): void {
  now.coat = -1
}

/** {@link pushCoatSpec} of the surface in {@link inputs} and {@link base}. */
function pushCoat(layer: number): number {
  const p = inputs
  const C = base[BASE.coverage]!
  const w = base[BASE.share]! * C
  setSpec(w, w, w, base[BASE.alpha]!, base[BASE.eta]!, p[COAT_NORMAL]!, p[COAT_NORMAL + 1]!, p[COAT_NORMAL + 2]!)
  spec[SPEC.anisotropy] = p[COAT_ANISOTROPY]!
  if (spec[SPEC.anisotropy]! > 0) {
    spec[SPEC.grain] = p[COAT_TANGENT]!
    spec[SPEC.grain + 1] = p[COAT_TANGENT + 1]!
    spec[SPEC.grain + 2] = p[COAT_TANGENT + 2]!
  }
  spec[SPEC.coverage] = C
  spec[SPEC.tint] = clamp01(p[COAT_COLOR]!)
  spec[SPEC.tint + 1] = clamp01(p[COAT_COLOR + 1]!)
  spec[SPEC.tint + 2] = clamp01(p[COAT_COLOR + 2]!)
  return pushCoatSpec(layer, base[BASE.eta]!)
}

/** "Fuzz", on the outer side. @returns the layer that all else lies under */
function pushFuzzOf(layer: number, weight: number): number {
  const p = inputs
  const fuzz = clamp01(p[FUZZ_WEIGHT]!)
  if (!(fuzz > 0 && now.outside)) return layer
  const rough = clamp01(p[FUZZ_ROUGHNESS]!)
  const nx = p[NORMAL]!
  const ny = p[NORMAL + 1]!
  const nz = p[NORMAL + 2]!
  const r = clamp01(p[FUZZ_COLOR]!)
  pushFuzz(layer, weight * fuzz, r, clamp01(p[FUZZ_COLOR + 1]!), clamp01(p[FUZZ_COLOR + 2]!), rough, nx, ny, nz)
  return pushFuzzLayer(layer, fuzz, rough, nx, ny, nz)
}

/**
 * "Coat", on the outer side.
 * @param glassy whether there is a face of glass below, which meets it from within too
 * @returns the layer that the base lies under
 */
function pushCoatOf(layer: number, weight: number, glassy: boolean): number {
  const p = inputs
  const C = clamp01(p[COAT]!)
  if (!(C > 0 && (now.outside || glassy))) return layer
  const coatRoughness = clamp01(p[COAT_ROUGHNESS]!)
  base[BASE.share] = weight
  base[BASE.alpha] = coatRoughness * coatRoughness
  base[BASE.eta] = Math.max(1.0001, p[COAT_IOR]!)
  base[BASE.coverage] = C
  return pushCoat(layer)
}

/** "Emission", from under a layer. */
function pushLightOf(under: number, weight: number): void {
  const p = inputs
  const luminance = p[LUMINANCE]! * weight
  if (luminance > 0)
    pushEmission(
      under,
      luminance * p[EMISSION_COLOR]!,
      luminance * p[EMISSION_COLOR + 1]!,
      luminance * p[EMISSION_COLOR + 2]!,
    )
}

/** What the surface in {@link inputs} sends out, alone: its coat and fuzz, and the light under them. */
export function pushOpenPbrLight(layer: number, weight: number): void {
  const opacity = clamp01(inputs[OPACITY]!)
  if (opacity < 1) weight *= opacity
  if (inputs[THIN]! > 0.5) now.outside = true
  pushLightOf(pushCoatOf(pushFuzzOf(layer, weight), weight, false), weight)
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
  const top = pushFuzzOf(layer, weight)
  const C = clamp01(p[COAT]!)
  const coatIor = C > 0 ? Math.max(1.0001, p[COAT_IOR]!) : 1.6
  const before = now.coat
  const under = pushCoatOf(top, weight, T * (1 - M) > 0 && !thin)
  if (C > 0 && now.outside) {
    // "Coat roughening": the base seen through a rough coat
    const r4 = roughness ** 4
    const roughened = Math.min(1, r4 + 2 * clamp01(p[COAT_ROUGHNESS]!) ** 4) ** 0.25
    roughness += (roughened - roughness) * C
  }
  const underFirst = now.lobes
  base[BASE.alpha] = roughness * roughness
  if (M < 1) {
    const dielectric = weight * (1 - M)
    if (dielectric * (1 - T) > 0) {
      base[BASE.share] = dielectric * (1 - T)
      base[BASE.eta] = modulatedIor(baseIor(ior, coatIor, C, top), specularWeight)
      pushOpaqueBase(under, thin)
    }
    if (dielectric * T > 0) {
      base[BASE.share] = dielectric * T
      base[BASE.eta] = modulatedIor(ior, specularWeight)
      pushGlassBase(under, thin)
    }
  }
  if (M > 0) {
    const metal = clamp01(p[BASE_WEIGHT]!)
    const w = weight * M * clamp01(specularWeight)
    spec[SPEC.weight] = w
    spec[SPEC.weight + 1] = w
    spec[SPEC.weight + 2] = w
    base[BASE.eta] = 1
    setBase()
    pushMetal(
      under,
      metal * clamp01(p[BASE_COLOR]!),
      metal * clamp01(p[BASE_COLOR + 1]!),
      metal * clamp01(p[BASE_COLOR + 2]!),
      clamp01(p[SPECULAR_COLOR]!),
      clamp01(p[SPECULAR_COLOR + 1]!),
      clamp01(p[SPECULAR_COLOR + 2]!),
    )
  }
  now.coat = before
  if (under !== top) darkenFrom(underFirst, under, weight, C * clamp01(p[DARKENING]!))
  pushLightOf(under, weight)
}

/**
 * "Specular IOR under a coat": inverted where the coat is the denser, so that no light is trapped; and relative to
 * what the surface lies in, which may be a coat of ours.
 * @param top layer above the surface's own coat
 */
function baseIor(ior: number, coatIor: number, C: number, top: number): number {
  const relative = ior / coatIor
  const alone = ior / mediumUnder(top)
  const bare = top < 0 || alone >= 1 ? alone : 1 / alone
  return C > 0 ? bare + (Math.max(relative, 1 / relative) - bare) * C : bare
}

/** "Glossy-diffuse" and "Subsurface": a dielectric interface over what scatters light back. */
function pushOpaqueBase(under: number, thin: boolean): void {
  const p = inputs
  const opaque = base[BASE.share]!
  setBase()
  spec[SPEC.coverage] = 1
  spec[SPEC.tint] = 1
  spec[SPEC.tint + 1] = 1
  spec[SPEC.tint + 2] = 1
  const y = pushLayer(under)
  spec[SPEC.weight] = opaque * clamp01(p[SPECULAR_COLOR]!)
  spec[SPEC.weight + 1] = opaque * clamp01(p[SPECULAR_COLOR + 1]!)
  spec[SPEC.weight + 2] = opaque * clamp01(p[SPECULAR_COLOR + 2]!)
  pushReflection(under)
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
    spec[SPEC.weight] = w * clamp01(p[BASE_COLOR]!)
    spec[SPEC.weight + 1] = w * clamp01(p[BASE_COLOR + 1]!)
    spec[SPEC.weight + 2] = w * clamp01(p[BASE_COLOR + 2]!)
    spec[SPEC.anisotropy] = 0
    pushDiffuseSpec(y)
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
  const weight = base[BASE.share]!
  const eta = base[BASE.eta]!
  const r = clamp01(p[TRANSMISSION_COLOR]!)
  const g = clamp01(p[TRANSMISSION_COLOR + 1]!)
  const b = clamp01(p[TRANSMISSION_COLOR + 2]!)
  const depth = p[DEPTH]!
  spec[SPEC.weight] = weight
  spec[SPEC.weight + 1] = weight
  spec[SPEC.weight + 2] = weight
  if (thin) {
    setBase()
    pushSheet(under, r, g, b)
    return
  }
  setBase()
  // "Dispersion": V = V_d/scale
  const scale = p[DISPERSION]!
  const B = scale > 0 ? cauchyB(eta, Math.max(1, p[ABBE]!) / scale) : 0
  if (depth > 0) {
    pushGlass(under, 1, 1, 1, B)
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
  } else pushGlass(under, r, g, b, B)
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
  if (C <= 0) return layer
  setSpec(weight * C, weight * C, weight * C, clamp01(roughness) ** 2, Math.max(1.0001, ior), nx, ny, nz)
  spec[SPEC.coverage] = C
  spec[SPEC.tint] = clamp01(r)
  spec[SPEC.tint + 1] = clamp01(g)
  spec[SPEC.tint + 2] = clamp01(b)
  return pushCoatSpec(layer, Math.max(1.0001, ior))
}
