/**
 * Drawing of a new direction from the current surface. Lobes share one-sample multiple importance sampling: the
 * density is that of the whole mixture.
 */
import { fresnelDielectric } from '../optics/fresnel'
import { CIRCLE, onCircle } from './circle'
import {
  accumulate,
  accumulateColoured,
  accumulateThrough,
  clearValue,
  enterLayers,
  evaluateIncoming,
  R,
  TOWARDS,
  towardsViewer,
  value,
} from './evaluate'
import { dielectricFresnel, FACET, fresnel, isMetal, metalFresnel, reflectChance } from './fresnel'
import { fuzzA, fuzzB } from './fuzz'
import { sampledNormal, sampleVisibleNormal } from './ggx'
import { orthonormal } from './orthonormal'
import {
  AGAIN_GLASS,
  CHANNELS,
  DIFFUSE,
  FUZZ,
  GLASS,
  L_ALPHA,
  L_AX,
  L_AY,
  L_BX,
  L_CLASS,
  L_COS,
  L_EDGE,
  L_ETA,
  L_GRAIN,
  L_KIND,
  L_NX,
  L_NY,
  L_NZ,
  L_PICK,
  L_SPECTRAL,
  L_STRIDE,
  L_TX,
  lobes,
  now,
  REFLECT,
  SHEET,
  THROUGH,
  TRANSLUCENT,
  WALK,
} from './state'

/** Result of {@link sample}: new direction, unit. */
export const scattered = {
  x: 0.5,
  y: 0.5,
  z: 0.5,
  pdf: 0.5,
  smooth: false,
  transmitted: false,
  kind: 0,
  alpha: 0.5,
  /** See {@link L_CLASS}. */ class: 0,
}

/** Local frame of the lobe being sampled: any two directions, or its grain. */
const frame = new Float64Array(6)
function buildFrame(o: number): void {
  if (lobes[o + L_GRAIN] === 1)
    for (let k = 0; k < 3; k++) {
      frame[k] = lobes[o + L_TX + k]!
      frame[3 + k] = lobes[o + L_BX + k]!
    }
  else orthonormal(frame, lobes[o + L_NX]!, lobes[o + L_NY]!, lobes[o + L_NZ]!)
}

/**
 * Draws a direction by a lobe picked with u1, or from lobe `only` when that is ≥ 0.
 * Fills {@link scattered} and {@link value}. @returns false when the sample carries nothing
 */
export function sample(u1: number, u2: number, u3: number): boolean {
  R[4] = u1
  R[5] = u2
  R[6] = u3
  return sampleDrawn()
}

/** {@link sample} with the draws in R[4…6]. */
export function sampleDrawn(): boolean {
  let l = 0
  let u1 = R[4]!
  while (l < now.lobes - 1 && u1 >= lobes[l * L_STRIDE + L_PICK]!) u1 -= lobes[l++ * L_STRIDE + L_PICK]!
  const o = l * L_STRIDE
  const pick = lobes[o + L_PICK]!
  R[4] = Math.min(0.9999999999, u1 / pick)
  if (!sampleLobeDrawn(l)) return false
  if (scattered.smooth) {
    const scale = 1 / pick
    for (let k = 0; k < CHANNELS; k++) value[k]! *= scale
    scattered.pdf = pick
    return true
  }
  R[0] = scattered.x
  R[1] = scattered.y
  R[2] = scattered.z
  evaluateIncoming()
  const pdf = R[3]!
  if (!(pdf > 1e-12)) return false
  const inverse = 1 / pdf
  for (let k = 0; k < CHANNELS; k++) value[k]! *= inverse
  scattered.pdf = pdf
  return true
}

/**
 * Smooth lobes that {@link sampleLobe} finds put their whole weight into {@link value}; rough ones only choose a
 * direction.
 */
export function sampleLobe(l: number, choose: number, u2: number, u3: number): boolean {
  R[4] = choose
  R[5] = u2
  R[6] = u3
  return sampleLobeDrawn(l)
}

