/** Jenkins' lookup3 hash of whole numbers, as the standard's noises have it (MaterialX 1.39 pattern nodes). */
const SEED1 = (0xdeadbeef + (1 << 2) + 13) | 0
const SEED2 = (0xdeadbeef + (2 << 2) + 13) | 0
const SEED3 = (0xdeadbeef + (3 << 2) + 13) | 0
const SEED4 = (0xdeadbeef + (4 << 2) + 13) | 0

/** lookup3's final mix (Jenkins 2006). */
function final(a: number, b: number, c: number): number {
  c = ((c ^ b) - ((b << 14) | (b >>> 18))) | 0
  a = ((a ^ c) - ((c << 11) | (c >>> 21))) | 0
  b = ((b ^ a) - ((a << 25) | (a >>> 7))) | 0
  c = ((c ^ b) - ((b << 16) | (b >>> 16))) | 0
  a = ((a ^ c) - ((c << 4) | (c >>> 28))) | 0
  b = ((b ^ a) - ((a << 14) | (a >>> 18))) | 0
  return ((c ^ b) - ((b << 24) | (b >>> 8))) | 0
}

export const hash1 = (x: number): number => final((SEED1 + x) | 0, SEED1, SEED1)
export const hash2 = (x: number, y: number): number => final((SEED2 + x) | 0, (SEED2 + y) | 0, SEED2)
export const hash3 = (x: number, y: number, z: number): number =>
  final((SEED3 + x) | 0, (SEED3 + y) | 0, (SEED3 + z) | 0)

export function hash4(x: number, y: number, z: number, w: number): number {
  let a = (SEED4 + x) | 0
  let b = (SEED4 + y) | 0
  let c = (SEED4 + z) | 0
  a = ((a - c) ^ ((c << 4) | (c >>> 28))) | 0
  c = (c + b) | 0
  b = ((b - a) ^ ((a << 6) | (a >>> 26))) | 0
  a = (a + c) | 0
  c = ((c - b) ^ ((b << 8) | (b >>> 24))) | 0
  b = (b + a) | 0
  a = ((a - c) ^ ((c << 16) | (c >>> 16))) | 0
  c = (c + b) | 0
  b = ((b - a) ^ ((a << 19) | (a >>> 13))) | 0
  a = (a + c) | 0
  c = ((c - b) ^ ((b << 4) | (b >>> 28))) | 0
  b = (b + a) | 0
  return final((a + w) | 0, b, c)
}

const TO_UNIT = 1 / 4294967295
/** A hash as a number 0..1. */
export const unit = (h: number): number => (h >>> 0) * TO_UNIT
