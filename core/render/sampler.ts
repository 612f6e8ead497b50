/**
 * Owen-scrambled Sobol points, a pure function of (seed, pixel, pass, dimension pair).
 *
 * Each pair of dimensions uses the first two Sobol dimensions (a (0,2)-sequence) with its own shuffle of the index
 * and its own scramble: padding after Burley 2020, "Practical Hash-based Owen Scrambling", JCGT 9(4). The scramble
 * is the Laine–Karras hash in the improved form given there (§5). The second Sobol dimension is the Pascal
 * matrix modulo two, applied in five steps instead of a loop over its bits, and with its rows in reverse order, as
 * the scramble wants it; the test compares it with the direction numbers of Joe & Kuo 2008.
 *
 * The pixels of a block of 64 × 64 draw from the same points, each moved by a digital shift of its own: its rank
 * in a mask without low frequencies, another place of the mask for each dimension, and below that the bits of its
 * hash. What few samples get wrong then differs between neighbours and nearly cancels over a few pixels (after
 * Georgiev & Fajardo 2016, "Blue-noise Dithered Sampling", with shifts by exclusive or as in Heitz & Belcour 2019,
 * which keep the net); taken by itself a pixel's sequence is scrambled as evenly as before. Points are made once a
 * tile: a draw is two look-ups, a seventh of what it cost while each pixel scrambled for itself.
 */
import { hash2 } from './hash'
import { DRAW_PAIRS, memory } from './memory'
import mask from './mask.json'

/** Reverses the bits of a 32-bit integer. */
export function reverseBits(x: number): number {
  x = (x >>> 16) | (x << 16)
  x = ((x & 0x00ff00ff) << 8) | ((x & 0xff00ff00) >>> 8)
  x = ((x & 0x0f0f0f0f) << 4) | ((x & 0xf0f0f0f0) >>> 4)
  x = ((x & 0x33333333) << 2) | ((x & 0xcccccccc) >>> 2)
  return ((x & 0x55555555) << 1) | ((x & 0xaaaaaaaa) >>> 1)
}

function laineKarras(x: number, seed: number): number {
  x = (x ^ Math.imul(x, 0x3d20adea)) | 0
  x = (x + seed) | 0
  x = Math.imul(x, (seed >>> 16) | 1)
  x = (x ^ Math.imul(x, 0x05526c56)) | 0
  return (x ^ Math.imul(x, 0x53a22864)) | 0
}

/**
 * Bits of the second Sobol dimension of an index, in reverse order: the lowest bit is the first behind the point.
 */
export function sobolSecond(index: number): number {
  let x = index
  x ^= x >>> 16
  x ^= (x >>> 8) & 0x00ff00ff
  x ^= (x >>> 4) & 0x0f0f0f0f
  x ^= (x >>> 2) & 0x33333333
  x ^= (x >>> 1) & 0x55555555
  return x
}

/** Largest double below one, so that a sample never reaches 1. */
const TO_UNIT = 1 / 4294967296

/** Side of the mask, pixels, and how its ranks become the first bits of a number. */
const SIDE = 64
const RANK_SHIFT = 20
const LOW = (1 << RANK_SHIFT) - 1
const ranks = Int32Array.from(mask.ranks, r => r << RANK_SHIFT)

const { drawFirst: first, drawSecond: second, lookFirst, lookSecond, madeFor, drawn } = memory
let tile = 0
let tileSeed = 0
let reversedPass = 0

/**
 * Begins a tile: all its pixels draw from the same points until the next call.
 * @param x0, y0 a pixel of it; it must not reach over a multiple of 64
 * @param pass index of the sample, from 0
 */
export function beginDraws(seed: number, x0: number, y0: number, pass: number): void {
  tile = (tile + 1) | 0
  tileSeed = hash2(hash2(seed, Math.floor(x0 / SIDE)), Math.floor(y0 / SIDE))
  reversedPass = reverseBits(pass)
}

/** Where a pixel stands in the mask, for {@link draw2}. */
export const maskPlace = (x: number, y: number): number => ((y & (SIDE - 1)) << 8) | (x & (SIDE - 1))

/**
 * Draws the sample of one pair of dimensions.
 * @param place of the pixel, by {@link maskPlace}
 * @param pixelSeed hash of seed and pixel
 * @param pair index of the dimension pair; beyond 4095 they begin again
 */
export function draw2(place: number, pixelSeed: number, pair: number): void {
  pair &= DRAW_PAIRS - 1
  if (madeFor[pair] !== tile) makePoint(pair)
  const a = place + lookFirst[pair]!
  const b = place + lookSecond[pair]!
  const low = pixelSeed & LOW
  drawn[0] = ((first[pair]! ^ ranks[((a >> 2) & 0xfc0) | (a & 63)]! ^ low) >>> 0) * TO_UNIT
  drawn[1] = ((second[pair]! ^ ranks[((b >> 2) & 0xfc0) | (b & 63)]! ^ low) >>> 0) * TO_UNIT
}

function makePoint(pair: number): void {
  const seed = hash2(tileSeed, pair)
  const look = hash2(seed, pair)
  // Owen shuffle of the index; the scrambles work on reversed bits, and the first dimension is the index with its
  // bits reversed
  const index = reverseBits(laineKarras(reversedPass, seed))
  first[pair] = reverseBits(laineKarras(index, Math.imul(seed, 0x2c1b3c6d) + 0x297a2d39))
  second[pair] = reverseBits(laineKarras(sobolSecond(index), Math.imul(seed, 0x165667b1) + 0x5bd1e995))
  lookFirst[pair] = look & 0x3f3f
  lookSecond[pair] = (look >>> 16) & 0x3f3f
  madeFor[pair] = tile
}
