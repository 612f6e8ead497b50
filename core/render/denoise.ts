/**
 * Denoiser for the live view: an edge-avoiding à-trous wavelet (Dammertz et al. 2010) steered by the noise of each pixel (Schied et al. 2017, without their reuse in time).
 * Light is filtered apart from the surface's own colour (divided by the first hit's albedo), so that maps stay sharp; samples may only mix with those of the same part under a like
 * normal, within a few standard errors of brightness. Never in anything that is kept.
 *
 * Measured at 760 × 475 on one thread: 410–490 ms (all in the five levels of 3 × 3 taps); with guides and colours in arrays of their own 560–720 ms.
 * Tried on crops of the demo lantern at 16 passes: tolerances of 1.5 to 6 standard errors (best near 2.8), powers 8 and 128 of the cosine, three levels: within 5 % of each other.
 * Holding every pixel to its brightest neighbour instead of four times that: 2 % worse.
 */
import { lockTile, tileCount, tilePasses, TILE, tilesAcross, unlockTile, type Film } from './film'

/** Levels of the wavelet; taps of level l lie 2^l pixels apart. */
const LEVELS = 5
/** Standard errors of brightness over which samples still mix; and the smallest difference that counts. */
const SIGMA = 2.8, FLOOR = 2e-3
/** How often brighter than the brightest neighbour of its part a pixel may be. */
const OUTLIER = 4
/** Length of the mean of a pixel's unit normals below which it lies across an edge. */
const EDGE = 0.9
/** Albedo below which light is not divided further. */
const DARKEST = 0.04

const STEPS = 64, REACH = 8
const EXP = Float32Array.from({ length: STEPS * REACH + 1 }, (_, i) => i === STEPS * REACH ? 0 : Math.exp(-i / STEPS))

export interface Denoiser {
  /** Passes of the picture that was denoised last. */
  passes: number
  /** Denoises the mean of the passes of an epoch. Valid until the next call. @returns linear Rec.709 and luminance, four a pixel; null while a tile has no pass */
  run(film: Film, epoch: number): Float32Array | null
}

/**
 * Makes a denoiser for pictures of one size. Films need sums of squares and the AOVs albedo and normal.
 * Pixels lie four words apart: r, g, b and luminance; guides: normal and part. What a tap reads then lies on two cache lines instead of five.
 */
export function createDenoiser(width: number, height: number): Denoiser {
  const n = width * height
  let colour = new Float32Array(n * 4), next = new Float32Array(n * 4), variance = new Float32Array(n), nextVariance = new Float32Array(n)
  const albedo = new Float32Array(n * 3), guide = new Float32Array(n * 4), spread = new Float32Array(n)
  return {
    passes: 0,
    run(film, epoch) {
      const passes = prepare(film, epoch, colour, variance, albedo, guide, spread)
      if (passes === 0) return null
      this.passes = passes
      if (passes >= 16) keepEdges(guide, film.part, spread, width, height)
      calmFireflies(colour, variance, guide, width, height)
      if (passes < 8) spatialVariance(colour, variance, guide, width, height)
      for (let level = 0; level < LEVELS; level++) {
        const step = 1 << level
        blur(variance, spread, width, height)
        for (let y = 0; y < height; y++) {
          const inner = y >= step && y < height - step ? Math.max(0, width - 2 * step) : 0, left = inner > 0 ? step : width
          filterRow(colour, next, variance, nextVariance, spread, guide, width, height, step, y, 0, left)
          if (inner > 0) {
            filterInside(colour, next, variance, nextVariance, spread, guide, width, step, y, step, step + inner)
            filterRow(colour, next, variance, nextVariance, spread, guide, width, height, step, y, step + inner, width)
          }
        }
        ;[colour, next] = [next, colour]
        ;[variance, nextVariance] = [nextVariance, variance]
      }
      for (let i = 0; i < n; i++) for (let k = 0; k < 3; k++) colour[i * 4 + k] = colour[i * 4 + k]! * albedo[i * 3 + k]!
      return colour
    },
  }
}

/**
 * Light, its variance, and the guides, from the film's sums. Each tile is read under its lock with the passes that it has by then.
 * @returns fewest passes of a tile; 0 when one is not of this epoch
 */
function prepare(film: Film, epoch: number, colour: Float32Array, variance: Float32Array, albedo: Float32Array, guide: Float32Array, length: Float32Array): number {
  const across = tilesAcross(film.width), count = tileCount(film.width, film.height)
  let fewest = Infinity
  for (let t = 0; t < count; t++) {
    const x0 = t % across * TILE, y0 = Math.floor(t / across) * TILE
    lockTile(film, t)
    const passes = tilePasses(film, t, epoch)
    if (passes > 0) for (let y = y0; y < Math.min(film.height, y0 + TILE); y++) prepareRow(film, y * film.width + x0, y * film.width + Math.min(film.width, x0 + TILE), passes, colour, variance, albedo, guide, length)
    unlockTile(film, t)
    if (passes === 0) return 0
    if (passes < fewest) fewest = passes
  }
  return fewest
}

