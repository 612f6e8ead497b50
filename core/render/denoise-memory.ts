/**
 * Where a denoiser's pictures lie: planes of single numbers, one pixel after the other, in one memory that hands
 * and kernels share. Between planes lie zeros enough for every tap of the wavelet, so that no loop asks for
 * borders.
 */

/** Distances of the taps of each level, pixels. */
export const STEPS_APART = [3, 2, 1]

/**
 * Number of a plane, or of the first of several: red, green, blue, luminance; normal x, y, z; the likeness of
 * pairs in four directions a level.
 */
export const PLANE = {
  colour: 0,
  next: 4,
  variance: 8,
  nextVariance: 9,
  albedo: 10,
  normal: 13,
  spread: 16,
  light: 17,
  doubt: 18,
  near: 19,
} as const
const PLANES = PLANE.near + 4 * STEPS_APART.length

/** Memory of a denoiser for pictures of one size. */
export interface DenoiseMemory {
  width: number
  height: number
  /** Null where WebAssembly cannot share its memory. */
  memory: WebAssembly.Memory | null
  words: Float32Array
  /** Words from a plane to the next. */
  plane: number
}

const PAGE = 65536

/** Words before the first plane and between two: the farthest tap, and the width of a vector. */
const gap = (width: number): number => Math.ceil((Math.max(...STEPS_APART) * (width + 1) + 4) / 4) * 4

/**
 * Makes memory for pictures of one size: 31 words a pixel.
 * @param allocate used where WebAssembly cannot share its memory
 */
export function createDenoiseMemory(
  width: number,
  height: number,
  allocate: (bytes: number) => ArrayBufferLike = n => new ArrayBuffer(n),
): DenoiseMemory {
  const plane = Math.ceil((width * height) / 4) * 4 + gap(width)
  const words = gap(width) + PLANES * plane
  try {
    const pages = Math.ceil((words * 4) / PAGE)
    const memory = new WebAssembly.Memory({ initial: pages, maximum: pages, shared: true })
    return { width, height, memory, words: new Float32Array(memory.buffer, 0, words), plane }
  } catch {
    return { width, height, memory: null, words: new Float32Array(allocate(words * 4)), plane }
  }
}

/** Word of the first pixel of a plane. */
export const planeAt = (m: DenoiseMemory, number: number): number => gap(m.width) + number * m.plane
