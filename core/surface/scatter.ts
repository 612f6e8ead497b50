/**
 * Scattering from the current surface: evaluation for a given direction and sampling of a new one.
 * Lobes share one-sample multiple importance sampling: the density is that of the whole mixture.
 */
import { conductorK, conductorN } from '../optics/conductors'
import { fresnelConductor, fresnelDielectric } from '../optics/fresnel'
import { ALBEDO, askAlbedo } from './albedo'
import { ggxD, ggxLambda, sampledNormal, sampleVisibleNormal } from './ggx'
import {
  CHANNELS, CONDUCTOR, DIFFUSE, GLASS, L_ALPHA, L_CLASS, L_COS, L_EDGE, L_ETA, L_F0, L_KIND, L_LAYER, L_NORM, L_NX, L_NY, L_NZ, L_PICK, L_STRIDE, L_TABLE, L_W,
  MAX_LAYERS, METAL, REFLECT, Y_ALPHA, Y_ETA, Y_LOG, Y_NX, Y_NY, Y_NZ, Y_PASS, Y_STRIDE, Y_TINT, Y_TINTED, Y_WEIGHT,
  lane, layers, lobes, now, slantOf,
} from './stack'

/** Result of {@link evaluate} and {@link sample}: f·|cos θi| per channel; after sample divided by the density. */
export const value = new Float64Array(CHANNELS)
/** Result of {@link sample}: new direction, unit. */
export const scattered = { x: 0.5, y: 0.5, z: 0.5, pdf: 0.5, smooth: false, transmitted: false, kind: 0, alpha: 0.5, /** See {@link L_CLASS}. */ class: 0 }
/**
 * What the hot functions here take: numbers passed to calls that the engine does not inline are boxed, one allocation each, so they go through this array.
 * 0–2 direction i of {@link evaluateIncoming}, 3 its density out; 4–6 the draws of {@link sampleDrawn}; 7 a factor.
 */
export const R = new Float64Array(8)

/** Seven zeros. Written out: \`fill\` is a call, and cost a tenth of {@link evaluateIncoming}. */
function clearValue(): void { value[0] = 0; value[1] = 0; value[2] = 0; value[3] = 0; value[4] = 0; value[5] = 0; value[6] = 0 }

const passIn = new Float64Array(MAX_LAYERS)
const tintIn = new Float64Array(MAX_LAYERS * CHANNELS)

/** What passes each layer from direction i, cumulative from the top. */
function enterLayers(): void {
  const ix = R[0]!, iy = R[1]!, iz = R[2]!
  for (let y = 0; y < now.layers; y++) {
    const o = y * Y_STRIDE, parent = layers[o]!, weight = layers[o + Y_WEIGHT]!
    let cos = layers[o + Y_NX]! * ix + layers[o + Y_NY]! * iy + layers[o + Y_NZ]! * iz
    cos = cos < 1e-5 ? 1e-5 : cos > 1 ? 1 : cos
    ALBEDO[0] = cos; ALBEDO[1] = layers[o + Y_ALPHA]!; ALBEDO[2] = layers[o + Y_ETA]!
    askAlbedo()
    passIn[y] = (1 - weight * ALBEDO[3]!) * (parent >= 0 ? passIn[parent]! : 1)
    const tinted = layers[o + Y_TINTED] === 1
    if (!tinted && parent < 0) { tintIn.fill(1, y * CHANNELS, y * CHANNELS + CHANNELS); continue }
    const slant = tinted ? 0.5 * slantOf(cos, layers[o + Y_ETA]!) : 0
    for (let k = 0; k < CHANNELS; k++) {
      const own = tinted ? 1 - weight + weight * Math.exp(slant * layers[o + Y_LOG + k]!) : 1
      tintIn[y * CHANNELS + k] = own * (parent >= 0 ? tintIn[parent * CHANNELS + k]! : 1)
    }
  }
}

const fresnel = new Float64Array(CHANNELS)

/** Fresnel reflectance per channel of a metal lobe at o, into {@link fresnel}. */
function metalFresnel(o: number): void {
  const cos = R[7]!
  const m = 1 - cos, m2 = m * m, m5 = m2 * m2 * m
  if (lobes[o + L_KIND] === CONDUCTOR) {
    const n = conductorN[lobes[o + L_TABLE]!]!, k = conductorK[lobes[o + L_TABLE]!]!
    for (let c = 0; c < 4; c++) fresnel[c] = fresnelConductor(cos, n[lane[c]!]!, k[lane[c]!]!)
    for (let c = 0; c < 3; c++) { const f0 = lobes[o + L_F0 + c]!; fresnel[4 + c] = f0 + (1 - f0) * m5 }
    return
  }
  const edge = cos * m5 * m
  for (let c = 0; c < CHANNELS; c++) {
    const f0 = lobes[o + L_F0 + c]!
    const f = f0 + (1 - f0) * m5 - lobes[o + L_EDGE + c]! * edge
    fresnel[c] = f < 0 ? 0 : f > 1 ? 1 : f
  }
}

