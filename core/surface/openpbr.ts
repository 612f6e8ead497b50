/**
 * OpenPBR Surface 1.1, compiled down to lobes under layers. The section names are the specification's.
 * Here: base, specular, clear transmission with depth, coat, emission. Inputs beyond those are reported by the compiler, never ignored silently.
 */
import { CONDUCTOR_NAMES } from '../optics/conductors'
import { darkenFrom, diffuseQ, layerQ, now, pushCoatReflect, pushConductor, pushEmission, pushGlass, pushLayer, pushMetal, Q, reflectQ, setInterior } from './stack'

/** Values of one surface, in the order of OPENPBR_INPUTS with colours and vectors unrolled: 33 numbers. */
export const inputs = new Float64Array(33)

/** Brings a value into 0..1; what is not a number becomes 0. */
const clamp01 = (x: number) => x > 0 ? x < 1 ? x : 1 : 0

/** Index of refraction whose normal reflectance is `weight` times that of `ior` ("Specular weight", eq. for η′). */
export function modulatedIor(ior: number, weight: number): number {
  if (weight === 1) return ior
  const f = (ior - 1) / (ior + 1)
  const e = Math.sign(f) * Math.sqrt(Math.min(0.999, Math.max(0, weight) * f * f))
  return (1 + e) / (1 - e)
}

/**
 * Pushes the surface in {@link inputs}.
 * @param layer layer above, or −1
 * @param weight share of the surface here, 0..1
 */
export function pushOpenPbr(layer: number, weight: number): void {
  const p = inputs
  const baseWeight = clamp01(p[0]!), br = clamp01(p[1]!), bg = clamp01(p[2]!), bb = clamp01(p[3]!)
  const M = clamp01(p[4]!), specularWeight = Math.max(0, p[5]!), sr = clamp01(p[6]!), sg = clamp01(p[7]!), sb = clamp01(p[8]!)
  let roughness = clamp01(p[9]!)
  const ior = Math.max(1.0001, p[10]!), T = clamp01(p[11]!)
  const C = clamp01(p[16]!), coatRoughness = clamp01(p[20]!), coatIor = Math.max(1.0001, p[21]!)
  const nx = p[27]!, ny = p[28]!, nz = p[29]!, cx = p[30]!, cy = p[31]!, cz = p[32]!
  let under = layer
  if (C > 0 && now.outside) {
    const alpha = coatRoughness * coatRoughness
    pushCoatReflect(layer, weight * C, alpha, coatIor, cx, cy, cz)
    under = pushLayer(layer, C, clamp01(p[17]!), clamp01(p[18]!), clamp01(p[19]!), alpha, coatIor, cx, cy, cz)
    // "Coat roughening": the base seen through a rough coat
    const r4 = roughness ** 4, roughened = Math.min(1, r4 + 2 * coatRoughness ** 4) ** 0.25
    roughness += (roughened - roughness) * C
  }
  const underFirst = now.lobes
  const alpha = roughness * roughness
  if (M < 1) {
    const dielectric = weight * (1 - M)
    // "Specular IOR under a coat": inverted where the coat is the denser, so that no light is trapped
    const relative = ior / coatIor
    let eta = C > 0 ? ior + (Math.max(relative, 1 / relative) - ior) * C : ior
    eta = modulatedIor(eta, specularWeight)
    const opaque = dielectric * (1 - T)
    if (opaque > 0) {
      Q[3] = alpha; Q[4] = eta; Q[5] = nx; Q[6] = ny; Q[7] = nz
      Q[8] = Q[9] = Q[10] = Q[11] = 1
      const y = layerQ(under)
      Q[0] = opaque * sr; Q[1] = opaque * sg; Q[2] = opaque * sb
      reflectQ(under)
      const w = opaque * baseWeight
      Q[0] = w * br; Q[1] = w * bg; Q[2] = w * bb
      diffuseQ(y)
    }
    if (T > 0) {
      const tr = clamp01(p[12]!), tg = clamp01(p[13]!), tb = clamp01(p[14]!), depth = p[15]!
      if (depth > 0) {
        pushGlass(under, dielectric * T, 1, 1, 1, alpha, modulatedIor(ior, specularWeight), nx, ny, nz)
        setInterior(tr, tg, tb, depth)
      }
      else pushGlass(under, dielectric * T, tr, tg, tb, alpha, modulatedIor(ior, specularWeight), nx, ny, nz)
    }
  }
  if (M > 0) {
    const s = clamp01(specularWeight)
    pushMetal(under, weight * M * s, alpha, baseWeight * br, baseWeight * bg, baseWeight * bb, sr, sg, sb, nx, ny, nz)
  }
  if (under !== layer) darkenFrom(underFirst, under, weight, C * clamp01(p[22]!))
  const luminance = p[23]! * weight
  if (luminance > 0) pushEmission(under, luminance * p[24]!, luminance * p[25]!, luminance * p[26]!)
}

/**
 * Our coat over any surface (`wl_coat_over`): pushes the coat's reflection and returns the layer that the surface below lies under.
 * Call {@link darkenFrom} with the lobes of that surface afterwards.
 */
export function pushCoatOver(layer: number, weight: number, C: number, r: number, g: number, b: number, roughness: number, ior: number, nx: number, ny: number, nz: number): number {
  C = clamp01(C)
  if (C <= 0 || !now.outside) return layer
  const alpha = clamp01(roughness) ** 2, eta = Math.max(1.0001, ior)
  pushCoatReflect(layer, weight * C, alpha, eta, nx, ny, nz)
  return pushLayer(layer, C, clamp01(r), clamp01(g), clamp01(b), alpha, eta, nx, ny, nz)
}

/** Metal by name with the given weight; `scale` may tint it. */
export function pushNamedConductor(layer: number, weight: number, table: number, rgb: Float64Array, roughness: number, nx: number, ny: number, nz: number): void {
  if (table < 0 || table >= CONDUCTOR_NAMES.length) return
  pushConductor(layer, weight, weight, weight, clamp01(roughness) ** 2, table, rgb[table * 3]!, rgb[table * 3 + 1]!, rgb[table * 3 + 2]!, nx, ny, nz)
}
