/**
 * Directional-hemispherical reflectance and transmittance of a material, by the renderer's own sampling.
 *
 * Every lobe is sampled in proportion to how likely the renderer picks it, and where glass chooses between reflecting and refracting both are followed, weighted:
 * at the first interface nothing is tossed. A smooth surface therefore comes out exactly. With a slab, light is followed between the two faces of a plane plate
 * that absorbs by the surface's own interior.
 */
import { labFromXYZ } from '../colour/lab'
import { GRID_END, GRID_SIZE, GRID_START, resampleToGrid } from '../colour/grid'
import { reflectanceToXYZ } from '../colour/observer'
import { transform, xyzToRec709 } from '../colour/rgb'
import { basisB, basisG, basisR } from '../colour/upsample'
import type { Shader } from '../network/instantiate'
import { POINT_STRIDE } from '../network/shading-point'
import { fresnelDielectric } from '../optics/fresnel'
import { hash2 } from '../render/sampler'
import { evaluate, value } from '../surface/evaluate'
import { finishSurface } from '../surface/finish'
import { settleInterior } from '../surface/lobes'
import { sample, sampleLobe, scattered } from '../surface/sample'
import { basis, beginSurface, CHANNELS, GLASS, interior, L_ETA, L_KIND, L_PICK, L_STRIDE, L_ALPHA, L_COS, lane, lobes, now } from '../surface/state'

export interface MeasureOptions {
  /** Degrees from the normal. */
  angles: number[]
  /** nm, 380–780. */
  wavelengths: number[]
  from: 'outside' | 'inside'
  /** Paths an angle and wavelength. */
  samples: number
  /** Thickness of a plane plate, metres. */
  slab?: number
}

export interface Measurement {
  angles: number[]
  wavelengths: number[]
  reflectance: number[][]
  transmittance: number[][]
  stderr: number[][]
  reflected: { XYZ: number[], Lab: number[], rgb: number[] }[]
}

const S = new Float64Array(POINT_STRIDE)
/** Uniform numbers for one path; Halton-like so that smooth functions converge fast, scrambled by path. */
const random = (path: number, dimension: number) => (hash2(path * 0x9e37 + 11, dimension) >>> 0) / 4294967296

/** Sets up the shading point of a horizontal surface seen along (sin, 0, ±cos). */
function seen(shader: Shader, C: Float64Array, dx: number, dy: number, dz: number): boolean {
  S.fill(0)
  S[5] = 1; S[8] = 1; S[9] = 1; S[13] = 1
  S[15] = dx; S[16] = dy; S[17] = dz
  S[18] = 0.5; S[19] = 0.5
  beginSurface(-dx, -dy, -dz, 0, 0, 1)
  shader.shade(S, C)
  return finishSurface()
}

const load = (indices: readonly number[]) => indices.forEach((g, k) => { lane[k] = g; basis[k * 3] = basisR[g]!; basis[k * 3 + 1] = basisG[g]!; basis[k * 3 + 2] = basisB[g]! })

