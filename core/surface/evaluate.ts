/**
 * Evaluation of the current surface for a given direction. The density is that of the whole mixture of lobes, as
 * `sample.ts` draws from it.
 */
import { fresnelDielectric } from '../optics/fresnel'
import { ALBEDO } from './albedo'
import { facetsMissing } from './facets'
import { dielectricFresnel, FACET, fresnel, isMetal, metalFresnel, reflectChance } from './fresnel'
import { fuzzA, fuzzB } from './fuzz'
import { ggxD, ggxLambda, grainD, grainLambda } from './ggx'
import { glassMissing } from './glass-missing'
import { askLayer, filmPass, slantOf } from './layers'
import { grainShare } from './lobes'
import { roughDiffuseAlbedo, roughDiffuseShape } from './rough-diffuse'
import {
  AGAIN_DIFFUSE,
  AGAIN_GLASS,
  AGAIN_METAL,
  CHANNELS,
  DIFFUSE,
  FUZZ,
  GLASS,
  L_ALBEDO,
  L_ALPHA,
  L_AX,
  L_AY,
  L_BX,
  L_CLASS,
  L_COS,
  L_EDGE,
  L_ETA,
  L_F0,
  L_GRAIN,
  L_KIND,
  L_LAYER,
  L_NORM,
  L_NX,
  L_NY,
  L_NZ,
  L_PICK,
  L_SPECTRAL,
  L_STRIDE,
  L_TX,
  L_W,
  MAX_LAYERS,
  REFLECT,
  ROUGH_DIFFUSE,
  SHEET,
  TRANSLUCENT,
  Y_ETA,
  Y_FILM,
  Y_LOG,
  Y_NX,
  Y_NY,
  Y_NZ,
  Y_PASS,
  Y_STRIDE,
  Y_TINT,
  Y_TINTED,
  Y_WEIGHT,
  layers,
  lobes,
  now,
} from './state'

/** Result of {@link evaluate} and of `sample`: f·|cos θi| per channel; after `sample` divided by the density. */
export const value = new Float64Array(CHANNELS)
/**
 * What the hot functions here take: numbers passed to calls that the engine does not inline are boxed, one
 * allocation each, so they go through this array. 0–2 direction i of {@link evaluateIncoming}, 3 its density out;
 * 4–6 the draws of `sampleDrawn`; 7 a factor.
 */
export const R = new Float64Array(8)

/** Seven zeros. Written out: `fill` is a call, and cost a tenth of {@link evaluateIncoming}. */
export function clearValue(): void {
  value[0] = 0
  value[1] = 0
  value[2] = 0
  value[3] = 0
  value[4] = 0
  value[5] = 0
  value[6] = 0
}

const passIn = new Float64Array(MAX_LAYERS)
const tintIn = new Float64Array(MAX_LAYERS * CHANNELS)

/** What passes each layer from the direction in R[0…2], cumulative from the top. */
export function enterLayers(): void {
  const ix = R[0]!
  const iy = R[1]!
  const iz = R[2]!
  for (let y = 0; y < now.layers; y++) {
    const o = y * Y_STRIDE
    const parent = layers[o]!
    const weight = layers[o + Y_WEIGHT]!
    let cos = layers[o + Y_NX]! * ix + layers[o + Y_NY]! * iy + layers[o + Y_NZ]! * iz
    cos = cos < 1e-5 ? 1e-5 : cos > 1 ? 1 : cos
    ALBEDO[0] = cos
    askLayer(o)
    passIn[y] = (1 - weight * ALBEDO[3]!) * (parent >= 0 ? passIn[parent]! : 1)
    const tinted = layers[o + Y_TINTED] === 1
    if (!tinted && parent < 0) {
      const t = y * CHANNELS
      tintIn[t] = 1
      tintIn[t + 1] = 1
      tintIn[t + 2] = 1
      tintIn[t + 3] = 1
      tintIn[t + 4] = 1
      tintIn[t + 5] = 1
      tintIn[t + 6] = 1
      continue
    }
    const slant = tinted ? 0.5 * slantOf(cos, layers[o + Y_ETA]!) : 0
    const film = layers[o + Y_FILM]! > 0
    if (film) filmPass(o, cos, ALBEDO[3]!)
    for (let k = 0; k < CHANNELS; k++) {
      const own = tinted ? 1 - weight + weight * Math.exp(slant * layers[o + Y_LOG + k]!) : 1
      tintIn[y * CHANNELS + k] =
        own * (parent >= 0 ? tintIn[parent * CHANNELS + k]! : 1) * (film ? fresnel[k]! : 1)
    }
  }
}

