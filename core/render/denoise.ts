/**
 * Denoiser for the live view: an edge-avoiding à-trous wavelet (Dammertz et al. 2010), guided by the first hits'
 * mean normals and albedos and by the noise of each pixel (Schied et al. 2017, without their reuse in time). Light
 * is filtered apart from the surface's own colour (divided by the first hit's albedo), so that maps stay sharp.
 * Differences of brightness are taken between prefiltered values and against the variance of both (Rousselle et
 * al. 2012), so that noise decides less about who mixes with whom; features are means over the pixel's samples, so
 * that a blend of two parts at an edge mixes with blends like itself. Never in anything that is kept.
 *
 * Measured at 760 × 475 in one hour, milliseconds on two threads / on one: pixels of four words in plain code 405
 * / 550; planes in plain code – / 468; planes by the kernel, four pixels at once (kernel/denoise.ts, this one) 56
 * / 106. Same errors. Tried on five windows of the demo lantern at 16 passes, as error over that of 64 raw passes:
 *   part numbers and cos³² of normals, brightness of single pixels, five levels: 1.10 1.11 1.18 0.81 1.45
 * the same with prefiltered brightness 1.04 1.07 1.14 0.78 1.35; then features instead of part numbers 0.94 0.98
 * 1.05 0.80 1.30 then levels from coarse to fine, 3, 2, 1 pixels apart: 0.96 0.98 1.00 0.80 1.30 (this one); 4, 2,
 * 1: 0.94 0.99 1.03 0.80 1.30 then the likeness of pairs once a level instead of twice and no branch on brightness:
 * 8–11 % less time in turns, same errors kernels of 5 × 5 at two levels: 0.95 0.97 1.00 0.80 1.30, twice the
 * taps; a second round at 1 pixel: 2 to 4 % worse; part numbers besides features: 1 % worse
 */
import { luminanceAt } from '../colour/luminance'
import { denoiseLoops } from './denoise-kernel'
import { createDenoiseMemory, PLANE, planeAt, STEPS_APART, type DenoiseMemory } from './denoise-memory'
import type { DenoiseLoops } from './denoise-plain'
import { remixTile } from './mix'
import { lockTile, tilePasses, TILE, tilesAcross, unlockTile, type Film } from './film'
import { alone, TEAM_WORDS, type Team } from './team'

/** Standard errors of brightness over which samples still mix; and the smallest difference that counts. */
const SIGMA = 2
const FLOOR = 2e-3
/** What a squared difference of mean normals and of albedos weighs in the exponent. */
const NORMALS = 5
const ALBEDOS = 4
/** How often brighter than the brightest neighbour a pixel may be. */
const OUTLIER = 4
/** Albedo below which light is not divided further. */
const DARKEST = 0.04
/** Luminance of linear Rec.709 (ITU-R BT.709). */
const LUMINANCE = [0.2126, 0.7152, 0.0722]

/** What the compact fall of the loops stands for exp(−16 x) of: exponents are divided by it. */
const COMPACT = 16

export interface Denoiser {
  /** Passes of the picture that was denoised last. */
  passes: number
  /**
   * Denoises the mean of the passes of an epoch. Valid until the next call.
   * @returns linear Rec.709 and luminance, four a pixel; null while a tile has no pass
   */
  run(film: Film, epoch: number): Float32Array | null
}

/** A picture as planes: where its red lies; green, blue and luminance follow, `plane` words apart. */
interface Planes {
  m: Float32Array
  plane: number
  width: number
  height: number
  colour: number
  variance: number
  albedo: number
  normal: number
  light: number
}

/**
 * Makes a denoiser for pictures of one size. Films need sums of squares and the AOVs albedo and normal.
 * @param team every hand of it makes one on the same memory and runs it on the same epoch; each does a band of the
 * picture
 */
