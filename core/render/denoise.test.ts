import { describe, expect, it } from 'vitest'
import { compileKernel, DENOISER } from '../../scripts/build-kernel.mjs'
import { alone } from './team'
import { createDenoiser } from './denoise'
import { DENOISE } from './denoise-code'
import { denoiseLoops } from './denoise-kernel'
import { createDenoiseMemory } from './denoise-memory'
import { plainLoops } from './denoise-plain'
import { createFilm, TILE_STATE, tileCount, type Film } from './film'

const W = 64
const H = 48
const PASSES = 16
/** Park–Miller, mapped to noise of mean 1: many small samples and few large ones, as light comes. */
function generator(seed: number): () => number {
  let s = seed
  return () => {
    s = (s * 48271) % 2147483647
    return -Math.log(1 - s / 2147483648)
  }
}
/** A film of noisy light on given surfaces: what a pixel's mean is, and its first hit. */
function filmOf(
  pixel: (
    x: number,
    y: number,
  ) => { light: number; albedo: number; normal?: [number, number, number]; part?: number },
  seed = 7,
): Film {
  const film = createFilm(W, H, { aov: ['albedo', 'normal'], squares: true })
  const random = generator(seed)
  for (let t = 0; t < tileCount(W, H); t++) {
    film.tiles[t * TILE_STATE.words + TILE_STATE.epoch] = 1
    film.tiles[t * TILE_STATE.words + TILE_STATE.passes] = PASSES
  }
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const i = y * W + x
      const { light, albedo, normal = [0, 0, 1], part = 0 } = pixel(x, y)
      film.part[i] = part
      for (let p = 0; p < PASSES; p++) {
        const v = light * albedo * random()
        for (let k = 0; k < 3; k++) {
          film.sum[i * 3 + k]! += v
          film.aov.albedo![i * 3 + k]! += albedo
          film.aov.normal![i * 3 + k]! += normal[k]!
        }
        film.square[i]! += v * v
      }
    }
  return film
}
const run = (film: Film) => createDenoiser(W, H).run(film, 1)!
/** Root mean square error over pixels, against what each pixel's mean is. */
function error(
  out: ArrayLike<number>,
  stride: number,
  scale: number,
  truth: (x: number, y: number) => number,
): number {
  let s = 0
  for (let y = 4; y < H - 4; y++)
    for (let x = 4; x < W - 4; x++) s += (out[(y * W + x) * stride]! * scale - truth(x, y)) ** 2
  return Math.sqrt(s / (W - 8) / (H - 8))
}

describe('the denoiser of the view', () => {
  it('takes most of the noise from an even surface and keeps its brightness', () => {
    const film = filmOf(() => ({ light: 0.5, albedo: 0.8 }))
    const out = run(film)
    const raw = error(film.sum, 3, 1 / PASSES, () => 0.4)
    expect(error(out, 4, 1, () => 0.4)).toBeLessThan(raw * 0.4)
    let mean = 0
    for (let i = 0; i < W * H; i++) mean += out[i * 4]! / W / H
    expect(Math.abs(mean - 0.4)).toBeLessThan(0.01)
  })
  it('leaves the surface’s own colour as sharp as it is: an edge between two albedos, a fine pattern', () => {
    for (const albedo of [(x: number) => (x < W / 2 ? 0.1 : 0.8), (x: number) => (x % 2 ? 0.2 : 0.7)]) {
      const film = filmOf(x => ({ light: 1, albedo: albedo(x) }))
      const out = run(film)
      const truth = (x: number) => albedo(x)
      expect(error(out, 4, 1, truth)).toBeLessThan(error(film.sum, 3, 1 / PASSES, truth) * 0.62)
    }
  })
  it('keeps an edge of light between two normals', () => {
    const light = (x: number) => (x < W / 2 ? 1 : 0.15)
    const film = filmOf(x => ({ light: light(x), albedo: 1, normal: x < W / 2 ? [1, 0, 0] : [0, 1, 0] }))
    const out = run(film)
    let left = 0
    let right = 0
    for (let y = 4; y < H - 4; y++) {
      left += out[(y * W + W / 2 - 1) * 4]! / (H - 8)
      right += out[(y * W + W / 2) * 4]! / (H - 8)
    }
    expect(left).toBeGreaterThan(0.85)
    expect(right).toBeLessThan(0.3)
  })
  it('keeps a step of light that is far beyond its noise, where nothing else tells the sides apart', () => {
    const light = (x: number) => (x < W / 2 ? 2 : 0.1)
    const film = filmOf(x => ({ light: light(x), albedo: 1 }))
    const out = run(film)
    expect(error(out, 4, 1, light)).toBeLessThan(error(film.sum, 3, 1 / PASSES, light) * 0.6)
  })
  it('holds a single pixel that outshines its neighbours down', () => {
    const film = filmOf(() => ({ light: 0.5, albedo: 1 }))
    const i = 20 * W + 30
    for (let k = 0; k < 3; k++) film.sum[i * 3 + k]! += 400
    film.square[i]! += (400 * 400) / PASSES
    expect(run(film)[i * 4]!).toBeLessThan(4)
  })
  it('gives the same by the kernel and by plain code, whatever the width, also with few passes', () => {
    for (const [width, height] of [
      [64, 48],
      [61, 33],
      [37, 20],
      [6, 16],
      [5, 9],
    ] as const) {
      const film = createFilm(width, height, { aov: ['albedo', 'normal'], squares: true })
      const random = generator(width)
      const memory = createDenoiseMemory(width, height)
      const plain = createDenoiseMemory(width, height)
      for (const passes of [4, 16]) {
        for (let t = 0; t < tileCount(width, height); t++) {
          film.tiles[t * TILE_STATE.words + TILE_STATE.epoch] = 1
          film.tiles[t * TILE_STATE.words + TILE_STATE.passes] = passes
        }
        for (let i = 0; i < width * height; i++) {
          film.part[i] = Math.floor(random() * 1.5) - 1
          for (let k = 0; k < 3; k++) {
            film.sum[i * 3 + k] = passes * random()
            film.aov.albedo![i * 3 + k] = passes * Math.min(1, random())
            film.aov.normal![i * 3 + k] = passes * (random() - 0.5)
          }
          film.square[i] = passes * random() * 2
        }
        expect(memory.memory).not.toBeNull()
        const fast = createDenoiser(width, height, memory, alone(), denoiseLoops(memory)).run(film, 1)!
        const slow = createDenoiser(width, height, plain, alone(), plainLoops(plain)).run(film, 1)!
        let most = 0
        for (let i = 0; i < slow.length; i++)
          most = Math.max(most, Math.abs(fast[i]! - slow[i]!) / (1 + Math.abs(slow[i]!)))
        expect(most).toBeLessThan(1e-4)
        expect(most > 0).toBe(width >= 6)
      }
    }
  })
  it('carries the kernel that its source gives', () => {
    expect(compileKernel(DENOISER)).toBe(DENOISE)
  })
  it('gives the same for the same film, nothing for an epoch that is not there, and does not touch the film', () => {
    const film = filmOf(() => ({ light: 0.5, albedo: 0.8 }))
    const before = film.sum.slice()
    expect(Array.from(run(film).subarray(0, 400))).toEqual(Array.from(run(film).subarray(0, 400)))
    expect(createDenoiser(W, H).run(film, 2)).toBeNull()
    expect(film.sum).toEqual(before)
    expect(run(film).every(Number.isFinite)).toBe(true)
  })
})