/** Adds R[7] · lobe weight · layers of the lobe at o to {@link value}. */
export function accumulate(o: number): void {
  let factor = R[7]!
  const layer = lobes[o + L_LAYER]!
  const w = o + L_W
  if (layer < 0) {
    value[0]! += factor * lobes[w]!
    value[1]! += factor * lobes[w + 1]!
    value[2]! += factor * lobes[w + 2]!
    value[3]! += factor * lobes[w + 3]!
    value[4]! += factor * lobes[w + 4]!
    value[5]! += factor * lobes[w + 5]!
    value[6]! += factor * lobes[w + 6]!
    return
  }
  const t = layer * Y_STRIDE + Y_TINT
  const i = layer * CHANNELS
  const out = layers[layer * Y_STRIDE + Y_PASS]!
  const pin = passIn[layer]!
  const norm = lobes[o + L_NORM]!
  factor *= norm > 0 ? out * pin * norm : out < pin ? out : pin
  value[0]! += factor * layers[t]! * tintIn[i]! * lobes[w]!
  value[1]! += factor * layers[t + 1]! * tintIn[i + 1]! * lobes[w + 1]!
  value[2]! += factor * layers[t + 2]! * tintIn[i + 2]! * lobes[w + 2]!
  value[3]! += factor * layers[t + 3]! * tintIn[i + 3]! * lobes[w + 3]!
  value[4]! += factor * layers[t + 4]! * tintIn[i + 4]! * lobes[w + 4]!
  value[5]! += factor * layers[t + 5]! * tintIn[i + 5]! * lobes[w + 5]!
  value[6]! += factor * layers[t + 6]! * tintIn[i + 6]! * lobes[w + 6]!
}

/** {@link accumulate} with what is in {@link fresnel} besides. */
export function accumulateColoured(o: number): void {
  let factor = R[7]!
  const layer = lobes[o + L_LAYER]!
  const w = o + L_W
  if (layer < 0) {
    for (let k = 0; k < CHANNELS; k++) value[k]! += factor * lobes[w + k]! * fresnel[k]!
    return
  }
  const t = layer * Y_STRIDE + Y_TINT
  const i = layer * CHANNELS
  const out = layers[layer * Y_STRIDE + Y_PASS]!
  const pin = passIn[layer]!
  factor *= out < pin ? out : pin
  for (let k = 0; k < CHANNELS; k++)
    value[k]! += factor * layers[t + k]! * tintIn[i + k]! * lobes[w + k]! * fresnel[k]!
}

/**
 * Adds what leaves on the far side of the surface: only the layers on the viewer's side are crossed. Tinted by
 * L_F0, and by what {@link fresnel} leaves where `coloured`.
 */
export function accumulateThrough(o: number, coloured: boolean): void {
  const layer = lobes[o + L_LAYER]!
  const w = o + L_W
  const f = o + L_F0
  const factor = R[7]! * (layer >= 0 ? layers[layer * Y_STRIDE + Y_PASS]! : 1)
  const t = layer * Y_STRIDE + Y_TINT
  for (let k = 0; k < CHANNELS; k++)
    value[k]! +=
      factor * lobes[w + k]! * lobes[f + k]! * (coloured ? 1 - fresnel[k]! : 1) * (layer >= 0 ? layers[t + k]! : 1)
}

/**
 * Evaluates f·|cos θi| for light from direction i into {@link value}, smooth lobes left out.
 * @returns density (per steradian) with which `sample` would choose i
 */