/** Adds factor · lobe weight · layers (· fresnel for metals) of the lobe at o to {@link value}. */
function accumulate(o: number, through: boolean): void {
  let factor = R[7]!
  const kind = lobes[o + L_KIND]!, layer = lobes[o + L_LAYER]!
  const metal = kind === METAL || kind === CONDUCTOR
  if (layer < 0) {
    const w = o + L_W
    if (metal) for (let k = 0; k < CHANNELS; k++) value[k]! += factor * lobes[w + k]! * fresnel[k]!
    else if (through) for (let k = 0; k < CHANNELS; k++) value[k]! += factor * lobes[w + k]! * lobes[o + L_F0 + k]!
    else {
      value[0]! += factor * lobes[w]!; value[1]! += factor * lobes[w + 1]!; value[2]! += factor * lobes[w + 2]!; value[3]! += factor * lobes[w + 3]!
      value[4]! += factor * lobes[w + 4]!; value[5]! += factor * lobes[w + 5]!; value[6]! += factor * lobes[w + 6]!
    }
    return
  }
  const y = layer * Y_STRIDE, i = layer * CHANNELS, passOut = layers[y + Y_PASS]!
  if (through) {
    for (let k = 0; k < CHANNELS; k++) value[k]! += factor * passOut * layers[y + Y_TINT + k]! * lobes[o + L_W + k]! * lobes[o + L_F0 + k]!
    return
  }
  const pin = passIn[layer]!
  factor *= kind === DIFFUSE ? passOut * pin * lobes[o + L_NORM]! : passOut < pin ? passOut : pin
  const t = y + Y_TINT, w = o + L_W
  if (metal) { for (let k = 0; k < CHANNELS; k++) value[k]! += factor * layers[t + k]! * tintIn[i + k]! * lobes[w + k]! * fresnel[k]! }
  else {
    value[0]! += factor * layers[t]! * tintIn[i]! * lobes[w]!; value[1]! += factor * layers[t + 1]! * tintIn[i + 1]! * lobes[w + 1]!
    value[2]! += factor * layers[t + 2]! * tintIn[i + 2]! * lobes[w + 2]!; value[3]! += factor * layers[t + 3]! * tintIn[i + 3]! * lobes[w + 3]!
    value[4]! += factor * layers[t + 4]! * tintIn[i + 4]! * lobes[w + 4]!; value[5]! += factor * layers[t + 5]! * tintIn[i + 5]! * lobes[w + 5]!; value[6]! += factor * layers[t + 6]! * tintIn[i + 6]! * lobes[w + 6]!
  }
}

/**
 * Evaluates f·|cos θi| for light from direction i into {@link value}, smooth lobes left out.
 * @returns density (per steradian) with which {@link sample} would choose i
 */
export function evaluate(ix: number, iy: number, iz: number): number {
  R[0] = ix; R[1] = iy; R[2] = iz
  evaluateIncoming()
  return R[3]!
}

/** Class of the only lobes that {@link evaluateIncoming} looks at; −1 for all. */
let only = -1

/** {@link evaluateIncoming} of the lobes of one class alone; the density is then theirs too. */
export function evaluateClass(of: number): void {
  only = of
  evaluateIncoming()
  only = -1
}

