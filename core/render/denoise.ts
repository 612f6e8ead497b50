/**
 * Denoiser for the live view: an edge-avoiding à-trous wavelet (Dammertz et al. 2010), guided by the first hits' mean normals and albedos and by the noise of each pixel (Schied et
 * al. 2017, without their reuse in time). Light is filtered apart from the surface's own colour (divided by the first hit's albedo), so that maps stay sharp. Differences of
 * brightness are taken between prefiltered values and against the variance of both (Rousselle et al. 2012), so that noise decides less about who mixes with whom; features are means
 * over the pixel's samples, so that a blend of two parts at an edge mixes with blends like itself. Never in anything that is kept.
 *
 * Measured at 760 × 475 on one thread: see docs/performance.md; in an hour when this one took 260 ms, the one before took 640 ms.
 * Tried on five windows of the demo lantern at 16 passes, as error over that of 64 raw passes:
 *   part numbers and cos³² of normals, brightness of single pixels, five levels: 1.10 1.11 1.18 0.81 1.45
 *   the same with prefiltered brightness 1.04 1.07 1.14 0.78 1.35; then features instead of part numbers 0.94 0.98 1.05 0.80 1.30
 *   then levels from coarse to fine, 3, 2, 1 pixels apart: 0.96 0.98 1.00 0.80 1.30 (this one); 4, 2, 1: 0.94 0.99 1.03 0.80 1.30
 *   then the likeness of pairs once a level instead of twice and no branch on brightness: 8–11 % less time in turns, same errors
 *   kernels of 5 × 5 at two levels: 0.95 0.97 1.00 0.80 1.30, twice the taps; a second round at 1 pixel: 2 to 4 % worse; part numbers besides features: 1 % worse
 */
import { remixTile } from './mix'
import { lockTile, tilePasses, TILE, tilesAcross, unlockTile, type Film } from './film'
import { alone, TEAM_WORDS, type Team } from './team'

/** Distances of the taps of each level, pixels. */
const STEPS_APART = [3, 2, 1]
/** Standard errors of brightness over which samples still mix; and the smallest difference that counts. */
const SIGMA = 2, FLOOR = 2e-3
/** What a squared difference of mean normals and of albedos weighs in the exponent. */
const NORMALS = 5, ALBEDOS = 4
/** How often brighter than the brightest neighbour a pixel may be. */
const OUTLIER = 4
/** Albedo below which light is not divided further. */
const DARKEST = 0.04

/** Words before the likeness of the first pixel, so that the pixels before it may be asked too: they are like none. */
const padding = (width: number): number => (Math.max(...STEPS_APART) * (width + 1)) * 4

const STEPS = 64, REACH = 8
const EXP = Float32Array.from({ length: STEPS * REACH + 1 }, (_, i) => i === STEPS * REACH ? 0 : Math.exp(-i / STEPS))
/** Words a pixel of the features: normal, albedo, two to spare. */
const F = 8

export interface Denoiser {
  /** Passes of the picture that was denoised last. */
  passes: number
  /** Denoises the mean of the passes of an epoch. Valid until the next call. @returns linear Rec.709 and luminance, four a pixel; null while a tile has no pass */
  run(film: Film, epoch: number): Float32Array | null
}

/** What a denoiser works on: with a shared allocator, several hands work on one picture. Pixels lie four words apart: r, g, b and luminance. */
export interface DenoiseMemory { width: number, height: number, colour: Float32Array, next: Float32Array, variance: Float32Array, nextVariance: Float32Array, albedo: Float32Array, feature: Float32Array, spread: Float32Array, /** Likeness of pairs for each of the levels. */ near: Float32Array[], light: Float32Array, doubt: Float32Array }

/** Memory for pictures of one size: 37 words a pixel. */
export function createDenoiseMemory(width: number, height: number, allocate: (bytes: number) => ArrayBufferLike = n => new ArrayBuffer(n)): DenoiseMemory {
  const words = (each: number) => new Float32Array(allocate(width * height * each * 4))
  return { width, height, colour: words(4), next: words(4), variance: words(1), nextVariance: words(1), albedo: words(3), feature: words(F), spread: words(1), near: STEPS_APART.map(() => new Float32Array(allocate((width * height * 4 + padding(width)) * 4))), light: words(1), doubt: words(1) }
}

/**
 * Makes a denoiser for pictures of one size. Films need sums of squares and the AOVs albedo and normal.
 * @param team every hand of it makes one on the same memory and runs it on the same epoch; each does a band of the picture
 */