function sampleLobeDrawn(l: number): boolean {
  const choose = R[4]!
  const u2 = R[5]!
  const u3 = R[6]!
  const o = l * L_STRIDE
  const kind = lobes[o + L_KIND]!
  const alpha = lobes[o + L_ALPHA]!
  const nx = lobes[o + L_NX]!
  const ny = lobes[o + L_NY]!
  const nz = lobes[o + L_NZ]!
  const co = lobes[o + L_COS]!
  const { ox, oy, oz } = now
  scattered.kind = kind
  scattered.alpha = alpha
  scattered.class = lobes[o + L_CLASS]!
  scattered.smooth = false
  scattered.transmitted = false
  if (kind === DIFFUSE || kind > SHEET) return sampleSoft(o, kind, choose, u2, u3)
  let hx = nx
  let hy = ny
  let hz = nz
  if (alpha > 0) {
    buildFrame(o)
    const grain = lobes[o + L_GRAIN] === 1
    const lx = frame[0]! * ox + frame[1]! * oy + frame[2]! * oz
    const ly = frame[3]! * ox + frame[4]! * oy + frame[5]! * oz
    const lz = Math.max(1e-5, nx * ox + ny * oy + nz * oz)
    if (grain) sampleVisibleNormal(lx, ly, lz, lobes[o + L_AX]!, u2, u3, lobes[o + L_AY]!)
    else sampleVisibleNormal(lx, ly, lz, alpha, u2, u3)
    toWorld(sampledNormal[0]!, sampledNormal[1]!, sampledNormal[2]!, nx, ny, nz)
    hx = scattered.x
    hy = scattered.y
    hz = scattered.z
  }
  const oh = alpha > 0 ? Math.min(1, ox * hx + oy * hy + oz * hz) : co
  if (oh <= 0) return false
  const eta = lobes[o + L_ETA]!
  const spectral = lobes[o + L_SPECTRAL] === 1
  const d = 2 * (ox * hx + oy * hy + oz * hz)
  const x = d * hx - ox
  const y = d * hy - oy
  const z = d * hz - oz
  if (kind === GLASS || kind === SHEET) {
    let F: number
    if (spectral || kind === SHEET) {
      FACET[0] = oh
      dielectricFresnel(o)
      F = reflectChance()
    } else F = fresnelDielectric(oh, eta)
    if (choose >= F) return kind === GLASS ? refract(o, hx, hy, hz, F) : passSheet(o, x, y, z, F)
    if (alpha === 0 && (spectral || kind === SHEET)) for (let k = 0; k < CHANNELS; k++) fresnel[k]! /= F
  }
  scattered.x = x
  scattered.y = y
  scattered.z = z
  if (x * now.gx + y * now.gy + z * now.gz <= 0) return false
  if (alpha === 0) {
    scattered.smooth = true
    clearValue()
    R[0] = x
    R[1] = y
    R[2] = z
    if (now.layers > 0) enterLayersKeeping()
    R[7] = 1
    if (isMetal(kind)) {
      FACET[0] = oh
      metalFresnel(o)
      accumulateColoured(o)
    } else if (kind === REFLECT && spectral) {
      FACET[0] = oh
      dielectricFresnel(o)
      accumulateColoured(o)
    } else if (kind === SHEET || spectral) accumulateColoured(o)
    else {
      R[7] = kind === REFLECT ? fresnelDielectric(oh, eta) : 1
      accumulate(o)
    }
  }
  return true
}

const kept = new Float64Array(CHANNELS)
/** {@link enterLayers}, which may ask for the Fresnel factors of films, without losing those at hand. */
function enterLayersKeeping(): void {
  kept.set(fresnel)
  enterLayers()
  fresnel.set(kept)
}

