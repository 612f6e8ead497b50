/**
 * Directional-hemispherical reflectance and transmittance of a material, by the renderer's own sampling.
 *
 * Every lobe is sampled in proportion to how likely the renderer picks it, and where glass chooses between
 * reflecting and refracting both are followed, weighted: at the first interface nothing is tossed. A smooth
 * surface therefore comes out exactly. With a slab, light is followed between the two faces of a plane plate that
 * absorbs by the surface's own interior.
 */
import { labFromXYZ } from '../colour/lab'
import { GRID_END, GRID_SIZE, GRID_START, resampleToGrid } from '../colour/grid'
import { reflectanceToXYZ } from '../colour/observer'
import { transform, xyzToRec709 } from '../colour/rgb'
import { basisB, basisG, basisR } from '../colour/upsample'
import type { Shader } from '../network/instantiate'
import { placeOnPlane } from '../point/plane'
import { POINT, POINT_STRIDE } from '../point/slots'
import { hash2 } from '../render/hash'
import { beginSurface } from '../surface/begin'
import { evaluate } from '../surface/evaluate'
import { finishSurface } from '../surface/finish'
import { lobeOfKind } from '../surface/lobes/dispatch'
import { PASSAGE } from '../surface/lobe'
import { memory, now, scattered } from '../surface/memory'
import { sample, sampleLobe } from '../surface/sample'
import { CHANNELS, LOBE } from '../surface/slots'
import { scatterPhase } from '../render/media'
import { settleInterior } from '../surface/inside'

const { basis, below, belowAlbedo, interior, interiorAlbedo, lane, lobes, value } = memory

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
  /** Whether to compute the colours under D65 too. Default true. */
  colour?: boolean
}

export interface Measurement {
  angles: number[]
  wavelengths: number[]
  reflectance: number[][]
  transmittance: number[][]
  stderr: number[][]
  reflected: { XYZ: number[]; Lab: number[]; rgb: number[] }[]
}

const S = new Float64Array(POINT_STRIDE)
/** Uniform numbers for one path; Halton-like so that smooth functions converge fast, scrambled by path. */
const random = (path: number, dimension: number) => (hash2(path * 0x9e37 + 11, dimension) >>> 0) / 4294967296

/**
 * Pushes a horizontal surface seen along (dx, dy, dz), at the origin and the middle of its coordinates.
 * @returns whether it scatters
 */
export function seen(shader: Shader, C: Float64Array, dx: number, dy: number, dz: number): boolean {
  placeOnPlane(S, 0.5, 0.5)
  for (const position of [POINT.position, POINT.objectPosition, POINT.restPosition])
    S.fill(0, position, position + 3)
  S[POINT.view] = dx
  S[POINT.view + 1] = dy
  S[POINT.view + 2] = dz
  beginSurface(-dx, -dy, -dz, 0, 0, 1)
  shader.shade(S, C, shader.images)
  return finishSurface()
}

/** Loads four wavelengths, by their grid indices. */
export const load = (indices: readonly number[]) =>
  indices.forEach((g, k) => {
    lane[k] = g
    basis[k * 3] = basisR[g]!
    basis[k * 3 + 1] = basisG[g]!
    basis[k * 3 + 2] = basisB[g]!
  })

type Setting = { from: 'outside' | 'inside'; samples: number; slab?: number }

/**
 * Light that has gone in and is followed until it comes out, one wavelength at a time: extinction,
 * single-scattering albedo and mean cosine of what it is in.
 */
interface Inside {
  sigma: number
  albedo: number
  g: number
  /** Whether it walks below an opaque surface, and leaves it where it arrives. */ walks: boolean
}

const ray = new Float64Array(3)
const draws = new Float64Array(2)

/**
 * Follows one wavelength between the faces of a plane plate of `thickness` (Infinity: a half-space), entered at
 * the top with the direction in `scattered`.
 * @param side 1 when the top is the outer side
 * @returns what leaves, signed: above zero at the top, below at the bottom
 */
