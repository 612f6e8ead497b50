import { describe, expect, it } from 'vitest'
import { develop, developCoarse, developPicture, toByte, type DisplayOptions } from './display'
import { createFilm, type Film } from './film'

/** Encoded byte by IEC 61966-2-1, equation of §5.2. */
const encoded = (x: number) => Math.round(255 * (x <= 0.0031308 ? 12.92 * x : 1.055 * x ** (1 / 2.4) - 0.055))
const W = 64
const H = 32
/**
 * A film with one coarse picture of half its size; what is left of `edge` (in full pixels) is part 0, the rest
 * part 1.
 */
function film(edge: number, colour: (x: number, y: number, part: number) => number): Film {
  const f = createFilm(W, H, { levels: [{ width: W / 2, height: H / 2 }] })
  const l = f.levels[0]!
  const side = (part: Int32Array, normal: Float32Array, w: number, h: number, scale: number) => {
    for (let y = 0; y < h; y++)
      for (let x = 0; x < w; x++) {
        part[y * w + x] = (x + 0.5) * scale < edge ? 0 : 1
        normal[(y * w + x) * 3 + 2] = 1
      }
  }
  side(f.part, f.normal, W, H, 1)
  side(l.part, l.normal, W / 2, H / 2, 2)
  l.part.forEach((p, i) => {
    for (let k = 0; k < 3; k++) l.rgb[i * 3 + k] = colour(i % (W / 2), Math.floor(i / (W / 2)), p)
  })
  return f
}
const options = (f: Film, o: Partial<DisplayOptions> = {}): DisplayOptions => ({
  epoch: 1,
  exposure: 0,
  clipping: false,
  level: f.levels[0]!,
  guided: true,
  ...o,
})
function coarse(f: Film, o: Partial<DisplayOptions> = {}) {
  const out = new Uint8ClampedArray((((W / 2) * H) / 2) * 4)
  const clipped = developCoarse(f, options(f, o), out)
  return { out, clipped, red: (x: number, y: number) => out[((y * W) / 2 + x) * 4]! }
}
function full(f: Film, o: Partial<DisplayOptions> = {}) {
  const out = new Uint8ClampedArray(W * H * 4)
  const clipped = develop(f, options(f, o), out)
  return { out, clipped, red: (x: number, y: number) => out[(y * W + x) * 4]! }
}

it('bytes follow the curve of sRGB to half a step', () => {
  for (const x of [0, 0.001, 0.0031308, 0.01, 0.18, 0.5, 0.9, 1])
    expect(Math.abs(toByte(x) - encoded(x))).toBeLessThanOrEqual(1)
  expect([toByte(-1), toByte(NaN), toByte(7)]).toEqual([0, 0, 255])
})

