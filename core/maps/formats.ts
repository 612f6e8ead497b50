/** Numbers in the formats that maps and files keep them in. */
import { FORMAT } from './slots'

/** Bytes of a number in each format. */
export const BYTES = [1, 2, 2, 4] as const

/** Numbers of a map in their format. */
export type Numbers = Uint8Array | Uint16Array | Float32Array

/** A view of memory in a format. */
export const numbersIn = (format: number, memory: ArrayBufferLike): Numbers =>
  format === FORMAT.byte
    ? new Uint8Array(memory)
    : format === FORMAT.float
      ? new Float32Array(memory)
      : new Uint16Array(memory)

/** Value of a half (IEEE 754 binary16). */
export function fromHalf(h: number): number {
  const sign = h & 0x8000 ? -1 : 1
  const exponent = (h >> 10) & 31
  const fraction = h & 1023
  if (exponent === 0) return sign * fraction * 2 ** -24
  if (exponent === 31) return fraction ? NaN : sign * Infinity
  return sign * (1 + fraction / 1024) * 2 ** (exponent - 15)
}

/** The half nearest to a number, ties to even; what is too large is the largest finite one. */
export function toHalf(x: number): number {
  if (Number.isNaN(x)) return 0x7e00
  if (Math.abs(x) > 65504) return x > 0 ? (x === Infinity ? 0x7c00 : 0x7bff) : x === -Infinity ? 0xfc00 : 0xfbff
  const sign = x < 0 || Object.is(x, -0) ? 0x8000 : 0
  const magnitude = Math.abs(x)
  // steps of the halves around it: of numbers below 2⁻¹⁴ all the same
  const exponent = Math.max(-14, Math.floor(Math.log2(Math.max(magnitude, 2 ** -30))))
  const step = 2 ** (exponent - 10)
  const steps = magnitude / step
  const low = Math.floor(steps)
  const rest = steps - low
  const n = low + (rest > 0.5 || (rest === 0.5 && low % 2 === 1) ? 1 : 0)
  // a carry into the next exponent comes by itself
  return sign | (exponent === -14 && n < 1024 ? n : ((exponent + 14) << 10) + n)
}

let halves: Float32Array | undefined
/** Value of each half. */
export const halfTable = (): Float32Array =>
  (halves ??= Float32Array.from({ length: 65536 }, (_, h) => fromHalf(h)))

/** Cells of 0..1 that bytes are found by. */
const CELLS = 4096
/** The last byte whose value lies below each cell, by curve. */
const cellsOf = new WeakMap<Float32Array, Uint8Array>()

function cells(curve: Float32Array): Uint8Array {
  let known = cellsOf.get(curve)
  if (!known) {
    let byte = 0
    known = Uint8Array.from({ length: CELLS + 1 }, (_, cell) => {
      while (byte < 255 && curve[byte + 1]! <= cell / CELLS) byte++
      return byte
    })
    cellsOf.set(curve, known)
  }
  return known
}

/** Byte whose value is nearest to a number, the larger one of two. */
function nearestByte(curve: Float32Array, below: Uint8Array, x: number): number {
  if (!(x > 0)) return 0
  if (x >= 1) return 255
  let byte = below[Math.floor(x * CELLS)]!
  while (byte < 255 && !(x - curve[byte]! < curve[byte + 1]! - x)) byte++
  return byte
}

/**
 * Writes linear numbers in a format.
 * @param curve of bytes; null for a fourth channel, which is straight
 */
export function encode(format: number, row: Float32Array, curve: Float32Array | null, out: Numbers): void {
  if (format === FORMAT.float) out.set(row)
  else if (format === FORMAT.half) for (let i = 0; i < row.length; i++) out[i] = toHalf(row[i]!)
  else if (format === FORMAT.byte && curve) {
    const below = cells(curve)
    for (let i = 0; i < row.length; i++) out[i] = nearestByte(curve, below, row[i]!)
  } else {
    const whole = format === FORMAT.byte ? 255 : 65535
    for (let i = 0; i < row.length; i++) out[i] = Math.round(Math.min(1, Math.max(0, row[i]!)) * whole)
  }
}