function followInside(
  shader: Shader,
  C: Float64Array,
  k: number,
  inside: Inside,
  thickness: number,
  side: number,
  path: number,
): number {
  ray[0] = scattered.x
  ray[1] = scattered.y
  ray[2] = -Math.abs(scattered.z)
  let depth = 0
  let weight = 1
  for (let step = 1; step < 4000; step++) {
    const reach = (ray[2]! < 0 ? thickness - depth : depth) / Math.max(1e-9, Math.abs(ray[2]!))
    const flight =
      inside.sigma > 0 && inside.albedo > 0 ? -Math.log(1 - random(path, step * 8)) / inside.sigma : Infinity
    if (flight === Infinity && reach === Infinity) return 0
    if (flight < reach) {
      depth -= flight * ray[2]!
      weight *= inside.albedo
      draws[0] = random(path, step * 8 + 1)
      draws[1] = random(path, step * 8 + 2)
      scatterPhase(ray, 0, inside.g, draws)
    } else {
      if (inside.albedo === 0) weight *= Math.exp(-inside.sigma * reach)
      const top: boolean = ray[2]! > 0
      if (inside.walks) return top ? weight : -weight
      depth = top ? 0 : thickness
      // the far face is the near one turned over: seen from inside, with the ray always coming up from below
      const flip: number = top ? side : -side
      if (
        !seen(shader, C, ray[0]!, ray[1]!, side * Math.abs(ray[2]!)) ||
        !sample(random(path, step * 8 + 4), random(path, step * 8 + 5), random(path, step * 8 + 6))
      )
        return 0
      weight *= value[k]!
      if (scattered.transmitted) return top ? weight : -weight
      ray[0] = scattered.x
      ray[1] = scattered.y
      ray[2] = scattered.z * flip
    }
    if (weight < 0.02) {
      if (random(path, step * 8 + 7) >= 0.1) return 0
      weight *= 10
    }
  }
  return 0
}

/** Reflectance and transmittance of four wavelengths at once, with their squares for the error. */
function directional(
  shader: Shader,
  C: Float64Array,
  indices: readonly number[],
  cos: number,
  options: Setting,
): { R: number[]; T: number[]; error: number[] } {
  load(indices)
  const sum = new Float64Array(12)
  const side = options.from === 'outside' ? 1 : -1
  const sin = Math.sqrt(Math.max(0, 1 - cos * cos))
  const R = new Float64Array(4)
  const T = new Float64Array(4)
  const n = options.samples
  const weight = new Float64Array(CHANNELS)
  for (let i = 0; i < n; i++) {
    R.fill(0)
    T.fill(0)
    if (seen(shader, C, sin, 0, -side * cos)) {
      const lobeCount = now.lobes
      let target = (i + random(i, 0)) / n
      let l = 0
      while (l < lobeCount - 1 && target >= lobes[l * LOBE.stride + LOBE.pick]!)
        target -= lobes[l++ * LOBE.stride + LOBE.pick]!
      const o = l * LOBE.stride
      const pick = lobes[o + LOBE.pick]!
      const chance = lobeOfKind(lobes[o + LOBE.kind]!).chance
      const both = chance !== undefined
      for (let branch = 0; branch < (both ? 2 : 1); branch++) {
        if (branch === 1) seen(shader, C, sin, 0, -side * cos)
        if (!sampleLobe(l, both ? (branch === 0 ? -1 : 2) : random(i, 3), random(i, 1), random(i, 2))) continue
        let probability = 1
        if (both) {
          const F = chance(o)
          probability = branch === 0 ? F : 1 - F
        }
        if (scattered.smooth) for (let k = 0; k < 4; k++) value[k]! /= pick
        else {
          const pdf = evaluate(scattered.x, scattered.y, scattered.z)
          if (!(pdf > 1e-12)) continue
          for (let k = 0; k < 4; k++) value[k]! /= pdf
        }
        if (!(probability > 0)) continue
        for (let k = 0; k < 4; k++) weight[k] = value[k]! * probability
        if (!scattered.transmitted) {
          for (let k = 0; k < 4; k++) R[k]! += weight[k]!
          continue
        }
        const scatters = now.fills === 2 && scattered.passage !== PASSAGE.far
        const walks = scattered.passage === PASSAGE.walk
        if (scattered.passage === PASSAGE.far || (!walks && options.slab === undefined && !scatters)) {
          for (let k = 0; k < 4; k++) T[k]! += weight[k]!
          continue
        }
        settleInterior()
        const media = [0, 1, 2, 3].map((k): Inside =>
          walks
            ? { sigma: below[k]!, albedo: belowAlbedo[k]!, g: now.belowG, walks }
            : {
                sigma: now.fills > 0 ? interior[k]! : 0,
                albedo: now.fills === 2 ? interiorAlbedo[k]! : 0,
                g: now.interiorG,
                walks,
              },
        )
        const dx = scattered.x
        const dy = scattered.y
        const dz = scattered.z
        for (let k = 0; k < 4; k++) {
          scattered.x = dx
          scattered.y = dy
          scattered.z = dz
          const left = followInside(
            shader,
            C,
            k,
            media[k]!,
            walks ? Infinity : (options.slab ?? Infinity),
            side,
            i * 4 + k + 1,
          )
          if (left > 0) R[k]! += weight[k]! * left
          else if (left < 0) T[k]! -= weight[k]! * left
          // a half-space: what crosses its face counts as transmitted, whatever comes back
          if (!walks && options.slab === undefined) T[k]! += weight[k]!
        }
      }
    }
    for (let k = 0; k < 4; k++) {
      sum[k]! += R[k]!
      sum[4 + k]! += R[k]! * R[k]!
      sum[8 + k]! += T[k]!
    }
  }
  const mean = [0, 1, 2, 3].map(k => sum[k]! / n)
  return {
    R: mean,
    T: [0, 1, 2, 3].map(k => sum[8 + k]! / n),
    error: mean.map((m, k) => (n > 1 ? Math.sqrt(Math.max(0, sum[4 + k]! / n - m * m) / (n - 1)) : 0)),
  }
}