describe('a coarse picture at full size', () => {
  it('of one colour is that colour, whatever the guides say', () => {
    for (const guided of [true, false])
      for (const out of [
        coarse(
          film(21, () => 0.18),
          { guided },
        ).out,
        full(
          film(21, () => 0.18),
          { guided },
        ).out,
      ])
        expect(out.every((x, i) => x === (i % 4 === 3 ? 255 : encoded(0.18)))).toBe(true)
  })
  it('goes evenly between coarse pixels (bilinear scaling gives back a linear ramp)', () => {
    const ramp = full(
      film(0, x => 0.1 + x * 0.02),
      { guided: false },
    )
    for (let x = 2; x < W - 2; x++)
      expect(Math.abs(ramp.red(x, 9) - encoded(0.1 + ((x + 0.5) / 2 - 0.5) * 0.02))).toBeLessThanOrEqual(1)
  })
  it('does not bleed from one part into the other, as it would without guides', () => {
    const f = film(31, (_x, _y, p) => (p ? 0.5 : 0.05))
    const sharp = full(f)
    const soft = full(f, { guided: false })
    for (let y = 0; y < H; y++)
      for (let x = 0; x < W; x++)
        expect(Math.abs(sharp.red(x, y) - encoded(x < 31 ? 0.05 : 0.5))).toBeLessThanOrEqual(2)
    expect(
      Array.from({ length: W }, (_, x) => soft.red(x, 9)).filter(b => b > encoded(0.06) && b < encoded(0.49))
        .length,
    ).toBeGreaterThan(0)
  })
  it('does not bleed over a crease of one part', () => {
    const f = film(0, x => (x < 16 ? 0.05 : 0.5))
    const l = f.levels[0]!
    for (let i = 0; i < l.part.length; i++) if (i % 32 < 16) l.normal.set([1, 0, 0], i * 3)
    for (let i = 0; i < f.part.length; i++) if (i % W < 31) f.normal.set([1, 0, 0], i * 3)
    const { red } = full(f)
    expect(Math.abs(red(30, 9) - encoded(0.05))).toBeLessThanOrEqual(4)
    expect(Math.abs(red(33, 9) - encoded(0.5))).toBeLessThanOrEqual(4)
  })
  it('is drawn at half size with the same colours', () => {
    const f = film(31, (x, _y, p) => (p ? 0.5 : 0.05 + x * 0.01))
    const half = coarse(f)
    const whole = full(f)
    for (let y = 0; y < H / 2; y++)
      for (let x = 0; x < W / 2; x++) expect(half.red(x, y)).toBe(whole.red(2 * x, 2 * y))
  })
  it('is drawn of some parts alone where that is asked: the rest stays clear', () => {
    const { out } = coarse(
      film(32, () => 0.3),
      { only: Uint8Array.of(0, 1) },
    )
    for (let i = 0; i < out.length; i += 4) expect(out[i + 3]).toBe((i / 4) % 32 < 16 ? 0 : 255)
  })
})

describe('passes', () => {
  it('are averaged where a tile has them, and the coarse picture stands in elsewhere', () => {
    const f = film(0, () => 0.3)
    for (let y = 0; y < 16; y++) f.sum.fill(0.2 * 4, y * W * 3, (y * W + 16) * 3)
    f.tiles.set([0, 1, 4])
    const { red } = full(f)
    expect([red(3, 3), red(20, 3), red(3, 20)]).toEqual([0.2, 0.3, 0.3].map(encoded))
    expect(full(f, { epoch: 2 }).red(3, 3)).toBe(encoded(0.3))
  })
  it('give way to the denoised picture', () => {
    const f = film(0, () => 0.3)
    const denoised = new Float32Array(W * H * 4).fill(0.45)
    f.tiles.set([0, 1, 4])
    const { red } = full(f, { denoised })
    expect([red(3, 3), red(20, 3)]).toEqual([0.45, 0.3].map(encoded))
  })
})

it('an exposure of one doubles what is shown, a balance mixes channels, and the share that clips is told', () => {
  const f = film(32, (_x, _y, p) => (p ? 0.6 : 0.2))
  const { out, clipped, red } = full(f, { exposure: 1 })
  expect([red(2, 2), red(60, 2)]).toEqual([encoded(0.4), 255])
  expect(clipped).toBeCloseTo(0.5, 2)
  expect(out.slice(0, 3)).toEqual(new Uint8ClampedArray(3).fill(encoded(0.4)))
  const balance = [1, 0, 0, 0, 0.5, 0, 0, 0, 0.25] as unknown as NonNullable<DisplayOptions['balance']>
  expect(Array.from(full(f, { balance }).out.slice(0, 4))).toEqual([...[0.2, 0.1, 0.05].map(encoded), 255])
  const kept = new Uint8ClampedArray(4)
  developPicture([0.1, 0.2, 0.6], 1, kept)
  expect(Array.from(kept)).toEqual([encoded(0.2), encoded(0.4), 255, 255])
})

it('what clips is marked by stripes of black and white where that is asked', () => {
  const marked = full(
    film(0, () => 2),
    { clipping: true },
  ).out
  const plain = full(film(0, () => 2)).out
  expect(new Set(marked.filter((_, i) => i % 4 < 3))).toEqual(new Set([0, 255]))
  expect(new Set(plain.filter((_, i) => i % 4 < 3))).toEqual(new Set([255]))
})