function prepareRow(film: Film, from: number, to: number, passes: number, colour: Float32Array, variance: Float32Array, albedo: Float32Array, guide: Float32Array, length: Float32Array): void {
  const { sum, square, part } = film, a = film.aov.albedo!, m = film.aov.normal!
  for (let i = from; i < to; i++) {
    const o = i * 3, q = i * 4, y = (0.2126 * sum[o]! + 0.7152 * sum[o + 1]! + 0.0722 * sum[o + 2]!) / passes
    let shade = 0
    for (let k = 0; k < 3; k++) {
      const own = part[i]! < 0 ? 1 : Math.max(DARKEST, a[o + k]! / passes)
      albedo[o + k] = own
      colour[q + k] = sum[o + k]! / passes / own
      shade += own / 3
    }
    colour[q + 3] = 0.2126 * colour[q]! + 0.7152 * colour[q + 1]! + 0.0722 * colour[q + 2]!
    // variance of the mean, of light without the surface's colour
    variance[i] = passes > 1 ? Math.max(0, square[i]! / passes - y * y) / (passes - 1) / (shade * shade) : 1
    const x = m[o]!, v = m[o + 1]!, z = m[o + 2]!, l = Math.sqrt(x * x + v * v + z * z)
    const k = l > 0 ? 1 / l : 0
    guide[q] = x * k
    guide[q + 1] = v * k
    guide[q + 2] = z * k
    guide[q + 3] = part[i]!
    length[i] = l / passes
  }
}

/**
 * Takes pixels across which one part gives way to another out of the filtering: they are blends of both, and mixed with either their edge would turn jagged.
 * @param length of the mean of each pixel's unit normals
 */
function keepEdges(guide: Float32Array, part: Int32Array, length: Float32Array, width: number, height: number): void {
  for (let y = 1; y < height - 1; y++) for (let x = 1; x < width - 1; x++) {
    const i = y * width + x, p = part[i]!
    if (length[i]! >= EDGE || part[i - 1] === p && part[i + 1] === p && part[i - width] === p && part[i + width] === p || p < 0 && length[i]! < 0.02) continue
    guide[i * 4 + 3] = -2 - i
  }
}

/** Holds pixels that outshine all their neighbours on the same part many times over down to a multiple of the brightest of them. */
function calmFireflies(colour: Float32Array, variance: Float32Array, guide: Float32Array, width: number, height: number): void {
  for (let y = 1; y < height - 1; y++) for (let x = 1; x < width - 1; x++) {
    const i = y * width + x, own = colour[i * 4 + 3]!, p = guide[i * 4 + 3]!
    if (own * own < variance[i]!) continue // an outlier stands out of its own noise as well
    let most = 0, kin = 0
    for (let dy = -width; dy <= width; dy += width) for (let dx = -1; dx <= 1; dx++) {
      const j = (i + dy + dx) * 4
      if (dx === 0 && dy === 0 || guide[j + 3] !== p) continue
      kin++
      if (colour[j + 3]! > most) most = colour[j + 3]!
    }
    if (kin < 3 || own <= OUTLIER * most) continue
    const f = OUTLIER * most / own
    for (let k = 0; k < 4; k++) colour[i * 4 + k] = colour[i * 4 + k]! * f
    variance[i] = variance[i]! * f * f
  }
}

/** With few passes a pixel knows its own noise badly: the scatter of its neighbourhood on the same part stands in where it is larger. */
function spatialVariance(colour: Float32Array, variance: Float32Array, guide: Float32Array, width: number, height: number): void {
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) {
    const i = y * width + x, p = guide[i * 4 + 3]
    let s = 0, q = 0, c = 0
    for (let v = Math.max(0, y - 2); v <= Math.min(height - 1, y + 2); v++) for (let u = Math.max(0, x - 2); u <= Math.min(width - 1, x + 2); u++) {
      const j = (v * width + u) * 4
      if (guide[j + 3] !== p) continue
      const l = colour[j + 3]!
      s += l
      q += l * l
      c++
    }
    if (c > 3) variance[i] = Math.max(variance[i]!, (q - s * s / c) / (c - 1))
  }
}

/** 3 × 3 binomial blur. */
function blur(from: Float32Array, to: Float32Array, width: number, height: number): void {
  for (let y = 0; y < height; y++) {
    const up = Math.max(0, y - 1) * width, own = y * width, down = Math.min(height - 1, y + 1) * width
    for (let x = 0; x < width; x++) {
      const l = x > 0 ? x - 1 : 0, r = x < width - 1 ? x + 1 : x
      to[own + x] = (from[up + l]! + from[up + r]! + from[down + l]! + from[down + r]! + 2 * (from[up + x]! + from[down + x]! + from[own + l]! + from[own + r]!) + 4 * from[own + x]!) / 16
    }
  }
}