export function evaluate(ix: number, iy: number, iz: number): number {
  R[0] = ix
  R[1] = iy
  R[2] = iz
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
  const ix = R[0]!
  const iy = R[1]!
  const iz = R[2]!
  clearValue()
  FACET[3] = ix
  FACET[4] = iy
  FACET[5] = iz
  const reflected = ix * now.gx + iy * now.gy + iz * now.gz > 0
  if (now.layers > 0 && reflected) enterLayers()
  let pdf = 0
  for (let l = 0, o = 0; l < now.lobes; l++, o += L_STRIDE) {
    if (only >= 0 && lobes[o + L_CLASS] !== only) continue
    const kind = lobes[o + L_KIND]!
    const ci = lobes[o + L_NX]! * ix + lobes[o + L_NY]! * iy + lobes[o + L_NZ]! * iz
    if (kind === DIFFUSE) {
      if (!reflected || ci <= 0) continue
      const f = ci / Math.PI
      pdf += lobes[o + L_PICK]! * f
      R[7] = f
      accumulate(o)
      continue
    }
    if (kind > SHEET) {
      if (reflected ? ci > 0 && kind !== TRANSLUCENT : ci < 0 && (kind === TRANSLUCENT || kind === AGAIN_GLASS)) {
        R[3] = 0
        FACET[6] = ci
        evaluateSoft(o, kind)
        pdf += lobes[o + L_PICK]! * R[3]!
      }
      continue
    }
    if (lobes[o + L_ALPHA] === 0) continue
    if (reflected) {
      if (ci <= 0) continue
      R[3] = 0
      FACET[6] = ci
      reflectFacets(o, kind)
      pdf += lobes[o + L_PICK]! * R[3]!
    } else if (kind === GLASS && ci < 0) {
      R[3] = 0
      FACET[6] = ci
      refractFacets(o)
      pdf += lobes[o + L_PICK]! * R[3]!
    } else if (kind === SHEET && ci < 0) {
      // the same facets, mirrored at the sheet
      R[3] = 0
      FACET[3] = ix - 2 * ci * lobes[o + L_NX]!
      FACET[4] = iy - 2 * ci * lobes[o + L_NY]!
      FACET[5] = iz - 2 * ci * lobes[o + L_NZ]!
      FACET[6] = -ci
      passSheet(o)
      FACET[3] = ix
      FACET[4] = iy
      FACET[5] = iz
      pdf += lobes[o + L_PICK]! * R[3]!
    }
  }
  R[3] = pdf
}

/**
 * Of stretched facets: 0–3 half vector and its cosine in, 4–6 D and Λ of the viewer and of the light in {@link
 * FACET} out.
 */
const TERMS = new Float64Array(7)

/** Asks for {@link TERMS} of the lobe at o, which has a grain. */
function askGrain(o: number): void {
  const tx = lobes[o + L_TX]!
  const ty = lobes[o + L_TX + 1]!
  const tz = lobes[o + L_TX + 2]!
  const bx = lobes[o + L_BX]!
  const by = lobes[o + L_BX + 1]!
  const bz = lobes[o + L_BX + 2]!
  const ax = lobes[o + L_AX]!
  const ay = lobes[o + L_AY]!
  const hx = TERMS[0]!
  const hy = TERMS[1]!
  const hz = TERMS[2]!
  const ix = FACET[3]!
  const iy = FACET[4]!
  const iz = FACET[5]!
  TERMS[4] = grainD(hx * tx + hy * ty + hz * tz, hx * bx + hy * by + hz * bz, TERMS[3]!, ax, ay)
  TERMS[5] = grainLambda(
    now.ox * tx + now.oy * ty + now.oz * tz,
    now.ox * bx + now.oy * by + now.oz * bz,
    lobes[o + L_COS]!,
    ax,
    ay,
  )
  TERMS[6] = grainLambda(ix * tx + iy * ty + iz * tz, ix * bx + iy * by + iz * bz, FACET[6]!, ax, ay)
}

/**
 * Microfacet terms of the lobe at o for light from the direction in {@link FACET}, into its first three.
 * @returns false where no facet mirrors
 */