/** {@link evaluate} for the direction in R[0…2]; the density goes to R[3]. */
export function evaluateIncoming(): void {
  const ix = R[0]!, iy = R[1]!, iz = R[2]!
  clearValue()
  const reflected = ix * now.gx + iy * now.gy + iz * now.gz > 0
  if (now.layers > 0 && reflected) enterLayers()
  let pdf = 0
  for (let l = 0, o = 0; l < now.lobes; l++, o += L_STRIDE) {
    if (only >= 0 && lobes[o + L_CLASS] !== only) continue
    const kind = lobes[o + L_KIND]!
    const nx = lobes[o + L_NX]!, ny = lobes[o + L_NY]!, nz = lobes[o + L_NZ]!
    const ci = nx * ix + ny * iy + nz * iz
    if (kind === DIFFUSE) {
      if (!reflected || ci <= 0) continue
      const f = ci / Math.PI
      pdf += lobes[o + L_PICK]! * f
      R[7] = f
      accumulate(o, false)
      continue
    }
    const alpha = lobes[o + L_ALPHA]!
    if (alpha === 0) continue
    const co = lobes[o + L_COS]!
    if (reflected) {
      if (ci <= 0) continue
      let hx = ix + now.ox, hy = iy + now.oy, hz = iz + now.oz
      const inverse = 1 / Math.sqrt(hx * hx + hy * hy + hz * hz)
      hx *= inverse; hy *= inverse; hz *= inverse
      const ch = Math.min(1, nx * hx + ny * hy + nz * hz)
      if (ch <= 0) continue
      const oh = Math.min(1, Math.max(0, now.ox * hx + now.oy * hy + now.oz * hz))
      const D = ggxD(ch, alpha), lo = ggxLambda(co, alpha), li = ggxLambda(ci, alpha)
      const visible = D / (4 * co * (1 + lo)), G = D / (4 * co * (1 + lo + li))
      if (kind === REFLECT) {
        pdf += lobes[o + L_PICK]! * visible
        R[7] = G * fresnelDielectric(oh, lobes[o + L_ETA]!)
        accumulate(o, false)
      }
      else if (kind === GLASS) {
        const F = fresnelDielectric(oh, lobes[o + L_ETA]!)
        pdf += lobes[o + L_PICK]! * visible * F
        R[7] = G * F
        accumulate(o, false)
      }
      else {
        pdf += lobes[o + L_PICK]! * visible
        R[7] = oh
        metalFresnel(o)
        R[7] = G
        accumulate(o, false)
      }
    }
    else if (kind === GLASS) {
      if (ci >= 0) continue
      // Walter et al. 2007, eqs. 16, 17 and 21; h points to the side of o
      const eta = lobes[o + L_ETA]!
      let hx = now.ox + eta * ix, hy = now.oy + eta * iy, hz = now.oz + eta * iz
      const inverse = 1 / Math.sqrt(hx * hx + hy * hy + hz * hz)
      hx *= inverse; hy *= inverse; hz *= inverse
      let ch = nx * hx + ny * hy + nz * hz
      if (ch < 0) { hx = -hx; hy = -hy; hz = -hz; ch = -ch }
      const oh = now.ox * hx + now.oy * hy + now.oz * hz, ih = ix * hx + iy * hy + iz * hz
      if (oh <= 0 || ih >= 0) continue
      const F = fresnelDielectric(Math.min(1, oh), eta)
      const denominator = oh + eta * ih
      const jacobian = eta * eta * -ih / (denominator * denominator)
      const D = ggxD(Math.min(1, ch), alpha), lo = ggxLambda(co, alpha), li = ggxLambda(-ci, alpha)
      const common = D * oh * jacobian / co * (1 - F)
      pdf += lobes[o + L_PICK]! * common / (1 + lo)
      // radiance is compressed by η² on refraction, and expanded again on the way out: kept as basic radiance L/n², so no factor here
      R[7] = common / (1 + lo + li)
      accumulate(o, true)
    }
  }
  R[3] = pdf
}

/** Local frame of the lobe being sampled (Duff et al. 2017, "Building an Orthonormal Basis, Revisited"). */
const frame = new Float64Array(6)
function buildFrame(nx: number, ny: number, nz: number): void {
  const sign = nz >= 0 ? 1 : -1, a = -1 / (sign + nz), b = nx * ny * a
  frame[0] = 1 + sign * nx * nx * a; frame[1] = sign * b; frame[2] = -sign * nx
  frame[3] = b; frame[4] = sign + ny * ny * a; frame[5] = -ny
}

/**
 * Draws a direction by a lobe picked with u1, or from lobe `only` when that is ≥ 0.
 * Fills {@link scattered} and {@link value}. @returns false when the sample carries nothing
 */
export function sample(u1: number, u2: number, u3: number): boolean {
  R[4] = u1; R[5] = u2; R[6] = u3
  return sampleDrawn()
}

/** {@link sample} with the draws in R[4…6]. */
export function sampleDrawn(): boolean {
  let l = 0, u1 = R[4]!
  while (l < now.lobes - 1 && u1 >= lobes[l * L_STRIDE + L_PICK]!) u1 -= lobes[l++ * L_STRIDE + L_PICK]!
  const o = l * L_STRIDE, pick = lobes[o + L_PICK]!
  R[4] = Math.min(0.9999999999, u1 / pick)
  if (!sampleLobeDrawn(l)) return false
  if (scattered.smooth) {
    const scale = 1 / pick
    for (let k = 0; k < CHANNELS; k++) value[k]! *= scale
    scattered.pdf = pick
    return true
  }
  R[0] = scattered.x; R[1] = scattered.y; R[2] = scattered.z
  evaluateIncoming()
  const pdf = R[3]!
  if (!(pdf > 1e-12)) return false
  const inverse = 1 / pdf
  for (let k = 0; k < CHANNELS; k++) value[k]! *= inverse
  scattered.pdf = pdf
  return true
}