/** Refracts at the facet h; F is the chance with which it would have reflected. */
function refract(o: number, hx: number, hy: number, hz: number, F: number): boolean {
  const { ox, oy, oz } = now
  const eta = lobes[o + L_ETA]!
  const c = ox * hx + oy * hy + oz * hz
  const sin2 = (1 - c * c) / (eta * eta)
  if (sin2 >= 1) return false // only with films and dispersion, whose chance to reflect stays below one
  const s = c / eta - Math.sqrt(1 - sin2)
  let x = s * hx - ox / eta
  let y = s * hy - oy / eta
  let z = s * hz - oz / eta
  const inverse = 1 / Math.sqrt(x * x + y * y + z * z)
  x *= inverse
  y *= inverse
  z *= inverse
  scattered.x = x
  scattered.y = y
  scattered.z = z
  scattered.transmitted = true
  if (x * now.gx + y * now.gy + z * now.gz >= 0) return false
  if (lobes[o + L_ALPHA] === 0) {
    const spectral = lobes[o + L_SPECTRAL] === 1
    scattered.smooth = true
    clearValue()
    R[7] = spectral ? 1 / (1 - F) : 1 // (1 − F) over its own probability
    accumulateThrough(o, spectral)
  }
  return true
}

/** Passes a thin sheet: the direction (x, y, z) that its facet would reflect to, mirrored at the sheet. */
function passSheet(o: number, x: number, y: number, z: number, F: number): boolean {
  const along = 2 * (x * lobes[o + L_NX]! + y * lobes[o + L_NY]! + z * lobes[o + L_NZ]!)
  scattered.x = x - along * lobes[o + L_NX]!
  scattered.y = y - along * lobes[o + L_NY]!
  scattered.z = z - along * lobes[o + L_NZ]!
  scattered.transmitted = true
  if (scattered.x * now.gx + scattered.y * now.gy + scattered.z * now.gz >= 0) return false
  if (lobes[o + L_ALPHA] === 0) {
    scattered.smooth = true
    clearValue()
    R[7] = 1 / (1 - F)
    accumulateThrough(o, true)
  }
  return true
}

/** Draws from the lobes that are no microfacets. */
function sampleSoft(o: number, kind: number, choose: number, u2: number, u3: number): boolean {
  const nx = lobes[o + L_NX]!
  const ny = lobes[o + L_NY]!
  const nz = lobes[o + L_NZ]!
  if (kind === THROUGH) {
    scattered.x = -now.ox
    scattered.y = -now.oy
    scattered.z = -now.oz
    return passWhole(o)
  }
  onCircle(u3)
  const r = Math.sqrt(u2)
  const z = Math.sqrt(Math.max(0, 1 - u2))
  const x = r * CIRCLE[0]!
  const y = r * CIRCLE[1]!
  if (kind === FUZZ) {
    const rough = lobes[o + L_ALPHA]!
    const co = lobes[o + L_COS]!
    const A = fuzzA(co, rough)
    const B = fuzzB(co, rough)
    towardsViewer(o)
    let wx = (x - z * B) / A
    let wy = y / A
    let wz = z
    const l = 1 / Math.sqrt(wx * wx + wy * wy + wz * wz)
    wx *= l
    wy *= l
    wz *= l
    scattered.x = TOWARDS[0]! * wx + TOWARDS[3]! * wy + nx * wz
    scattered.y = TOWARDS[1]! * wx + TOWARDS[4]! * wy + ny * wz
    scattered.z = TOWARDS[2]! * wx + TOWARDS[5]! * wy + nz * wz
    return scattered.x * now.gx + scattered.y * now.gy + scattered.z * now.gz > 0
  }
  buildFrame(o)
  const far = kind === TRANSLUCENT || kind === WALK || (kind === AGAIN_GLASS && choose < lobes[o + L_EDGE]!)
  toWorld(x, y, far ? -z : z, nx, ny, nz)
  const side = scattered.x * now.gx + scattered.y * now.gy + scattered.z * now.gz
  if (far ? side >= 0 : side <= 0) return false
  scattered.transmitted = far
  return kind !== WALK || passWhole(o)
}

/** A lobe that answers no given direction: all of it goes the way that was drawn. */
function passWhole(o: number): boolean {
  scattered.smooth = true
  scattered.transmitted = true
  clearValue()
  R[7] = 1
  accumulateThrough(o, false)
  return true
}

function toWorld(x: number, y: number, z: number, nx: number, ny: number, nz: number): void {
  scattered.x = frame[0]! * x + frame[3]! * y + nx * z
  scattered.y = frame[1]! * x + frame[4]! * y + ny * z
  scattered.z = frame[2]! * x + frame[5]! * y + nz * z
}
