/**
 * The environment: uniform, or a picture of which directions are drawn by rows and columns (Pharr, Jakob & Humphreys,
 * "Physically Based Rendering", piecewise-constant 2D distributions). u = ½ looks along −z, u grows towards +x.
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

function createMap(
  picture: { width: number; height: number; data: Float32Array },
  allocate: (bytes: number) => ArrayBufferLike,
): EnvironmentMap {
  const { width, height, data } = picture
  const rgb = new Float32Array(allocate(width * height * 12))
  const rows = new Float32Array(allocate((height + 1) * 4))
  const columns = new Float32Array(allocate(height * (width + 1) * 4))
  let total = 0
  for (let y = 0; y < height; y++) {
    const sinTheta = Math.sin((Math.PI * (y + 0.5)) / height)
    let row = 0
    for (let x = 0; x < width; x++) {
      const i = y * width + x
      // negative and non-finite pixels carry no light
      for (let k = 0; k < 3; k++) {
        const c = data[i * 4 + k]!
        rgb[i * 3 + k] = c > 0 && c < BRIGHTEST ? c : 0
      }
      row += luminanceAt(rgb, i * 3) * sinTheta
      columns[y * (width + 1) + x + 1] = row
    }
    for (let x = 1; x <= width; x++)
      columns[y * (width + 1) + x] = row > 0 ? columns[y * (width + 1) + x]! / row : x / width
    total += row
    rows[y + 1] = total
  }
  for (let y = 1; y <= height; y++) rows[y] = total > 0 ? rows[y]! / total : y / height
  return { id: made++, width, height, rgb, rows, columns, mean: total / (width * height) }
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

/** Draws a direction by two numbers in [0, 1), draws[1] and draws[2]. @returns false where nothing shines */
export function sampleMap(lights: Lights, draws: Float64Array): boolean {
  const u1 = draws[1]!
  const u2 = draws[2]!
  const share = lights.mapPower / lit.sum
  const { width, height, rgb, rows, columns } = lights.map!
  const y = find(rows, 0, height, u1)
  const o = y * (width + 1)
  const x = find(columns, o, width, u2)
  const pr = rows[y + 1]! - rows[y]!
  const pc = columns[o + x + 1]! - columns[o + x]!
  if (!(pr > 0 && pc > 0)) return false
  const v = (y + (u1 - rows[y]!) / pr) / height
  const u = (x + (u2 - columns[o + x]!) / pc) / width
  const theta = Math.PI * v
  const phi = 2 * Math.PI * u - Math.PI
  const s = Math.sin(theta)
  const lx = s * Math.sin(phi)
  const lz = -s * Math.cos(phi)
  lit.x = lights.cos * lx + lights.sin * lz
  lit.y = Math.cos(theta)
  lit.z = -lights.sin * lx + lights.cos * lz
  lit.distance = Infinity
  lit.pdf = (share * pr * pc * width * height) / (2 * Math.PI * Math.PI * Math.max(s, 1e-9))
  const i = (y * width + x) * 3
  const e = lights.environment
  lit.r = rgb[i]! * e[0]
  lit.g = rgb[i + 1]! * e[1]
  lit.b = rgb[i + 2]! * e[2]
  return true
}

/**
 * Radiance of the environment in a direction into {@link lit}; `lit.pdf` is the density with which {@link
 * sampleLight} would draw it, given `lit.sum` of the ray's origin. Lookup and sampling agree: the picture is
 * piecewise constant. u = ½ looks along −z, u grows towards +x.
 */
export function environmentRadiance(lights: Lights, direction: Float64Array, at: number): void {
  const sum = lit.sum
  const dx = direction[at]!
  const dy = direction[at + 1]!
  const dz = direction[at + 2]!
  const e = lights.environment
  const map = lights.map
  if (!map) {
    lit.r = e[0]
    lit.g = e[1]
    lit.b = e[2]
    lit.pdf = 0
    return
  }
  const lx = lights.cos * dx - lights.sin * dz
  const lz = lights.sin * dx + lights.cos * dz
  const v = Math.acos(dy < -1 ? -1 : dy > 1 ? 1 : dy) / Math.PI
  const u = (Math.atan2(lx, -lz) + Math.PI) / (2 * Math.PI)
  const x = Math.min(map.width - 1, Math.floor(u * map.width))
  const y = Math.min(map.height - 1, Math.floor(v * map.height))
  const i = (y * map.width + x) * 3
  lit.r = map.rgb[i]! * e[0]
  lit.g = map.rgb[i + 1]! * e[1]
  lit.b = map.rgb[i + 2]! * e[2]
  const o = y * (map.width + 1)
  const p = (map.rows[y + 1]! - map.rows[y]!) * (map.columns[o + x + 1]! - map.columns[o + x]!)
  lit.pdf =
    sum > 0
      ? ((lights.mapPower / sum) * p * map.width * map.height) /
        (2 * Math.PI * Math.PI * Math.max(Math.sqrt(Math.max(0, 1 - dy * dy)), 1e-9))
      : 0
}
