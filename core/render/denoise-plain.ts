/**
 * The loops of the denoiser in plain code: what the kernel computes (kernel/denoise.ts), to be read, to be
 * compared with, and for where there is no WebAssembly with SIMD.
 */
import type { DenoiseMemory } from './denoise-memory'

/** The loops of the denoiser. Planes are given by the word of their first pixel, pixels from one up to another. */
export interface DenoiseLoops {
  /**
   * Likeness of pixels to the four neighbours `step` ahead of them, borders aside, from squared differences of
   * normals and, weighed, of albedos.
   */
  likeness(
    normal: number,
    albedo: number,
    near: number,
    weight: number,
    step: number,
    from: number,
    to: number,
  ): void
  /** 3 × 3 binomial blur of all but the first and the last pixel of a row. Given rows may be the same. */
  blurRow(up: number, row: number, down: number, out: number): void
  /**
   * Brightness as mixed with the neighbours of like features; and its variance, scaled, with a floor: what
   * differences of brightness are measured by.
   */
  prefilter(
    luminance: number,
    spread: number,
    near: number,
    light: number,
    doubt: number,
    scale: number,
    floor: number,
    from: number,
    to: number,
  ): void
  /** One level of the wavelet: colours and their variance mixed with the eight neighbours `step` apart. */
  mixLevel(
    source: number,
    target: number,
    variance: number,
    outVariance: number,
    light: number,
    doubt: number,
    near: number,
    step: number,
    from: number,
    to: number,
  ): void
}

/** (1 − x)¹⁶ up to one, then zero: stands for exp(−16 x), needs no table and ends. */
function fall(x: number): number {
  let f = Math.max(0, 1 - x)
  f *= f
  f *= f
  f *= f
  return f * f
}

/** Pixels to the neighbour of number k: right, down left, down, down right. The other four are behind. */
const ahead = (k: number, width: number, step: number): number => (k === 0 ? step : step * (width + k - 2))

/** Loops in plain code on a memory. */
export function plainLoops({ words: m, width, plane }: DenoiseMemory): DenoiseLoops {
  const squared = (p: number, by: number) => (m[p]! - m[p + by]!) ** 2
  return {
    likeness(normal, albedo, near, weight, step, from, to) {
      for (let k = 0; k < 4; k++)
        for (let i = from, by = ahead(k, width, step); i < to; i++) {
          const n = normal + i
          const a = albedo + i
          m[near + k * plane + i] = fall(
            squared(n, by) +
              squared(n + plane, by) +
              squared(n + 2 * plane, by) +
              weight * (squared(a, by) + squared(a + plane, by) + squared(a + 2 * plane, by)),
          )
        }
    },
    blurRow(up, row, down, out) {
      for (let x = 1; x < width - 1; x++) {
        const u = up + x
        const o = row + x
        const d = down + x
        m[out + x] =
          (m[u - 1]! +
            m[u + 1]! +
            m[d - 1]! +
            m[d + 1]! +
            2 * (m[u]! + m[d]! + m[o - 1]! + m[o + 1]!) +
            4 * m[o]!) /
          16
      }
    },
    prefilter(luminance, spread, near, light, doubt, scale, floor, from, to) {
      for (let i = from; i < to; i++) {
        let s = 4 * m[luminance + i]!
        let v = 16 * m[spread + i]!
        let w = 4
        for (let k = 0; k < 4; k++) {
          const by = ahead(k, width, 1)
          const own = near + k * plane + i
          const heavy = k & 1 ? 1 : 2
          const a = heavy * m[own]!
          const b = heavy * m[own - by]!
          w += a + b
          s += a * m[luminance + i + by]! + b * m[luminance + i - by]!
          v += a * a * m[spread + i + by]! + b * b * m[spread + i - by]!
        }
        m[light + i] = s / w
        m[doubt + i] = (scale * v) / (w * w) + floor
      }
    },
    mixLevel(source, target, variance, outVariance, light, doubt, near, step, from, to) {
      for (let i = from; i < to; i++) {
        const p = source + i
        const t = target + i
        const own = m[light + i]!
        const loose = m[doubt + i]!
        let w = 0.25
        let r = m[p]! * 0.25
        let g = m[p + plane]! * 0.25
        let b = m[p + 2 * plane]! * 0.25
        let v = m[variance + i]! * 0.0625
        for (let k = 0; k < 8; k++) {
          const far = ahead(k & 3, width, step)
          const by = k < 4 ? far : -far
          const like = m[near + (k & 3) * plane + i + (k < 4 ? 0 : by)]!
          const d = m[light + i + by]! - own
          const c = fall((d * d) / (loose + m[doubt + i + by]!)) * (k & 1 ? 0.0625 : 0.125) * like
          w += c
          r += c * m[p + by]!
          g += c * m[p + plane + by]!
          b += c * m[p + 2 * plane + by]!
          v += c * c * m[variance + i + by]!
        }
        r /= w
        g /= w
        b /= w
        m[t] = r
        m[t + plane] = g
        m[t + 2 * plane] = b
        m[t + 3 * plane] = 0.2126 * r + 0.7152 * g + 0.0722 * b
        m[outVariance + i] = v / (w * w)
      }
    },
  }
}