function askFacets(o: number): boolean {
  const ix = FACET[3]!
  const iy = FACET[4]!
  const iz = FACET[5]!
  const ci = FACET[6]!
  let hx = ix + now.ox
  let hy = iy + now.oy
  let hz = iz + now.oz
  const inverse = 1 / Math.sqrt(hx * hx + hy * hy + hz * hz)
  hx *= inverse
  hy *= inverse
  hz *= inverse
  const co = lobes[o + L_COS]!
  const ch = Math.min(1, lobes[o + L_NX]! * hx + lobes[o + L_NY]! * hy + lobes[o + L_NZ]! * hz)
  if (ch <= 0) return false
  FACET[0] = Math.min(1, Math.max(0, now.ox * hx + now.oy * hy + now.oz * hz))
  if (lobes[o + L_GRAIN] === 1) {
    TERMS[0] = hx
    TERMS[1] = hy
    TERMS[2] = hz
    TERMS[3] = ch
    askGrain(o)
    FACET[1] = TERMS[4]! / (4 * co * (1 + TERMS[5]!))
    FACET[2] = TERMS[4]! / (4 * co * (1 + TERMS[5]! + TERMS[6]!))
    return true
  }
  const alpha = lobes[o + L_ALPHA]!
  const D = ggxD(ch, alpha)
  const lo = ggxLambda(co, alpha)
  const li = ggxLambda(ci, alpha)
  FACET[1] = D / (4 * co * (1 + lo))
  FACET[2] = D / (4 * co * (1 + lo + li))
  return true
}

/** Reflection by microfacets; the density goes to R[3]. */
function reflectFacets(o: number, kind: number): void {
  if (!askFacets(o)) return
  const visible = FACET[1]!
  const shaped = FACET[2]!
  if (isMetal(kind)) {
    metalFresnel(o)
    R[3] = visible
    R[7] = shaped
    accumulateColoured(o)
  } else if (lobes[o + L_SPECTRAL] === 1 || kind === SHEET) {
    dielectricFresnel(o)
    R[3] = kind === REFLECT ? visible : visible * reflectChance()
    R[7] = shaped
    accumulateColoured(o)
  } else {
    const F = fresnelDielectric(FACET[0]!, lobes[o + L_ETA]!)
    R[3] = kind === GLASS ? visible * F : visible
    R[7] = shaped * F
    accumulate(o)
  }
}

/** What passes a thin sheet, from the mirrored direction in {@link FACET}. */
function passSheet(o: number): void {
  if (!askFacets(o)) return
  dielectricFresnel(o)
  R[3] = FACET[1]! * (1 - reflectChance())
  R[7] = FACET[2]!
  accumulateThrough(o, true)
}

/** Refraction by microfacets: Walter et al. 2007, eqs. 16, 17 and 21; h points to the side of o. */
function refractFacets(o: number): void {
  const ci = FACET[6]!
  const eta = lobes[o + L_ETA]!
  const ix = R[0]!
  const iy = R[1]!
  const iz = R[2]!
  const nx = lobes[o + L_NX]!
  const ny = lobes[o + L_NY]!
  const nz = lobes[o + L_NZ]!
  const co = lobes[o + L_COS]!
  let hx = now.ox + eta * ix
  let hy = now.oy + eta * iy
  let hz = now.oz + eta * iz
  const inverse = 1 / Math.sqrt(hx * hx + hy * hy + hz * hz)
  hx *= inverse
  hy *= inverse
  hz *= inverse
  let ch = nx * hx + ny * hy + nz * hz
  if (ch < 0) {
    hx = -hx
    hy = -hy
    hz = -hz
    ch = -ch
  }
  const toH = now.ox * hx + now.oy * hy + now.oz * hz
  const ih = ix * hx + iy * hy + iz * hz
  if (toH <= 0 || ih >= 0) return
  const denominator = toH + eta * ih
  const jacobian = (eta * eta * -ih) / (denominator * denominator)
  let D: number
  let lo: number
  let li: number
  if (lobes[o + L_GRAIN] === 1) {
    TERMS[0] = hx
    TERMS[1] = hy
    TERMS[2] = hz
    TERMS[3] = Math.min(1, ch)
    askGrain(o)
    D = TERMS[4]!
    lo = TERMS[5]!
    li = TERMS[6]!
  } else {
    const alpha = lobes[o + L_ALPHA]!
    D = ggxD(Math.min(1, ch), alpha)
    lo = ggxLambda(co, alpha)
    li = ggxLambda(-ci, alpha)
  }
  const common = (D * toH * jacobian) / co
  // radiance is compressed by η² on refraction, and expanded again on the way out: kept as basic radiance L/n²,
  // so no factor here
  if (lobes[o + L_SPECTRAL] === 1) {
    FACET[0] = Math.min(1, toH)
    dielectricFresnel(o)
    R[3] = (common * (1 - reflectChance())) / (1 + lo)
    R[7] = common / (1 + lo + li)
    accumulateThrough(o, true)
    return
  }
  const F = fresnelDielectric(Math.min(1, toH), eta)
  R[3] = (common * (1 - F)) / (1 + lo)
  R[7] = (common * (1 - F)) / (1 + lo + li)
  accumulateThrough(o, false)
}