/** Whether the material's glass refracts each wavelength its own way: then they are measured one at a time. */
function disperses(shader: Shader, C: Float64Array): boolean {
  load([0, 100, 200, 300])
  return seen(shader, C, 0, 0, -1) && now.disperses > 0
}

/**
 * Measures a compiled material at one point (texture coordinates ½, ½; position 0).
 * @throws RangeError for angles or wavelengths that cannot be
 */
export function measure(shader: Shader, C: Float64Array, options: MeasureOptions): Measurement {
  for (const a of options.angles) if (!(a >= 0 && a < 90)) throw new RangeError(`an angle lies in 0…90°, not ${a}`)
  for (const w of options.wavelengths)
    if (!(w >= GRID_START && w <= GRID_END))
      throw new RangeError(`a wavelength lies in ${GRID_START}…${GRID_END} nm, not ${w}`)
  const reflectance: number[][] = []
  const transmittance: number[][] = []
  const stderr: number[][] = []
  const reflected: Measurement['reflected'] = []
  const together = disperses(shader, C) ? 1 : 4
  const grid = Array.from({ length: 81 }, (_, i) => GRID_START + i * 5)
  for (const angle of options.angles) {
    const cos = Math.cos((angle * Math.PI) / 180)
    const spectrum = (wavelengths: number[], samples: number) => {
      const R: number[] = []
      const T: number[] = []
      const E: number[] = []
      for (let w = 0; w < wavelengths.length; w += together) {
        const four = [0, 1, 2, 3].map(k =>
          Math.round(wavelengths[Math.min(together === 1 ? w : w + k, wavelengths.length - 1)]! - GRID_START),
        )
        const r = directional(shader, C, four, cos, { ...options, samples })
        for (let k = 0; k < Math.min(together, wavelengths.length - w); k++) {
          R.push(r.R[k]!)
          T.push(r.T[k]!)
          E.push(r.error[k]!)
        }
      }
      return { R, T, E }
    }
    const wanted = spectrum(options.wavelengths, options.samples)
    reflectance.push(wanted.R)
    transmittance.push(wanted.T)
    stderr.push(wanted.E)
    if (options.colour === false) continue
    const full = resampleToGrid(grid, spectrum(grid, Math.max(16, Math.ceil(options.samples / 4))).R)
    if (full.length !== GRID_SIZE) throw new RangeError('grid')
    const XYZ = reflectanceToXYZ(full)
    reflected.push({ XYZ, Lab: labFromXYZ(XYZ), rgb: transform(xyzToRec709, XYZ) })
  }
  return {
    angles: options.angles,
    wavelengths: options.wavelengths,
    reflectance,
    transmittance,
    stderr,
    reflected,
  }
}
