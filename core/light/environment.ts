/**
 * The environment: uniform, or a picture that is interpolated between the centres of its pixels, round the horizon
 * and up to the poles. Directions are drawn by the integrals of the cells between four centres, rows first, then
 * columns (Pharr, Jakob & Humphreys, "Physically Based Rendering", piecewise-constant 2D distributions), and evenly
 * over the directions of a cell. u = ½ looks along −z, u grows towards +x.
 */
import { luminanceAt } from '../colour/luminance'
import type { EnvironmentMap, Lights } from './lights'
import { lit } from './memory'

/** Radiance from which on a pixel is taken for a fault. */
const BRIGHTEST = 1e9

/**
 * How many pixels of an environment picture carry no light because a component is negative, infinite or no number.
 */
export function faultyPixels({ data }: { data: ArrayLike<number> }): number {
  let n = 0
  for (let i = 0; i < data.length; i += 4)
    if (!(
      data[i]! >= 0 &&
      data[i + 1]! >= 0 &&
      data[i + 2]! >= 0 &&
      data[i]! < BRIGHTEST &&
      data[i + 1]! < BRIGHTEST &&
      data[i + 2]! < BRIGHTEST
    ))
      n++
  return n
}

/** Tables by the picture they were made of: a rig is changed often, its picture seldom. */
const maps = new WeakMap<object, EnvironmentMap>()

let made = 0

/**
 * Share of a row's and of the picture's draws that is spread evenly over what shines at all, so that no cell beside
 * a sun is lost in the rounding of the tables.
 */
const EVEN = 1 / 128

/** Turns sums of masses into a cumulative table; evenly where there are none. */
function accumulate(table: Float32Array, o: number, masses: Float64Array): number {
  const n = masses.length
  let total = 0
  let shining = 0
  for (const m of masses) {
    total += m
    if (m > 0) shining++
  }
  let sum = 0
  for (let i = 0; i < n; i++) {
    sum += total > 0 ? (masses[i]! > 0 ? ((1 - EVEN) * masses[i]!) / total + EVEN / shining : 0) : 1 / n
    table[o + i + 1] = i === n - 1 ? 1 : sum
  }
  return total
}

function createMap(
  picture: { width: number; height: number; data: Float32Array },
  allocate: (bytes: number) => ArrayBufferLike,
): EnvironmentMap {
  const { width, height, data } = picture
  const rgb = new Float32Array(allocate(width * height * 12))
  // cells lie between centres, so there is one row of them more, half as high at either pole
  const rows = new Float32Array(allocate((height + 2) * 4))
  const edges = new Float64Array(allocate((height + 2) * 8))
  const columns = new Float32Array(allocate((height + 1) * (width + 1) * 4))
  for (let i = 0; i < width * height; i++)
    for (let k = 0; k < 3; k++) {
      // negative and non-finite pixels carry no light
      const c = data[i * 4 + k]!
      rgb[i * 3 + k] = c > 0 && c < BRIGHTEST ? c : 0
    }
  for (let y = 0; y <= height + 1; y++)
    edges[y] = Math.cos((Math.PI * Math.min(height, Math.max(0, y - 0.5))) / height)
  const cells = new Float64Array(width)
  const sums = new Float64Array(height + 1)
  for (let y = 0; y <= height; y++) {
    const above = Math.max(0, y - 1) * width
    const below = Math.min(height - 1, y) * width
    for (let x = 0; x < width; x++) {
      const next = x + 1 < width ? x + 1 : 0
      cells[x] =
        luminanceAt(rgb, (above + x) * 3) +
        luminanceAt(rgb, (above + next) * 3) +
        luminanceAt(rgb, (below + x) * 3) +
        luminanceAt(rgb, (below + next) * 3)
    }
    sums[y] = (accumulate(columns, y * (width + 1), cells) / 4) * (edges[y]! - edges[y + 1]!)
  }
  const total = accumulate(rows, 0, sums)
  return { id: made++, width, height, rgb, rows, columns, edges, mean: total / (Math.PI * width) }
}

/**
 * Interpolates a picture into {@link lit}.
 * @param x, y cell; s, t place in it, 0..1; from the centre at its left and above
 */