export function createDenoiser(width: number, height: number, memory: DenoiseMemory = createDenoiseMemory(width, height), team: Team = alone()): Denoiser {
  const { albedo, feature, spread, near, light, doubt } = memory, rows = Math.ceil(height / TILE)
  const y0 = Math.floor(rows * team.hand / team.hands) * TILE, y1 = Math.min(height, Math.floor(rows * (team.hand + 1) / team.hands) * TILE)
  return {
    passes: 0,
    run(film, epoch) {
      let { colour, next, variance, nextVariance } = memory
      Atomics.store(team.words, TEAM_WORDS + team.hand, prepare(film, epoch, y0, y1, colour, variance, albedo, feature))
      team.meet()
      let passes = Infinity
      for (let h = 0; h < team.hands; h++) passes = Math.min(passes, Atomics.load(team.words, TEAM_WORDS + h))
      if (passes === 0) { team.meet(); return null }
      this.passes = passes
      findFireflies(colour, variance, light, width, height, y0, y1)
      team.meet()
      calm(colour, variance, light, width, y0, y1)
      STEPS_APART.forEach((step, k) => neighbourWeights(feature, near[k]!, width, height, step, y0, y1))
      team.meet()
      if (passes < 8) {
        spatialVariance(colour, variance, film.part, width, height, y0, y1)
        team.meet()
      }
      for (let k = 0; k < STEPS_APART.length; k++) {
        blur(variance, spread, width, height, y0, y1)
        team.meet()
        prefilter(colour, spread, near[STEPS_APART.indexOf(1)]!, light, doubt, width, y0, y1)
        team.meet()
        filter(colour, next, variance, nextVariance, light, doubt, near[k]!, width, STEPS_APART[k]!, y0, y1)
        ;[colour, next] = [next, colour]
        ;[variance, nextVariance] = [nextVariance, variance]
        team.meet()
      }
      for (let i = y0 * width; i < y1 * width; i++) for (let k = 0; k < 3; k++) colour[i * 4 + k] = colour[i * 4 + k]! * albedo[i * 3 + k]!
      team.meet()
      return colour
    },
  }
}

/**
 * Light, its variance, and the features, from the film's sums, of the rows from y0 up to y1, which are whole tiles. Each tile is read under its lock with the passes that it has by then.
 * @returns fewest passes of a tile; 0 when one is not of this epoch
 */
function prepare(film: Film, epoch: number, y0: number, y1: number, colour: Float32Array, variance: Float32Array, albedo: Float32Array, feature: Float32Array): number {
  const across = tilesAcross(film.width)
  let fewest = 0x7fffffff
  for (let t = y0 / TILE * across; t < Math.ceil(y1 / TILE) * across; t++) {
    const x0 = t % across * TILE, top = Math.floor(t / across) * TILE
    lockTile(film, t)
    remixTile(film, t)
    const passes = tilePasses(film, t, epoch)
    if (passes > 0) for (let y = top; y < Math.min(film.height, top + TILE); y++) prepareRow(film, y * film.width + x0, y * film.width + Math.min(film.width, x0 + TILE), passes, colour, variance, albedo, feature)
    unlockTile(film, t)
    if (passes === 0) return 0
    if (passes < fewest) fewest = passes
  }
  return fewest
}

function prepareRow(film: Film, from: number, to: number, passes: number, colour: Float32Array, variance: Float32Array, albedo: Float32Array, feature: Float32Array): void {
  const { sum, square, part } = film, a = film.aov.albedo!, m = film.aov.normal!, normals = Math.sqrt(NORMALS) / passes, albedos = Math.sqrt(ALBEDOS)
  for (let i = from; i < to; i++) {
    const o = i * 3, q = i * 4, f = i * F, y = (0.2126 * sum[o]! + 0.7152 * sum[o + 1]! + 0.0722 * sum[o + 2]!) / passes
    let shade = 0
    for (let k = 0; k < 3; k++) {
      const own = part[i]! < 0 ? 1 : Math.max(DARKEST, a[o + k]! / passes)
      albedo[o + k] = own
      feature[f + k] = m[o + k]! * normals
      feature[f + 3 + k] = own * albedos
      colour[q + k] = sum[o + k]! / passes / own
      shade += own / 3
    }
    colour[q + 3] = 0.2126 * colour[q]! + 0.7152 * colour[q + 1]! + 0.0722 * colour[q + 2]!
    // variance of the mean, of light without the surface's colour
    variance[i] = passes > 1 ? Math.max(0, square[i]! / passes - y * y) / (passes - 1) / (shade * shade) : 1
  }
}

