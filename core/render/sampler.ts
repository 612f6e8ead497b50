/**
 * Owen-scrambled Sobol points, a pure function of (seed, pixel, pass, dimension pair).
 *
 * Each pair of dimensions uses the first two Sobol dimensions (a (0,2)-sequence) with its own shuffle of the index and its own
 * scramble: padding after Burley 2020, "Practical Hash-based Owen Scrambling", JCGT 9(4). The scramble is the Laine–Karras hash
 * in the improved form given there (§5). The second Sobol dimension is the Pascal matrix modulo two, applied in five steps
 * instead of a loop over its bits, and with its rows in reverse order, as the scramble wants it; the test compares it with the direction numbers of Joe & Kuo 2008.
 */

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

/** Mixes two integers into one hash (lowbias32 by Wellons, public domain, applied to a sum). */
export function hash2(a: number, b: number): number {
  let x = (a + Math.imul(b, 0x9e3779b9)) | 0
  x = Math.imul(x ^ (x >>> 16), 0x7feb352d)
  x = Math.imul(x ^ (x >>> 15), 0x846ca68b)
  return (x ^ (x >>> 16)) | 0
}

/** Bits of the second Sobol dimension of an index, in reverse order: the lowest bit is the first behind the point. */
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

/** The two numbers that {@link draw2} made last, each in [0, 1). */
export const drawn = new Float64Array(2)

let lastPass = 0, lastReversed = 0
/** The pass with its bits reversed: a tile asks for the same one a thousand times. */
function reversedPass(pass: number): number {
  if (pass !== lastPass) { lastPass = pass; lastReversed = reverseBits(pass) }
  return lastReversed
}

/**
 * Draws the sample of one pair of dimensions.
 * @param pixelSeed hash of seed and pixel
 * @param pass index of the sample, from 0
 * @param pair index of the dimension pair
 */
export function draw2(pixelSeed: number, pass: number, pair: number): void {
  const seed = hash2(pixelSeed, pair)
  // Owen shuffle of the index; the scrambles work on reversed bits, and the first dimension is the index with its bits reversed
  const index = reverseBits(laineKarras(reversedPass(pass), seed))
  const a = laineKarras(index, Math.imul(seed, 0x2c1b3c6d) + 0x297a2d39)
  const b = laineKarras(sobolSecond(index), Math.imul(seed, 0x165667b1) + 0x5bd1e995)
  drawn[0] = (reverseBits(a) >>> 0) * TO_UNIT
  drawn[1] = (reverseBits(b) >>> 0) * TO_UNIT
}