/**
 * Lobes that are no microfacets, at the cosine FACET[6]; the density goes to R[3]. Those that walk or pass
 * straight answer no given direction.
 */
function evaluateSoft(o: number, kind: number): void {
  const ci = FACET[6]!
  const ix = R[0]!
  const iy = R[1]!
  const iz = R[2]!
  const cosine = Math.abs(ci) / Math.PI
  if (kind === ROUGH_DIFFUSE) {
    R[3] = cosine
    R[7] =
      cosine *
      roughDiffuseShape(ci, lobes[o + L_COS]!, ix * now.ox + iy * now.oy + iz * now.oz, lobes[o + L_ALPHA]!)
    accumulate(o)
  } else if (kind === AGAIN_DIFFUSE) {
    R[3] = cosine
    R[7] = cosine * lobes[o + L_ETA]! * (1 - roughDiffuseAlbedo(ci, lobes[o + L_ALPHA]!))
    accumulate(o)
  } else if (kind === AGAIN_METAL) {
    R[3] = cosine
    R[7] =
      cosine *
      lobes[o + L_ETA]! *
      facetsMissing(ci > 1 ? 1 : ci, lobes[o + L_ALPHA]!) *
      (lobes[o + L_GRAIN] === 1 ? grainShare(o, ix, iy, iz) : 1)
    accumulate(o)
  } else if (kind === TRANSLUCENT) {
    R[3] = cosine
    R[7] = cosine
    accumulateThrough(o, false)
  } else if (kind === AGAIN_GLASS) {
    const eta = lobes[o + L_ETA]!
    const mu = Math.min(1, Math.abs(ci))
    const passes = lobes[o + L_EDGE]!
    if (ci > 0) {
      R[3] = cosine * (1 - passes)
      R[7] = R[3]! * lobes[o + L_EDGE + 1]! * glassMissing(mu, lobes[o + L_ALPHA]!, eta)
      accumulate(o)
    } else {
      R[3] = cosine * passes
      R[7] = R[3]! * lobes[o + L_EDGE + 2]! * glassMissing(mu, lobes[o + L_ALPHA]!, 1 / eta)
      accumulateThrough(o, false)
    }
  } else if (kind === FUZZ) {
    const y = lobes[o + L_ALPHA]!
    const x = lobes[o + L_COS]!
    const A = fuzzA(x, y)
    const B = fuzzB(x, y)
    towardsViewer(o)
    const wx = A * (ix * TOWARDS[0]! + iy * TOWARDS[1]! + iz * TOWARDS[2]!) + B * ci
    const wy = A * (ix * TOWARDS[3]! + iy * TOWARDS[4]! + iz * TOWARDS[5]!)
    const l2 = wx * wx + wy * wy + ci * ci
    R[3] = (A * A * ci) / (Math.PI * l2 * l2)
    R[7] = R[3]! * lobes[o + L_ALBEDO]!
    accumulate(o)
  }
}

/** Horizontal direction towards the viewer about a lobe's normal, and the one across it. */
export const TOWARDS = new Float64Array(6)
/** Fills {@link TOWARDS} for the lobe at o. */
export function towardsViewer(o: number): void {
  const nx = lobes[o + L_NX]!
  const ny = lobes[o + L_NY]!
  const nz = lobes[o + L_NZ]!
  const along = now.ox * nx + now.oy * ny + now.oz * nz
  let x = now.ox - along * nx
  let y = now.oy - along * ny
  let z = now.oz - along * nz
  let l = Math.sqrt(x * x + y * y + z * z)
  if (l < 1e-6) {
    if (Math.abs(ny) < 0.9) {
      x = nz
      y = 0
      z = -nx
    } else {
      x = 0
      y = -nz
      z = ny
    }
    l = Math.sqrt(x * x + y * y + z * z)
  }
  x /= l
  y /= l
  z /= l
  TOWARDS[0] = x
  TOWARDS[1] = y
  TOWARDS[2] = z
  TOWARDS[3] = ny * z - nz * y
  TOWARDS[4] = nz * x - nx * z
  TOWARDS[5] = nx * y - ny * x
}