/** Reflectance and transmittance of four wavelengths at once, with their squares for the error. */
function directional(shader: Shader, C: Float64Array, indices: readonly number[], cos: number, options: { from: 'outside' | 'inside', samples: number, slab?: number }): { R: number[], T: number[], error: number[] } {
  load(indices)
  const sum = new Float64Array(12), side = options.from === 'outside' ? 1 : -1, sin = Math.sqrt(Math.max(0, 1 - cos * cos))
  const R = new Float64Array(4), T = new Float64Array(4), n = options.samples
  const weight = new Float64Array(CHANNELS)
  /** Follows light that has entered a plate until it leaves. */
  const inside = (path: number, thickness: number) => {
    settleInterior()
    const sigma = interior.slice(0, 4)
    let dx = scattered.x, dy = scattered.y, dz = scattered.z, goingDown = dz * side < 0
    for (let bounce = 1; bounce < 2000; bounce++) {
      const length = thickness / Math.max(1e-6, Math.abs(dz))
      let most = 0
      for (let k = 0; k < 4; k++) { weight[k]! *= Math.exp(-sigma[k]! * length); most = Math.max(most, weight[k]!) }
      if (most < 1e-9) return
      if (most < 0.02) { const q = 0.1; if (random(path, bounce * 8 + 7) >= q) return; for (let k = 0; k < 4; k++) weight[k]! /= q }
      // the far face is the near one turned over: seen from inside, with the ray always coming up from below
      const flip = goingDown ? -1 : 1
      if (!seen(shader, C, dx, dy, Math.abs(dz)) || !sample(random(path, bounce * 8 + 4), random(path, bounce * 8 + 5), random(path, bounce * 8 + 6))) return
      for (let k = 0; k < 4; k++) weight[k]! *= value[k]!
      if (scattered.transmitted) {
        const target = goingDown ? T : R
        for (let k = 0; k < 4; k++) target[k]! += weight[k]!
        return
      }
      dx = scattered.x; dy = scattered.y; dz = scattered.z * flip
      goingDown = dz < 0
    }
  }
  for (let i = 0; i < n; i++) {
    R.fill(0); T.fill(0)
    if (seen(shader, C, sin, 0, -side * cos)) {
      const lobeCount = now.lobes
      let target = ((i + random(i, 0)) / n), l = 0
      while (l < lobeCount - 1 && target >= lobes[l * L_STRIDE + L_PICK]!) target -= lobes[l++ * L_STRIDE + L_PICK]!
      const o = l * L_STRIDE, pick = lobes[o + L_PICK]!, glass = lobes[o + L_KIND] === GLASS
      for (let branch = 0; branch < (glass ? 2 : 1); branch++) {
        if (branch === 1) seen(shader, C, sin, 0, -side * cos)
        if (!sampleLobe(l, branch === 0 ? -1 : 2, random(i, 1), random(i, 2))) continue
        let probability = 1
        if (scattered.smooth) {
          for (let k = 0; k < 4; k++) value[k]! /= pick
          if (glass) { const F = fresnelDielectric(lobes[o + L_COS]!, lobes[o + L_ETA]!); probability = branch === 0 ? F : 1 - F }
        }
        else {
          if (glass) {
            const F = branchFresnel(o)
            probability = branch === 0 ? F : 1 - F
          }
          const pdf = evaluate(scattered.x, scattered.y, scattered.z)
          if (!(pdf > 1e-12)) continue
          for (let k = 0; k < 4; k++) value[k]! /= pdf
        }
        if (!(probability > 0)) continue
        for (let k = 0; k < 4; k++) weight[k] = value[k]! * probability
        if (scattered.transmitted && options.slab !== undefined) inside(i, options.slab)
        else { const t = scattered.transmitted ? T : R; for (let k = 0; k < 4; k++) t[k]! += weight[k]! }
      }
    }
    for (let k = 0; k < 4; k++) { sum[k]! += R[k]!; sum[4 + k]! += R[k]! * R[k]!; sum[8 + k]! += T[k]! }
  }
  const mean = [0, 1, 2, 3].map(k => sum[k]! / n)
  return { R: mean, T: [0, 1, 2, 3].map(k => sum[8 + k]! / n), error: mean.map((m, k) => n > 1 ? Math.sqrt(Math.max(0, sum[4 + k]! / n - m * m) / (n - 1)) : 0) }
}

/** Fresnel factor at the half vector between the view and the direction just sampled by a rough glass lobe. */
function branchFresnel(o: number): number {
  const eta = lobes[o + L_ETA]!, t = scattered.transmitted ? eta : 1
  let hx = now.ox + t * scattered.x, hy = now.oy + t * scattered.y, hz = now.oz + t * scattered.z
  const l = Math.hypot(hx, hy, hz)
  hx /= l; hy /= l; hz /= l
  return lobes[o + L_ALPHA]! > 0 ? fresnelDielectric(Math.min(1, Math.abs(hx * now.ox + hy * now.oy + hz * now.oz)), eta) : 0
}

/**
 * Measures a compiled material at one point (texture coordinates ½, ½; position 0).
 * @throws RangeError for angles or wavelengths that cannot be
 */
export function measure(shader: Shader, C: Float64Array, options: MeasureOptions): Measurement {
  for (const a of options.angles) if (!(a >= 0 && a < 90)) throw new RangeError(`an angle lies in 0…90°, not ${a}`)
  for (const w of options.wavelengths) if (!(w >= GRID_START && w <= GRID_END)) throw new RangeError(`a wavelength lies in ${GRID_START}…${GRID_END} nm, not ${w}`)
  const reflectance: number[][] = [], transmittance: number[][] = [], stderr: number[][] = [], reflected: Measurement['reflected'] = []
  const grid = Array.from({ length: 81 }, (_, i) => GRID_START + i * 5)
  for (const angle of options.angles) {
    const cos = Math.cos(angle * Math.PI / 180)
    const spectrum = (wavelengths: number[], samples: number) => {
      const R: number[] = [], T: number[] = [], E: number[] = []
      for (let w = 0; w < wavelengths.length; w += 4) {
        const four = [0, 1, 2, 3].map(k => Math.round(wavelengths[Math.min(w + k, wavelengths.length - 1)]! - GRID_START))
        const r = directional(shader, C, four, cos, { ...options, samples })
        for (let k = 0; k < Math.min(4, wavelengths.length - w); k++) { R.push(r.R[k]!); T.push(r.T[k]!); E.push(r.error[k]!) }
      }
      return { R, T, E }
    }
    const wanted = spectrum(options.wavelengths, options.samples)
    reflectance.push(wanted.R); transmittance.push(wanted.T); stderr.push(wanted.E)
    const full = resampleToGrid(grid, spectrum(grid, Math.max(16, Math.ceil(options.samples / 4))).R)
    if (full.length !== GRID_SIZE) throw new RangeError('grid')
    const XYZ = reflectanceToXYZ(full)
    reflected.push({ XYZ, Lab: labFromXYZ(XYZ), rgb: transform(xyzToRec709, XYZ) })
  }
  return { angles: options.angles, wavelengths: options.wavelengths, reflectance, transmittance, stderr, reflected }
}
