/**
 * Looking up maps, by where and by how much of them a point stands for.
 *
 * What a point stands for is a parallelogram on the map, given by its two half-sides. Where it is no larger than a
 * pixel the finest level is interpolated as it is. Elsewhere its shorter side says which two levels are mixed, and up
 * to eight looks along its longer side cover it (after Barkans 1997 and the usual practice of hardware: levels by the
 * shorter axis, looks along the longer; from memory); what is longer still takes coarser levels.
 */
import { memory } from '../expression/memory'
import { LEVEL } from './slots'
import { isPaged, placeOf, read, takePaged } from './texel'
import type { Texture } from './texture'

const { result } = memory

/** Numbers of one look. */
const look = new Float64Array(4)

/** Numbers of the four pixels that one is interpolated of. */
const four = new Float64Array(16)

/**
 * Share of each side that is averaged: samples lie all over a pixel and are weighed by its filter, so that averaging
 * all of it would blur twice.
 */
const SHARE = 0.5

/** Most looks for one value. */
const MOST_LOOKS = 8

/**
 * Wraps an integer pixel coordinate. Modes: 1 clamp, 2 periodic, 3 mirror; 0, constant, is clamped within the map,
 * and does not come here from outside.
 */
function wrap(i: number, n: number, mode: number): number {
  if (i >= 0 && i < n) return i
  if (mode === 2) {
    const r = i % n
    return r < 0 ? r + n : r
  }
  if (mode === 3) {
    let r = i % (2 * n)
    if (r < 0) r += 2 * n
    return r < n ? r : 2 * n - 1 - r
  }
  return i < 0 ? 0 : n - 1
}

/** Interpolates a level at (u, v) into {@link look}. */
function interpolate(t: Texture, level: number, u: number, v: number, modeU: number, modeV: number): void {
  const width = t.levels[level * LEVEL.stride + LEVEL.width]!
  const height = t.levels[level * LEVEL.stride + LEVEL.height]!
  const x = u * width - 0.5
  const y = (1 - v) * height - 0.5
  const fx = Math.floor(x)
  const fy = Math.floor(y)
  const s = x - fx
  const r = y - fy
  const i0 = wrap(fx, width, modeU)
  const i1 = wrap(fx + 1, width, modeU)
  const j0 = wrap(fy, height, modeV)
  const j1 = wrap(fy + 1, height, modeV)
  if (isPaged(t, level)) {
    takePaged(t, level, i0, j0, four, 0)
    takePaged(t, level, i1, j0, four, 4)
    takePaged(t, level, i0, j1, four, 8)
    takePaged(t, level, i1, j1, four, 12)
    for (let k = 0; k < t.channels; k++) {
      const top = four[k]! + (four[4 + k]! - four[k]!) * s
      const bottom = four[8 + k]! + (four[12 + k]! - four[8 + k]!) * s
      look[k] = top + (bottom - top) * r
    }
    return
  }
  const a = placeOf(t, level, i0, j0)
  const b = placeOf(t, level, i1, j0)
  const c = placeOf(t, level, i0, j1)
  const d = placeOf(t, level, i1, j1)
  for (let k = 0; k < t.channels; k++) {
    const pa = read(t, level, a + k, k)
    const pc = read(t, level, c + k, k)
    const top = pa + (read(t, level, b + k, k) - pa) * s
    const bottom = pc + (read(t, level, d + k, k) - pc) * s
    look[k] = top + (bottom - top) * r
  }
}

/** Channels that a map does not have: grey in all three, alpha one. */
function fillChannels(t: Texture, numbers: Float64Array): void {
  if (t.channels === 4) return
  if (t.channels === 1) numbers[1] = numbers[2] = numbers[0]!
  numbers[3] = 1
}

/** Adds a share of a level, or of two that it lies between, to the result. */
function addLook(
  t: Texture,
  level: number,
  u: number,
  v: number,
  modeU: number,
  modeV: number,
  share: number,
): void {
  const low = Math.min(t.count - 1, Math.floor(level))
  const mixed = low < t.count - 1 ? level - low : 0
  interpolate(t, low, u, v, modeU, modeV)
  for (let k = 0; k < t.channels; k++) result[k]! += share * (1 - mixed) * look[k]!
  if (!(mixed > 0)) return
  interpolate(t, low + 1, u, v, modeU, modeV)
  for (let k = 0; k < t.channels; k++) result[k]! += share * mixed * look[k]!
}

/**
 * Looks up a map at (u, v), v running up, into `memory.result`.
 * @param modeU address mode: 0 constant, 1 clamp, 2 periodic, 3 mirror
 * @param closest 1: the nearest pixel of the finest level, whatever the point stands for
 * @param d0 default outside of the map in the constant mode, and where the map is missing
 * @param ux half of the first side of what the point stands for, in u and v
 * @param uy half of the second side
 */
export function lookUp(
  t: Texture | null,
  u: number,
  v: number,
  modeU: number,
  modeV: number,
  closest: number,
  d0: number,
  d1: number,
  d2: number,
  d3: number,
  ux: number,
  vx: number,
  uy: number,
  vy: number,
): void {
  if (
    t === null ||
    !(u - u === 0 && v - v === 0) ||
    (modeU === 0 && (u < 0 || u > 1)) ||
    (modeV === 0 && (v < 0 || v > 1))
  ) {
    result[0] = d0
    result[1] = d1
    result[2] = d2
    result[3] = d3
    return
  }
  if (closest === 1) {
    const i = wrap(Math.floor(u * t.width), t.width, modeU)
    const j = wrap(Math.floor((1 - v) * t.height), t.height, modeV)
    if (isPaged(t, 0)) takePaged(t, 0, i, j, result, 0)
    else {
      const at = placeOf(t, 0, i, j)
      for (let k = 0; k < t.channels; k++) result[k] = read(t, 0, at + k, k)
    }
    fillChannels(t, result)
    return
  }
  const ax = 2 * SHARE * ux * t.width
  const ay = 2 * SHARE * vx * t.height
  const bx = 2 * SHARE * uy * t.width
  const by = 2 * SHARE * vy * t.height
  const a2 = ax * ax + ay * ay
  const b2 = bx * bx + by * by
  const long2 = Math.max(a2, b2)
  if (!(long2 > 1) || long2 === Infinity) {
    interpolate(t, 0, u, v, modeU, modeV)
    result[0] = look[0]!
    result[1] = look[1]!
    result[2] = look[2]!
    result[3] = look[3]!
    fillChannels(t, result)
    return
  }
  const long = Math.sqrt(long2)
  const short = Math.abs(ax * by - ay * bx) / long
  const width = Math.max(1, short, long / MOST_LOOKS)
  const looks = Math.ceil(long / width - 1e-6)
  const level = Math.log2(width)
  const du = SHARE * (a2 >= b2 ? ux : uy)
  const dv = SHARE * (a2 >= b2 ? vx : vy)
  result.fill(0)
  for (let n = 0; n < looks; n++) {
    const along = (2 * n + 1) / looks - 1
    addLook(t, level, u + along * du, v + along * dv, modeU, modeV, 1 / looks)
  }
  fillChannels(t, result)
}