/** Smooth lobes that {@link sampleLobe} finds put their whole weight into {@link value}; rough ones only choose a direction. */
export function sampleLobe(l: number, choose: number, u2: number, u3: number): boolean {
  R[4] = choose; R[5] = u2; R[6] = u3
  return sampleLobeDrawn(l)
}

function sampleLobeDrawn(l: number): boolean {
  const choose = R[4]!, u2 = R[5]!, u3 = R[6]!
  const o = l * L_STRIDE, kind = lobes[o + L_KIND]!, alpha = lobes[o + L_ALPHA]!
  const nx = lobes[o + L_NX]!, ny = lobes[o + L_NY]!, nz = lobes[o + L_NZ]!, co = lobes[o + L_COS]!
  const { ox, oy, oz } = now
  scattered.kind = kind
  scattered.alpha = alpha
  scattered.class = lobes[o + L_CLASS]!
  scattered.smooth = false
  scattered.transmitted = false
  if (kind === DIFFUSE) {
    buildFrame(nx, ny, nz)
    const r = Math.sqrt(u2), phi = 2 * Math.PI * u3, z = Math.sqrt(Math.max(0, 1 - u2))
    toWorld(r * Math.cos(phi), r * Math.sin(phi), z, nx, ny, nz)
    return scattered.x * now.gx + scattered.y * now.gy + scattered.z * now.gz > 0
  }
  let hx = nx, hy = ny, hz = nz
  if (alpha > 0) {
    buildFrame(nx, ny, nz)
    const lx = frame[0]! * ox + frame[1]! * oy + frame[2]! * oz, ly = frame[3]! * ox + frame[4]! * oy + frame[5]! * oz
    const lz = Math.max(1e-5, nx * ox + ny * oy + nz * oz)
    sampleVisibleNormal(lx, ly, lz, alpha, u2, u3)
    toWorld(sampledNormal[0]!, sampledNormal[1]!, sampledNormal[2]!, nx, ny, nz)
    hx = scattered.x; hy = scattered.y; hz = scattered.z
  }
  const oh = alpha > 0 ? Math.min(1, ox * hx + oy * hy + oz * hz) : co
  if (oh <= 0) return false
  const eta = lobes[o + L_ETA]!
  if (kind === GLASS) {
    const F = fresnelDielectric(oh, eta)
    if (choose >= F) {
      const c = ox * hx + oy * hy + oz * hz
      const cosT = Math.sqrt(Math.max(0, 1 - (1 - c * c) / (eta * eta))), s = c / eta - cosT
      let x = s * hx - ox / eta, y = s * hy - oy / eta, z = s * hz - oz / eta
      const inverse = 1 / Math.sqrt(x * x + y * y + z * z)
      x *= inverse; y *= inverse; z *= inverse
      scattered.x = x; scattered.y = y; scattered.z = z
      scattered.transmitted = true
      if (x * now.gx + y * now.gy + z * now.gz >= 0) return false
      if (alpha === 0) {
        scattered.smooth = true
        clearValue()
        R[7] = 1
        accumulate(o, true) // (1 − F) over its own probability
      }
      return true
    }
  }
  const d = 2 * (ox * hx + oy * hy + oz * hz)
  const x = d * hx - ox, y = d * hy - oy, z = d * hz - oz
  scattered.x = x; scattered.y = y; scattered.z = z
  if (x * now.gx + y * now.gy + z * now.gz <= 0) return false
  if (alpha === 0) {
    scattered.smooth = true
    clearValue()
    R[0] = x; R[1] = y; R[2] = z
    if (now.layers > 0) enterLayers()
    if (kind === METAL || kind === CONDUCTOR) { R[7] = oh; metalFresnel(o) }
    R[7] = kind === REFLECT ? fresnelDielectric(oh, eta) : 1
    accumulate(o, false)
  }
  return true
}

function toWorld(x: number, y: number, z: number, nx: number, ny: number, nz: number): void {
  scattered.x = frame[0]! * x + frame[3]! * y + nx * z
  scattered.y = frame[1]! * x + frame[4]! * y + ny * z
  scattered.z = frame[2]! * x + frame[5]! * y + nz * z
}