function interpolate(lights: Lights, x: number, y: number, s: number, t: number): void {
  const { width, height, rgb } = lights.map!
  const e = lights.environment
  const above = (y > 0 ? y - 1 : 0) * width
  const below = (y < height ? y : height - 1) * width
  const next = x + 1 < width ? x + 1 : 0
  const a = (above + x) * 3
  const b = (above + next) * 3
  const c = (below + x) * 3
  const d = (below + next) * 3
  const wa = (1 - s) * (1 - t)
  const wb = s * (1 - t)
  const wc = (1 - s) * t
  const wd = s * t
  lit.r = (wa * rgb[a]! + wb * rgb[b]! + wc * rgb[c]! + wd * rgb[d]!) * e[0]
  lit.g = (wa * rgb[a + 1]! + wb * rgb[b + 1]! + wc * rgb[c + 1]! + wd * rgb[d + 1]!) * e[1]
  lit.b = (wa * rgb[a + 2]! + wb * rgb[b + 2]! + wc * rgb[c + 2]! + wd * rgb[d + 2]!) * e[2]
}

/** The tables of a picture, made once. @param allocate gives their memory */
export function mapOf(
  picture: { width: number; height: number; data: Float32Array },
  allocate: (bytes: number) => ArrayBufferLike,
): EnvironmentMap {
  let map = maps.get(picture)
  if (!map) maps.set(picture, (map = createMap(picture, allocate)))
  return map
}

/** First index of a cumulative table (from `o`, n + 1 entries) whose interval contains u. */
function find(table: Float32Array, o: number, n: number, u: number): number {
  let low = 0
  let high = n - 1
  while (low < high) {
    const mid = (low + high) >> 1
    if (table[o + mid + 1]! > u) high = mid
    else low = mid + 1
  }
  return low
}

/**
 * Draws a direction by two numbers in [0, 1), draws[1] and draws[2]; its density is times lit.share.
 * @returns false where nothing shines
 */
export function sampleMap(lights: Lights, draws: Float64Array): boolean {
  const u1 = draws[1]!
  const u2 = draws[2]!
  const { width, height, rows, columns, edges } = lights.map!
  const y = find(rows, 0, height + 1, u1)
  const o = y * (width + 1)
  const x = find(columns, o, width, u2)
  const pr = rows[y + 1]! - rows[y]!
  const pc = columns[o + x + 1]! - columns[o + x]!
  if (!(pr > 0 && pc > 0)) return false
  const solid = edges[y]! - edges[y + 1]!
  const cos = edges[y]! - (solid * (u1 - rows[y]!)) / pr
  const s = (u2 - columns[o + x]!) / pc
  const phi = (2 * Math.PI * (x + 0.5 + s)) / width - Math.PI
  const sin = Math.sqrt(Math.max(0, 1 - cos * cos))
  const lx = sin * Math.sin(phi)
  const lz = -sin * Math.cos(phi)
  interpolate(lights, x, y, s, rowOf(lights.map!, cos) - y)
  lit.x = lights.cos * lx + lights.sin * lz
  lit.y = cos
  lit.z = -lights.sin * lx + lights.cos * lz
  lit.distance = Infinity
  lit.pdf = (lit.share * pr * pc * width) / (2 * Math.PI * solid)
  return true
}

/** Row of cells that a direction lies in, and how far down it, as one number. @param cos of the angle from above */
const rowOf = (map: EnvironmentMap, cos: number): number =>
  (Math.acos(cos < -1 ? -1 : cos > 1 ? 1 : cos) / Math.PI) * map.height + 0.5

/**
 * Radiance of the environment in a direction into {@link lit}; `lit.pdf` is the density with which {@link
 * sampleMap} would draw it, times lit.share. u = ½ looks along −z, u grows towards +x.
 */
export function environmentRadiance(lights: Lights, direction: Float64Array, at: number): void {
  const dx = direction[at]!
  const dy = direction[at + 1]!
  const dz = direction[at + 2]!
  const map = lights.map
  if (!map) {
    const e = lights.environment
    lit.r = e[0]
    lit.g = e[1]
    lit.b = e[2]
    lit.pdf = 0
    return
  }
  const { width, height, rows, columns, edges } = map
  const lx = lights.cos * dx - lights.sin * dz
  const lz = lights.sin * dx + lights.cos * dz
  const row = rowOf(map, dy)
  const y = Math.min(height, Math.floor(row))
  // from the centre of the first pixel on, round the horizon
  let column = ((Math.atan2(lx, -lz) + Math.PI) / (2 * Math.PI)) * width - 0.5
  if (column < 0) column += width
  const x = Math.min(width - 1, Math.floor(column))
  interpolate(lights, x, y, column - x, row - y)
  const o = y * (width + 1)
  const p = (rows[y + 1]! - rows[y]!) * (columns[o + x + 1]! - columns[o + x]!)
  lit.pdf = (lit.share * p * width) / (2 * Math.PI * (edges[y]! - edges[y + 1]!))
}
