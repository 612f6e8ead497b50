import { acescgToRec709, decodeSRGB, displayP3ToRec709 } from '../colour/rgb'
import { memory } from '../expression/memory'

const { result } = memory

/**
 * An image ready for look-ups: four components a pixel, row 0 at the top (v = 1). Eight-bit images keep their
 * bytes and decode through a table; all others are float32. All are linear after decoding.
 */
export interface Texture {
  width: number
  height: number
  /** RGBA, either bytes (decoded by `table`) or linear float32. */
  data: Uint8Array | Uint8ClampedArray | Float32Array
  /** Linear value of each byte; null for float data. */
  table: Float32Array | null
}

const LINEAR = Float32Array.from({ length: 256 }, (_, i) => i / 255)
const SRGB = LINEAR.map(decodeSRGB)
const GAMMA22 = LINEAR.map(x => x ** 2.2)
const GAMMA18 = LINEAR.map(x => x ** 1.8)

/** Colour spaces by the standard's names that images and colours may be in. */
export const COLOUR_SPACES = [
  'srgb_texture',
  'lin_rec709',
  'raw',
  'acescg',
  'lin_ap1',
  'srgb_displayp3',
  'lin_displayp3',
  'gamma22',
  'gamma18',
  'g22_rec709',
  'g18_rec709',
  'none',
] as const

const curveOf = (space: string): Float32Array =>
  space === 'srgb_texture' || space === 'srgb_displayp3'
    ? SRGB
    : space === 'gamma22' || space === 'g22_rec709'
      ? GAMMA22
      : space === 'gamma18' || space === 'g18_rec709'
        ? GAMMA18
        : LINEAR

/** Primaries of a space other than Rec.709, as a conversion of linear values. */
const primariesOf = (space: string) =>
  space === 'acescg' || space === 'lin_ap1'
    ? acescgToRec709
    : space.endsWith('displayp3')
      ? displayP3ToRec709
      : undefined

/**
 * Turns a colour written in a space into linear Rec.709. Spaces with unknown names are taken as linear Rec.709;
 * the checks report them.
 */
export function toWorkingSpace(rgb: readonly number[], space: string | undefined): number[] {
  if (!space) return [...rgb]
  const decode = space === 'srgb_texture' || space === 'srgb_displayp3' ? decodeSRGB : (x: number) => x
  const power = space.includes('22') ? 2.2 : space.includes('18') && space !== 'lin_rec709' ? 1.8 : 1
  const linear = rgb.slice(0, 3).map(x => (power === 1 ? decode(x) : Math.max(0, x) ** power))
  return [...(primariesOf(space)?.(linear) ?? linear), ...rgb.slice(3)]
}

/**
 * Prepares a decoded image for look-ups in a colour space.
 * @param data RGBA; bytes, or floats that are already linear in the space's primaries
 * @param space one of {@link COLOUR_SPACES}; data images are 'raw'
 */
export function createTexture(
  width: number,
  height: number,
  data: Uint8Array | Uint8ClampedArray | Float32Array,
  space: string,
): Texture {
  const primaries = primariesOf(space)
  if (data instanceof Float32Array) {
    if (!primaries) return { width, height, data, table: null }
    return { width, height, data: converted(data, primaries), table: null }
  }
  const table = curveOf(space)
  if (!primaries) return { width, height, data, table }
  return {
    width,
    height,
    data: converted(
      Float32Array.from(data, (x, i) => (i % 4 === 3 ? x / 255 : table[x]!)),
      primaries,
    ),
    table: null,
  }
}

function converted(source: Float32Array, primaries: (rgb: ArrayLike<number>) => number[]): Float32Array {
  const out = new Float32Array(source)
  for (let i = 0; i < out.length; i += 4) out.set(primaries(out.subarray(i, i + 3)), i)
  return out
}

/**
 * Wraps an integer pixel coordinate; −1 where the constant mode leaves the image. Modes: 0 constant, 1 clamp, 2
 * periodic, 3 mirror.
 */
function wrap(i: number, n: number, mode: number): number {
  if (i >= 0 && i < n) return i
  if (mode === 2) {
    const r = i % n
    return r < 0 ? r + n : r
  }
  if (mode === 1) return i < 0 ? 0 : n - 1
  if (mode === 3) {
    let r = i % (2 * n)
    if (r < 0) r += 2 * n
    return r < n ? r : 2 * n - 1 - r
  }
  return -1
}

/**
 * Looks up an image at (u, v), v running up, into `memory.result`.
 * @param closest 1: nearest pixel instead of bilinear
 * @param d0 default outside the image in the constant mode, and where the image is missing
 */
export function lookUp(
  image: Texture | null,
  u: number,
  v: number,
  modeU: number,
  modeV: number,
  closest: number,
  d0: number,
  d1: number,
  d2: number,
  d3: number,
): void {
  if (
    image === null ||
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
  const { width, height, data, table } = image
  let x = u * width
  let y = (1 - v) * height
  if (closest === 1) {
    const i = wrap(Math.floor(x), width, modeU || 1)
    const j = wrap(Math.floor(y), height, modeV || 1)
    const o = (j * width + i) * 4
    for (let k = 0; k < 4; k++)
      result[k] = table === null ? data[o + k]! : k === 3 ? data[o + 3]! / 255 : table[data[o + k]!]!
    return
  }
  x -= 0.5
  y -= 0.5
  const fx = Math.floor(x)
  const fy = Math.floor(y)
  const s = x - fx
  const t = y - fy
  const i0 = wrap(fx, width, modeU || 1)
  const i1 = wrap(fx + 1, width, modeU || 1)
  const j0 = wrap(fy, height, modeV || 1) * width
  const j1 = wrap(fy + 1, height, modeV || 1) * width
  const a = (j0 + i0) * 4
  const b = (j0 + i1) * 4
  const c = (j1 + i0) * 4
  const d = (j1 + i1) * 4
  for (let k = 0; k < 4; k++) {
    let pa = data[a + k]!
    let pb = data[b + k]!
    let pc = data[c + k]!
    let pd = data[d + k]!
    if (table !== null) {
      if (k === 3) {
        pa /= 255
        pb /= 255
        pc /= 255
        pd /= 255
      } else {
        pa = table[pa]!
        pb = table[pb]!
        pc = table[pc]!
        pd = table[pd]!
      }
    }
    const top = pa + (pb - pa) * s
    const bottom = pc + (pd - pc) * s
    result[k] = top + (bottom - top) * t
  }
}
