/** Closes a surface: emission, albedo for guides, and how likely each lobe is picked. */
import { fresnelConductor } from '../optics/fresnel'
import { isMetal } from './fresnel'
import { pushWalk } from './lobes'
import {
  basis,
  CHANNELS,
  DIFFUSE,
  emission,
  layers,
  lobes,
  L_ALBEDO,
  L_ALPHA,
  L_F0,
  L_LAYER,
  L_NORM,
  L_PICK,
  L_STRIDE,
  L_W,
  METAL,
  now,
  REFLECT,
  SHEET,
  spread,
  THROUGH,
  WALK,
  Y_AVERAGE,
  Y_EVEN,
  Y_FILM,
  Y_PASS,
  Y_STRIDE,
  Y_TINT,
} from './state'

/** Adds light sent out from under `layer` (−1: from the surface itself), RGB radiance relative to D65. */
export function pushEmission(layer: number, r: number, g: number, b: number): void {
  if (!(r > 0 || g > 0 || b > 0)) return
  const y = layer * Y_STRIDE
  for (let k = 0; k < CHANNELS; k++) {
    const colour =
      k < 4 ? basis[k * 3]! * r + basis[k * 3 + 1]! * g + basis[k * 3 + 2]! * b : k === 4 ? r : k === 5 ? g : b
    emission[k]! += colour * (layer >= 0 ? layers[y + Y_PASS]! * layers[y + Y_TINT + k]! : 1)
  }
}

/**
 * {@link pushEmission} within a cone about a normal (the standard's conical_edf): whole up to half the inner
 * angle, none beyond half the outer.
 * @param inner full angle, degrees
 */
export function pushConicalEmission(
  layer: number,
  r: number,
  g: number,
  b: number,
  nx: number,
  ny: number,
  nz: number,
  inner: number,
  outer: number,
): void {
  const cos = nx * now.ox + ny * now.oy + nz * now.oz
  const from = Math.cos((Math.min(360, Math.max(0, Math.max(inner, outer))) * Math.PI) / 360)
  const to = Math.cos((Math.min(360, Math.max(0, inner)) * Math.PI) / 360)
  if (cos < from) return
  const t = cos >= to ? 1 : (cos - from) / (to - from)
  const s = t * t * (3 - 2 * t)
  pushEmission(layer, r * s, g * s, b * s)
}

/**
 * Directional albedo of the surface per RGB component, as far as it is known without integrating; guides and AOVs
 * only. Call after {@link finishSurface}.
 */
export function surfaceAlbedo(target: Float64Array, o: number): void {
  for (let k = 0; k < 3; k++) {
    let sum = 0
    for (let i = 0; i < now.lobes; i++) {
      const l = i * L_STRIDE
      const kind = lobes[l]!
      const y = lobes[l + L_LAYER]! * Y_STRIDE
      const a =
        lobes[l + L_W + 4 + k]! *
        (isMetal(kind) ? lobes[l + L_F0 + 4 * (kind === METAL ? 1 : 0) + k]! : lobes[l + L_ALBEDO]!)
      sum += a * (y >= 0 ? layers[y + Y_PASS]! * layers[y + Y_TINT + 4 + k]! : 1)
    }
    target[o + k] = sum
  }
}

/**
 * Shows a number or colour as light sent out, the same from every side: what a tap on a node displays. Negative
 * values stay negative.
 */
export function tap(r: number, g: number, b: number): void {
  spread(emission, 0, r, g, b)
}

/**
 * Tint at the edge (82°) that makes the F82 form agree with a conductor's exact reflectance there (Kutz et al.
 * 2021, eq. 5).
 */
export function edgeTint(n: number, k: number): number {
  const f0 = fresnelConductor(1, n, k)
  const mu = 1 / 7
  return Math.min(1, fresnelConductor(mu, n, k) / (f0 + (1 - f0) * (1 - mu) ** 5))
}

/**
 * Least albedo by which facets that reflect are picked. Tables tell it badly where light grazes an interior that
 * hardly differs: a sample of what they call nothing then weighs hundreds (largest of 8 million random samples:
 * 368 before, 41 since).
 */
const LEAST = 0.02

/**
 * Computes what depends on all lobes together: how likely each is picked. Call after the last push.
 * @returns false when nothing scatters
 */
export function finishSurface(): boolean {
  let sum = 0
  now.answers = false
  for (let i = 0; i < now.lobes; i++) {
    const o = i * L_STRIDE
    const y = lobes[o + L_LAYER]! * Y_STRIDE
    const kind = lobes[o]!
    if (kind !== WALK && kind !== THROUGH && (lobes[o + L_ALPHA] !== 0 || kind === DIFFUSE || kind > SHEET))
      now.answers = true
    let share =
      Math.max(0, lobes[o + L_W + 4]!) + Math.max(0, lobes[o + L_W + 5]!) + Math.max(0, lobes[o + L_W + 6]!)
    share *= kind === REFLECT ? Math.max(LEAST, lobes[o + L_ALBEDO]!) : lobes[o + L_ALBEDO]!
    if (y >= 0) {
      const tint = (layers[y + Y_TINT + 4]! + layers[y + Y_TINT + 5]! + layers[y + Y_TINT + 6]!) / 3
      share *= layers[y + Y_PASS]! * tint
      if (lobes[o + L_NORM]! > 0) {
        lobes[o + L_NORM] = 1 / layers[y + Y_AVERAGE]!
        if (layers[y + Y_FILM]! > 0)
          for (let k = 0; k < CHANNELS; k++) lobes[o + L_W + k]! *= layers[y + Y_EVEN + k]!
      }
    }
    share = Math.max(share, 1e-4)
    lobes[o + L_PICK] = share
    sum += share
  }
  for (let i = 0; i < now.lobes; i++) lobes[i * L_STRIDE + L_PICK]! /= sum
  return now.lobes > 0
}

/**
 * {@link finishSurface} where light that walked below the surface leaves it: all of it leaves, through the layers
 * above, whose part on the viewer's side has been taken already when it came in. Without any lobe (a mask ends
 * here) it leaves bare.
 */
export function finishLeaving(): void {
  now.answers = true
  if (now.lobes === 0) pushWalk(-1, 1, 1, 1, 1, 1, 1, 1, 0, now.ox, now.oy, now.oz)
  let total = 0
  for (let i = 0; i < now.lobes; i++) total += lobes[i * L_STRIDE + L_W + 4]!
  for (let i = 0; i < now.lobes; i++) {
    const o = i * L_STRIDE
    const y = lobes[o + L_LAYER]! * Y_STRIDE
    const share = lobes[o + L_W + 4]! / total
    lobes[o + L_PICK] = share
    lobes[o + L_NORM] = y >= 0 ? 1 / (layers[y + Y_AVERAGE]! * layers[y + Y_PASS]!) : 1
    for (let k = 0; k < CHANNELS; k++)
      lobes[o + L_W + k] =
        y >= 0
          ? (share / layers[y + Y_TINT + k]!) * (layers[y + Y_FILM]! > 0 ? layers[y + Y_EVEN + k]! : 1)
          : share
  }
}