export function createDenoiser(
  width: number,
  height: number,
  memory: DenoiseMemory = createDenoiseMemory(width, height),
  team: Team = alone(),
  loops: DenoiseLoops = denoiseLoops(memory),
): Denoiser {
  const rows = Math.ceil(height / TILE)
  const y0 = Math.floor((rows * team.hand) / team.hands) * TILE
  const y1 = Math.min(height, Math.floor((rows * (team.hand + 1)) / team.hands) * TILE)
  const from = y0 * width
  const to = y1 * width
  const { words: m, plane } = memory
  const at = (number: number) => planeAt(memory, number)
  const near = STEPS_APART.map((_, k) => at(PLANE.near + 4 * k))
  const spread = at(PLANE.spread)
  const light = at(PLANE.light)
  const doubt = at(PLANE.doubt)
  const p: Planes = {
    m,
    plane,
    width,
    height,
    colour: at(PLANE.colour),
    variance: at(PLANE.variance),
    albedo: at(PLANE.albedo),
    normal: at(PLANE.normal),
    light,
  }
  // the buffer that is left over after the last level
  const left = at(STEPS_APART.length % 2 ? PLANE.colour : PLANE.next)
  const out = m.subarray(left, left + width * height * 4)
  return {
    passes: 0,
    run(film, epoch) {
      let colour = p.colour
      let next = at(PLANE.next)
      let variance = p.variance
      let nextVariance = at(PLANE.nextVariance)
      Atomics.store(team.words, TEAM_WORDS + team.hand, prepare(film, epoch, p, y0, y1))
      team.meet()
      let passes = Infinity
      for (let h = 0; h < team.hands; h++) passes = Math.min(passes, Atomics.load(team.words, TEAM_WORDS + h))
      if (passes === 0) {
        team.meet()
        return null
      }
      this.passes = passes
      findFireflies(p, y0, y1)
      team.meet()
      calm(p, from, to)
      STEPS_APART.forEach((step, k) => {
        loops.likeness(p.normal, p.albedo, near[k]!, ALBEDOS / COMPACT, step, from, to)
        partBorders(p, near[k]!, step, y0, y1)
      })
      team.meet()
      if (passes < 8) {
        spatialVariance(p, film.part, y0, y1)
        team.meet()
      }
      for (let k = 0; k < STEPS_APART.length; k++) {
        blur(p, variance, spread, y0, y1, loops)
        team.meet()
        loops.prefilter(
          colour + 3 * plane,
          spread,
          near[STEPS_APART.indexOf(1)]!,
          light,
          doubt,
          COMPACT * SIGMA * SIGMA,
          (COMPACT * FLOOR * FLOOR) / 2,
          from,
          to,
        )
        team.meet()
        loops.mixLevel(colour, next, variance, nextVariance, light, doubt, near[k]!, STEPS_APART[k]!, from, to)
        ;[colour, next] = [next, colour]
        ;[variance, nextVariance] = [nextVariance, variance]
        team.meet()
      }
      for (let i = from, o = from * 4; i < to; i++, o += 4) {
        for (let k = 0; k < 3; k++) out[o + k] = m[colour + k * plane + i]! * m[p.albedo + k * plane + i]!
        out[o + 3] = m[colour + 3 * plane + i]!
      }
      team.meet()
      return out
    },
  }
}

/**
 * Light, its variance, and the features, from the film's sums, of the rows from y0 up to y1, which are whole
 * tiles. Each tile is read under its lock with the passes that it has by then.
 * @returns fewest passes of a tile; 0 when one is not of this epoch
 */
function prepare(film: Film, epoch: number, p: Planes, y0: number, y1: number): number {
  const across = tilesAcross(film.width)
  let fewest = 0x7fffffff
  for (let t = (y0 / TILE) * across; t < Math.ceil(y1 / TILE) * across; t++) {
    const x0 = (t % across) * TILE
    const top = Math.floor(t / across) * TILE
    lockTile(film, t)
    remixTile(film, t)
    const passes = tilePasses(film, t, epoch)
    if (passes > 0)
      for (let y = top; y < Math.min(film.height, top + TILE); y++)
        prepareRow(film, p, y * film.width + x0, y * film.width + Math.min(film.width, x0 + TILE), passes)
    unlockTile(film, t)
    if (passes === 0) return 0
    if (passes < fewest) fewest = passes
  }
  return fewest
}

