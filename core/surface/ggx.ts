/**
 * The GGX microfacet distribution with the height-correlated Smith masking
 * (Walter et al. 2007; Heitz 2014, "Understanding the Masking-Shadowing Function"; symbols of theirs, cosines for
 * angles).
 */
import { CIRCLE, onCircle } from './circle'
import { memory } from './memory'

/** Below this α a surface counts as smooth and its reflection as a single direction. */
export const SMOOTH_ALPHA = 4e-4

/** D(m) for a half vector at cosine `cosM` to the normal (Walter et al. eq. 33). */
export function ggxD(cosM: number, alpha: number): number {
  const a2 = alpha * alpha
  const t = cosM * cosM * (a2 - 1) + 1
  return a2 / (Math.PI * t * t)
}

/** Λ(ω) (Heitz 2014, eq. 72). */
export function ggxLambda(cos: number, alpha: number): number {
  const c2 = cos * cos
  return 0.5 * (Math.sqrt(1 + (alpha * alpha * (1 - c2)) / c2) - 1)
}

/**
 * D(m) of facets stretched by αx along x and αy along y (Heitz 2014, eq. 85).
 * @param x, y, z of the half vector in the local frame
 */
export function grainD(x: number, y: number, z: number, ax: number, ay: number): number {
  const p = x / ax
  const q = y / ay
  const t = p * p + q * q + z * z
  return 1 / (Math.PI * ax * ay * t * t)
}

/** Λ(ω) of the same (Heitz 2014, eqs. 72, 80). */
export function grainLambda(x: number, y: number, z: number, ax: number, ay: number): number {
  const p = ax * x
  const q = ay * y
  return 0.5 * (Math.sqrt(1 + (p * p + q * q) / (z * z)) - 1)
}

/** Half vector drawn by {@link sampleVisibleNormal}, local frame. */
export const { sampledNormal } = memory

/**
 * Draws a normal visible from `wo` (local frame, z up, wo.z > 0) into {@link sampledNormal}.
 * Dupuy & Benyoub 2023, "Sampling Visible GGX Normals with Spherical Caps", listing 3.
 * @param across α along y, where it differs from that along x
 */
export function sampleVisibleNormal(
  wox: number,
  woy: number,
  woz: number,
  alpha: number,
  u1: number,
  u2: number,
  across = alpha,
): void {
  let x = wox * alpha
  let y = woy * across
  let z = woz
  const l = 1 / Math.sqrt(x * x + y * y + z * z)
  x *= l
  y *= l
  z *= l
  const cz = (1 - u2) * (1 + z) - z
  const s = Math.sqrt(Math.max(0, 1 - cz * cz))
  onCircle(u1)
  let hx = s * CIRCLE[0]! + x
  let hy = s * CIRCLE[1]! + y
  let hz = cz + z
  hx *= alpha
  hy *= across
  hz = Math.max(hz, 1e-12)
  const m = 1 / Math.sqrt(hx * hx + hy * hy + hz * hz)
  sampledNormal[0] = hx * m
  sampledNormal[1] = hy * m
  sampledNormal[2] = hz * m
}