/** What the taps of one pixel add up to. */
const sum = new Float64Array(5)

/** Adds pixel j to what pixel i becomes. */
function tap(i: number, j: number, kernel: number, scale: number, colour: Float32Array, variance: Float32Array, guide: Float32Array): void {
  const a = i * 4, b = j * 4
  if (guide[b + 3] !== guide[a + 3]) return
  const d = Math.abs(colour[b + 3]! - colour[a + 3]!) * scale
  if (d >= STEPS * REACH) return
  let c = 1
  if (guide[a + 3]! >= 0) {
    // like normals only: the cosine to the power of 32
    c = guide[a]! * guide[b]! + guide[a + 1]! * guide[b + 1]! + guide[a + 2]! * guide[b + 2]!
    if (c <= 0) return
    c *= c; c *= c; c *= c; c *= c; c *= c
  }
  const w = EXP[d | 0]! * kernel * c
  sum[0] = sum[0]! + w
  sum[1] = sum[1]! + colour[b]! * w
  sum[2] = sum[2]! + colour[b + 1]! * w
  sum[3] = sum[3]! + colour[b + 2]! * w
  sum[4] = sum[4]! + variance[j]! * w * w
}

function begin(i: number, colour: Float32Array, variance: Float32Array): void {
  sum[0] = 0.25
  sum[1] = colour[i * 4]! * 0.25
  sum[2] = colour[i * 4 + 1]! * 0.25
  sum[3] = colour[i * 4 + 2]! * 0.25
  sum[4] = variance[i]! * 0.0625
}

function finish(i: number, to: Float32Array, outVariance: Float32Array): void {
  const k = 1 / sum[0]!, q = i * 4, r = sum[1]! * k, g = sum[2]! * k, b = sum[3]! * k
  to[q] = r
  to[q + 1] = g
  to[q + 2] = b
  to[q + 3] = 0.2126 * r + 0.7152 * g + 0.0722 * b
  outVariance[i] = sum[4]! * k * k
}

/** One level of the wavelet with taps `step` apart over pixels [x0, x1) of a row, near the border of the picture. */
function filterRow(from: Float32Array, to: Float32Array, variance: Float32Array, outVariance: Float32Array, spread: Float32Array, guide: Float32Array, width: number, height: number, step: number, y: number, x0: number, x1: number): void {
  for (let x = x0; x < x1; x++) {
    const i = y * width + x, scale = STEPS / (SIGMA * Math.sqrt(spread[i]!) + FLOOR)
    begin(i, from, variance)
    for (let dy = -step; dy <= step; dy += step) for (let dx = -step; dx <= step; dx += step) {
      const u = x + dx, v = y + dy
      if (u < 0 || u >= width || v < 0 || v >= height || dx === 0 && dy === 0) continue
      tap(i, v * width + u, dx === 0 || dy === 0 ? 0.125 : 0.0625, scale, from, variance, guide)
    }
    finish(i, to, outVariance)
  }
}

/** The same where every tap lies within the picture. */
function filterInside(from: Float32Array, to: Float32Array, variance: Float32Array, outVariance: Float32Array, spread: Float32Array, guide: Float32Array, width: number, step: number, y: number, x0: number, x1: number): void {
  const line = step * width
  for (let x = x0; x < x1; x++) {
    const i = y * width + x, a = i * 4, scale = STEPS / (SIGMA * Math.sqrt(spread[i]!) + FLOOR), p = guide[a + 3]!, l = from[a + 3]!, nx = guide[a]!, ny = guide[a + 1]!, nz = guide[a + 2]!
    let total = 0.25, r = from[a]! * 0.25, g = from[a + 1]! * 0.25, b = from[a + 2]! * 0.25, v = variance[i]! * 0.0625
    for (let k = 0; k < 8; k++) {
      // the eight neighbours, row by row; the corners count half
      const j = i + (k < 3 ? -line + (k - 1) * step : k < 5 ? (k === 3 ? -step : step) : line + (k - 6) * step), q = j * 4
      if (guide[q + 3] !== p) continue
      const d = Math.abs(from[q + 3]! - l) * scale
      if (d >= STEPS * REACH) continue
      let c = 1
      if (p >= 0) {
        c = nx * guide[q]! + ny * guide[q + 1]! + nz * guide[q + 2]!
        if (c <= 0) continue
        c *= c; c *= c; c *= c; c *= c; c *= c
      }
      const w = EXP[d | 0]! * (k === 1 || k === 3 || k === 4 || k === 6 ? 0.125 : 0.0625) * c
      total += w
      r += from[q]! * w
      g += from[q + 1]! * w
      b += from[q + 2]! * w
      v += variance[j]! * w * w
    }
    const k = 1 / total
    r *= k; g *= k; b *= k
    to[a] = r
    to[a + 1] = g
    to[a + 2] = b
    to[a + 3] = 0.2126 * r + 0.7152 * g + 0.0722 * b
    outVariance[i] = v * k * k
  }
}