function prepareRow(
  film: Film,
  { m, plane, colour, variance, albedo, normal }: Planes,
  from: number,
  to: number,
  passes: number,
): void {
  const { sum, square, part } = film
  const a = film.aov.albedo!
  const n = film.aov.normal!
  const normals = Math.sqrt(NORMALS / COMPACT) / passes
  for (let i = from; i < to; i++) {
    const o = i * 3
    const y = luminanceAt(sum, o) / passes
    let shade = 0
    let luminance = 0
    for (let k = 0; k < 3; k++) {
      const own = part[i]! < 0 ? 1 : Math.max(DARKEST, a[o + k]! / passes)
      const light = sum[o + k]! / passes / own
      const q = i + k * plane
      m[albedo + q] = own
      m[normal + q] = n[o + k]! * normals
      m[colour + q] = light
      luminance += LUMINANCE[k]! * light
      shade += own / 3
    }
    m[colour + 3 * plane + i] = luminance
    // variance of the mean, of light without the surface's colour
    m[variance + i] = passes > 1 ? Math.max(0, square[i]! / passes - y * y) / (passes - 1) / (shade * shade) : 1
  }
}

/**
 * Finds pixels that outshine all their neighbours many times over. What brings each of them to a multiple of the
 * brightest neighbour goes to the plane of light; 1 for the others.
 */
function findFireflies(
  { m, plane, width, height, colour, variance, light }: Planes,
  y0: number,
  y1: number,
): void {
  const luminance = colour + 3 * plane
  m.fill(1, light + y0 * width, light + y1 * width)
  for (let y = Math.max(1, y0); y < Math.min(height - 1, y1); y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x
      const own = m[luminance + i]!
      if (own * own < m[variance + i]!) continue // an outlier stands out of its own noise as well
      let most = 0
      for (let dy = -width; dy <= width; dy += width)
        for (let dx = -1; dx <= 1; dx++) {
          const l = m[luminance + i + dy + dx]!
          if (l > most && (dx !== 0 || dy !== 0)) most = l
        }
      if (own > OUTLIER * most) m[light + i] = (OUTLIER * most) / own
    }
}

function calm({ m, plane, colour, variance, light }: Planes, from: number, to: number): void {
  for (let i = from; i < to; i++) {
    const f = m[light + i]!
    if (f === 1) continue
    for (let k = 0; k < 4; k++) m[colour + k * plane + i]! *= f
    m[variance + i]! *= f * f
  }
}

/**
 * With few passes a pixel knows its own noise badly: the scatter of its neighbourhood on the same part stands in
 * where it is larger.
 */
function spatialVariance(
  { m, plane, width, height, colour, variance }: Planes,
  part: Int32Array,
  y0: number,
  y1: number,
): void {
  const luminance = colour + 3 * plane
  for (let y = y0; y < y1; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x
      const own = part[i]
      let s = 0
      let q = 0
      let c = 0
      for (let v = Math.max(0, y - 2); v <= Math.min(height - 1, y + 2); v++)
        for (let u = Math.max(0, x - 2); u <= Math.min(width - 1, x + 2); u++) {
          const j = v * width + u
          if (part[j] !== own) continue
          const l = m[luminance + j]!
          s += l
          q += l * l
          c++
        }
      if (c > 3) m[variance + i] = Math.max(m[variance + i]!, (q - (s * s) / c) / (c - 1))
    }
}

/** 3 × 3 binomial blur of a plane. */
function blur(
  { m, width, height }: Planes,
  plane: number,
  out: number,
  y0: number,
  y1: number,
  loops: DenoiseLoops,
): void {
  for (let y = y0; y < y1; y++) {
    const up = plane + Math.max(0, y - 1) * width
    const row = plane + y * width
    const down = plane + Math.min(height - 1, y + 1) * width
    loops.blurRow(up, row, down, out + y * width)
    for (const x of [0, width - 1]) {
      const l = Math.max(0, x - 1)
      const r = Math.min(width - 1, x + 1)
      m[out + y * width + x] =
        (m[up + l]! +
          m[up + r]! +
          m[down + l]! +
          m[down + r]! +
          2 * (m[up + x]! + m[down + x]! + m[row + l]! + m[row + r]!) +
          4 * m[row + x]!) /
        16
    }
  }
}

/** Pixels at the border are like none beyond it, nor like the ones at the other end of the next row. */
function partBorders(
  { m, plane, width, height }: Planes,
  near: number,
  step: number,
  y0: number,
  y1: number,
): void {
  for (let y = y0; y < y1; y++) {
    const row = near + y * width
    const last = Math.max(0, width - step)
    m.fill(0, row + last, row + width)
    m.fill(0, row + plane, row + plane + Math.min(step, width))
    m.fill(0, row + 3 * plane + last, row + 3 * plane + width)
    if (y >= height - step) for (let k = 1; k < 4; k++) m.fill(0, row + k * plane, row + k * plane + width)
  }
}
