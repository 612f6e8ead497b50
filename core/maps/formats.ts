/** How the numbers of a map are kept: as its file has them. */
export const FORMAT = { byte: 0, sixteen: 1, half: 2, float: 3 } as const

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

const word = new Float32Array(1)
const bits = new Uint32Array(word.buffer)

/** Value of a half (IEEE 754 binary16). */
function fromHalf(h: number): number {
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
  word[0] = x
  const sign = (bits[0]! >>> 16) & 0x8000
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