/** Finds pixels that outshine all their neighbours many times over. @param factor receives what brings each of them to a multiple of the brightest neighbour; 1 for the others */
function findFireflies(colour: Float32Array, variance: Float32Array, factor: Float32Array, width: number, height: number, y0: number, y1: number): void {
  factor.fill(1, y0 * width, y1 * width)
  for (let y = Math.max(1, y0); y < Math.min(height - 1, y1); y++) for (let x = 1; x < width - 1; x++) {
    const i = y * width + x, own = colour[i * 4 + 3]!
    if (own * own < variance[i]!) continue // an outlier stands out of its own noise as well
    let most = 0
    for (let dy = -width; dy <= width; dy += width) for (let dx = -1; dx <= 1; dx++) {
      const l = colour[(i + dy + dx) * 4 + 3]!
      if (l > most && (dx !== 0 || dy !== 0)) most = l
    }
    if (own > OUTLIER * most) factor[i] = OUTLIER * most / own
  }
}

function calm(colour: Float32Array, variance: Float32Array, factor: Float32Array, width: number, y0: number, y1: number): void {
  for (let i = y0 * width; i < y1 * width; i++) {
    const f = factor[i]!
    if (f === 1) continue
    for (let k = 0; k < 4; k++) colour[i * 4 + k] = colour[i * 4 + k]! * f
    variance[i] = variance[i]! * f * f
  }
}

/** With few passes a pixel knows its own noise badly: the scatter of its neighbourhood on the same part stands in where it is larger. */
function spatialVariance(colour: Float32Array, variance: Float32Array, part: Int32Array, width: number, height: number, y0: number, y1: number): void {
  for (let y = y0; y < y1; y++) for (let x = 0; x < width; x++) {
    const i = y * width + x, p = part[i]
    let s = 0, q = 0, c = 0
    for (let v = Math.max(0, y - 2); v <= Math.min(height - 1, y + 2); v++) for (let u = Math.max(0, x - 2); u <= Math.min(width - 1, x + 2); u++) {
      const j = v * width + u
      if (part[j] !== p) continue
      const l = colour[j * 4 + 3]!
      s += l
      q += l * l
      c++
    }
    if (c > 3) variance[i] = Math.max(variance[i]!, (q - s * s / c) / (c - 1))
  }
}

/** 3 × 3 binomial blur. */
function blur(from: Float32Array, to: Float32Array, width: number, height: number, y0: number, y1: number): void {
  for (let y = y0; y < y1; y++) {
    const up = Math.max(0, y - 1) * width, own = y * width, down = Math.min(height - 1, y + 1) * width
    for (let x = 0; x < width; x++) {
      const l = x > 0 ? x - 1 : 0, r = x < width - 1 ? x + 1 : x
      to[own + x] = (from[up + l]! + from[up + r]! + from[down + l]! + from[down + r]! + 2 * (from[up + x]! + from[down + x]! + from[own + l]! + from[own + r]!) + 4 * from[own + x]!) / 16
    }
  }
}

/** How like the features of two pixels are, 0..1. */
function likeness(feature: Float32Array, i: number, j: number): number {
  const a = i * F, b = j * F
  const n0 = feature[a]! - feature[b]!, n1 = feature[a + 1]! - feature[b + 1]!, n2 = feature[a + 2]! - feature[b + 2]!, c0 = feature[a + 3]! - feature[b + 3]!, c1 = feature[a + 4]! - feature[b + 4]!, c2 = feature[a + 5]! - feature[b + 5]!
  const d = (n0 * n0 + n1 * n1 + n2 * n2 + c0 * c0 + c1 * c1 + c2 * c2) * STEPS
  return d < STEPS * REACH ? EXP[d | 0]! : 0
}

/** Likeness of each pixel to four neighbours `step` apart: right, down left, down, down right. The other four are theirs, so it is computed once a pair; zero beyond the border. */
function neighbourWeights(feature: Float32Array, near: Float32Array, width: number, height: number, step: number, y0: number, y1: number): void {
  const line = step * width
  let o = padding(width) + y0 * width * 4
  for (let y = y0; y < y1; y++) for (let x = 0; x < width; x++, o += 4) {
    const i = y * width + x, below = y < height - step
    near[o] = x < width - step ? likeness(feature, i, i + step) : 0
    near[o + 1] = below && x >= step ? likeness(feature, i, i + line - step) : 0
    near[o + 2] = below ? likeness(feature, i, i + line) : 0
    near[o + 3] = below && x < width - step ? likeness(feature, i, i + line + step) : 0
  }
}

