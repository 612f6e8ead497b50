/**
 * From film to screen: exposure, sRGB encoding, clipping mark, and edge-aware scaling of coarse pictures while the first full pass is under way.
 * A coarse pixel counts for a full one as far as both see the same part under a like normal (joint bilateral upsampling, Kopf et al. 2007);
 * without a valid full-size guide it is plain bilinear. Tried: guides re-traced for every change, 40 ms too late; nearest coarse pixel of the same part, jagged.
 */
import { encodeSRGB } from '../colour/rgb'
import { tilesAcross, type Film, type Level } from './film'
import { TILE } from './integrate'

const STEPS = 4096
/** Encoded byte by the square root of the linear value: even steps where the eye needs them. */
const BYTE = Uint8Array.from({ length: STEPS + 1 }, (_, i) => Math.round(255 * encodeSRGB((i / STEPS) ** 2)))

/** Linear value to sRGB byte, clipped to 0..1. */
export const toByte = (x: number): number => x > 0 ? BYTE[x < 1 ? Math.sqrt(x) * STEPS + 0.5 | 0 : STEPS]! : 0

export interface DisplayOptions {
  /** Passes count as the current picture only with this epoch. */
  epoch: number
  /** EV. */
  exposure: number
  /** Marks what clips with stripes. */
  clipping: boolean
  /** Finest complete coarse picture; null when there is none. */
  level: Level | null
  /** Whether the film's parts and normals belong to the current camera and model. */
  guided: boolean
}

const mixed = new Float64Array(3)

/** Fills RGBA bytes from a film. @returns share of pixels that clip, 0..1 */
export function develop(film: Film, o: DisplayOptions, out: Uint8ClampedArray): number {
  const { width, height, sum, tiles } = film, across = tilesAcross(width), gain = 2 ** o.exposure
  let clipped = 0
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) {
    const i = y * width + x, tile = (Math.floor(y / TILE) * across + Math.floor(x / TILE)) * 3
    const passes = tiles[tile + 1] === o.epoch ? tiles[tile + 2]! : 0
    let r = 0, g = 0, b = 0
    if (passes > 0) { const k = gain / passes; r = sum[i * 3]! * k; g = sum[i * 3 + 1]! * k; b = sum[i * 3 + 2]! * k }
    else if (o.level) {
      scaled(film, o.level, x, y, o.guided)
      r = mixed[0]! * gain; g = mixed[1]! * gain; b = mixed[2]! * gain
    }
    else continue
    const p = i * 4, over = r > 1.0001 || g > 1.0001 || b > 1.0001
    if (over) clipped++
    if (over && o.clipping) { const s = (x + y >> 2) & 1 ? 255 : 0; out[p] = s; out[p + 1] = s; out[p + 2] = s }
    else { out[p] = toByte(r); out[p + 1] = toByte(g); out[p + 2] = toByte(b) }
    out[p + 3] = 255
  }
  return clipped / (width * height)
}

/** Colour of a full pixel out of a coarse picture, into `mixed`. */
function scaled(film: Film, level: Level, x: number, y: number, guided: boolean): void {
  const fx = (x + 0.5) / film.width * level.width - 0.5, fy = (y + 0.5) / film.height * level.height - 0.5
  const x0 = Math.floor(fx), y0 = Math.floor(fy), i = y * film.width + x
  let r = 0, g = 0, b = 0, total = 0
  for (let dy = 0; dy < 2; dy++) for (let dx = 0; dx < 2; dx++) {
    const lx = Math.min(level.width - 1, Math.max(0, x0 + dx)), ly = Math.min(level.height - 1, Math.max(0, y0 + dy)), j = ly * level.width + lx
    let w = (dx ? fx - x0 : 1 - fx + x0) * (dy ? fy - y0 : 1 - fy + y0) + 1e-4
    if (guided) {
      if (film.part[i] !== level.part[j]) w *= 1e-3
      else {
        const d = film.normal[i * 3]! * level.normal[j * 3]! + film.normal[i * 3 + 1]! * level.normal[j * 3 + 1]! + film.normal[i * 3 + 2]! * level.normal[j * 3 + 2]!
        w *= 0.02 + Math.max(0, d) ** 8
      }
    }
    total += w
    r += w * level.rgb[j * 3]!; g += w * level.rgb[j * 3 + 1]!; b += w * level.rgb[j * 3 + 2]!
  }
  mixed[0] = r / total; mixed[1] = g / total; mixed[2] = b / total
}

/** Develops a kept picture (linear RGB floats) to RGBA bytes. */
export function developPicture(rgb: ArrayLike<number>, exposure: number, out: Uint8ClampedArray): void {
  const gain = 2 ** exposure
  for (let i = 0, p = 0; p < out.length; i += 3, p += 4) {
    out[p] = toByte(rgb[i]! * gain); out[p + 1] = toByte(rgb[i + 1]! * gain); out[p + 2] = toByte(rgb[i + 2]! * gain)
    out[p + 3] = 255
  }
}