/** Brightness and its variance as mixed with the eight neighbours of like features: what differences are taken of. */
function prefilter(colour: Float32Array, variance: Float32Array, near: Float32Array, light: Float32Array, doubt: Float32Array, width: number, y0: number, y1: number): void {
  const pad = padding(width)
  for (let i = y0 * width; i < y1 * width; i++) {
    const up = i - width, down = i + width, o = pad + i * 4, p = pad + up * 4
    let s = 4 * colour[i * 4 + 3]!, v = 16 * variance[i]!, w = 4
    const a0 = 2 * near[o]!, a1 = near[o + 1]!, a2 = 2 * near[o + 2]!, a3 = near[o + 3]!, b0 = 2 * near[o - 4]!, b1 = near[p + 5]!, b2 = 2 * near[p + 2]!, b3 = near[p - 1]!
    if (a0 > 0) { w += a0; s += a0 * colour[i * 4 + 7]!; v += a0 * a0 * variance[i + 1]! }
    if (a1 > 0) { w += a1; s += a1 * colour[down * 4 - 1]!; v += a1 * a1 * variance[down - 1]! }
    if (a2 > 0) { w += a2; s += a2 * colour[down * 4 + 3]!; v += a2 * a2 * variance[down]! }
    if (a3 > 0) { w += a3; s += a3 * colour[down * 4 + 7]!; v += a3 * a3 * variance[down + 1]! }
    if (b0 > 0) { w += b0; s += b0 * colour[i * 4 - 1]!; v += b0 * b0 * variance[i - 1]! }
    if (b1 > 0) { w += b1; s += b1 * colour[up * 4 + 7]!; v += b1 * b1 * variance[up + 1]! }
    if (b2 > 0) { w += b2; s += b2 * colour[up * 4 + 3]!; v += b2 * b2 * variance[up]! }
    if (b3 > 0) { w += b3; s += b3 * colour[up * 4 - 1]!; v += b3 * b3 * variance[up - 1]! }
    light[i] = s / w
    doubt[i] = v * SIGMA * SIGMA / (STEPS * w * w) + FLOOR * FLOOR / (2 * STEPS)
  }
}

/** Per tap of a level: where it lies, which pixel keeps the likeness of the pair and in which of its four words, and what it weighs before likeness. */
const offset = new Int32Array(8), word = new Int32Array(8), KERNEL = Float64Array.of(0.125, 0.0625, 0.125, 0.0625, 0.125, 0.0625, 0.125, 0.0625)

/** One level of the wavelet with taps `step` apart over the rows from y0 up to y1. */
function filter(from: Float32Array, to: Float32Array, variance: Float32Array, outVariance: Float32Array, light: Float32Array, doubt: Float32Array, near: Float32Array, width: number, step: number, y0: number, y1: number): void {
  const line = step * width, pad = padding(width)
  for (let k = 0; k < 4; k++) {
    const ahead = k === 0 ? step : line + (k - 2) * step
    offset[k] = ahead; word[k] = pad + k
    offset[k + 4] = -ahead; word[k + 4] = pad + k - ahead * 4
  }
  for (let i = y0 * width; i < y1 * width; i++) {
    const q = i * 4, l = light[i]!, own = doubt[i]!
    let w = 0.25, r = from[q]! * 0.25, g = from[q + 1]! * 0.25, b = from[q + 2]! * 0.25, v = variance[i]! * 0.0625
    for (let k = 0; k < 8; k++) {
      const like = near[q + word[k]!]!
      if (like === 0) continue
      const j = i + offset[k]!, d = light[j]! - l, distance = d * d / (own + doubt[j]!)
      // the last entry of the table is zero: a branch here would be guessed wrong every other time
      const c = EXP[distance < STEPS * REACH ? distance | 0 : STEPS * REACH]! * KERNEL[k]! * like, o = j * 4
      w += c
      r += from[o]! * c
      g += from[o + 1]! * c
      b += from[o + 2]! * c
      v += variance[j]! * c * c
    }
    const s = 1 / w
    r *= s; g *= s; b *= s
    to[q] = r
    to[q + 1] = g
    to[q + 2] = b
    to[q + 3] = 0.2126 * r + 0.7152 * g + 0.0722 * b
    outVariance[i] = v * s * s
  }
}
