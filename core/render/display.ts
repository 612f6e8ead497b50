/**
 * From film to screen: exposure, sRGB encoding, clipping mark, and edge-aware scaling of coarse pictures while the
 * first full pass is under way. A coarse pixel counts for a full one as far as both see the same part under a like
 * normal (joint bilateral upsampling, Kopf et al. 2007); without a valid full-size guide it is plain bilinear.
 * Cells whose corners agree take the plain path. Measured at 783 × 480: 95 ms weighing every pixel, see below for
 * now; a picture of full passes 13 ms. Tried: nearest coarse pixel of the same part, jagged.
 */
import type { Balance } from '../colour/balance'
import { encodeSRGB } from '../colour/rgb'
import { toneNeutral } from './tone'
import { putZone } from './zones'
import { lockTile, tilePasses, TILE, tilesAcross, unlockTile, type Film, type Level } from './film'

const STEPS = 4096
/** Encoded byte by the square root of the linear value: even steps where the eye needs them. */
const BYTE = Uint8Array.from({ length: STEPS + 1 }, (_, i) => Math.round(255 * encodeSRGB((i / STEPS) ** 2)))

/** Linear value to sRGB byte, clipped to 0..1. */
export const toByte = (x: number): number => (x > 0 ? BYTE[x < 1 ? (Math.sqrt(x) * STEPS + 0.5) | 0 : STEPS]! : 0)

export interface DisplayOptions {
  /** Passes count as the current picture only with this epoch. */
  epoch: number
  /** EV. */
  exposure: number
  /** White balance; left out for none. */
  balance?: Balance | null
  /** Marks what clips with stripes. */
  clipping: boolean
  /** Compresses what is bright (Khronos PBR Neutral) instead of clipping it. */
  neutral?: boolean
  /** Shows exposure in zones instead of the picture. */
  zones?: boolean
  /** Finest complete coarse picture; null when there is none. */
  level: Level | null
  /** Parts to draw, by number; the others stay transparent. Only with a valid guide. */
  only?: Uint8Array | null
  /** A denoised picture that stands in for the passes, four a pixel. */
  denoised?: Float32Array | null
  /** Whether the film's parts and normals belong to the current camera and model. */
  guided: boolean
}

/**
 * Fills RGBA bytes from a film. Where tiles have no full pass yet the coarse picture stands in.
 * @returns share of pixels that clip, 0..1
 */
export function develop(film: Film, o: DisplayOptions, out: Uint8ClampedArray): number {
  const { width, height, sum } = film
  const across = tilesAcross(width)
  const gain = 2 ** o.exposure
  const coarse = o.level ? prepareLevel(o.level, width, height) : null
  const m = o.balance ?? null
  let clipped = 0
  for (let ty = 0; ty * TILE < height; ty++)
    for (let tx = 0; tx < across; tx++) {
      const tile = ty * across + tx
      lockTile(film, tile)
      const passes = tilePasses(film, tile, o.epoch)
      const x0 = tx * TILE
      const x1 = Math.min(width, x0 + TILE)
      const y1 = Math.min(height, ty * TILE + TILE)
      const k = passes > 0 ? gain / passes : gain
      if (passes === 0 && !coarse) {
        unlockTile(film, tile)
        continue
      }
      for (let y = ty * TILE; y < y1; y++)
        for (let x = x0; x < x1; x++) {
          const i = y * width + x
          const p = i * 4
          let r
          let g
          let b
          if (o.denoised && passes > 0) {
            r = o.denoised[p]! * gain
            g = o.denoised[p + 1]! * gain
            b = o.denoised[p + 2]! * gain
          } else if (passes > 0) {
            r = sum[i * 3]! * k
            g = sum[i * 3 + 1]! * k
            b = sum[i * 3 + 2]! * k
          } else {
            scaled(film, o.level!, coarse!, x, y, o.guided)
            r = mixed[0]! * k
            g = mixed[1]! * k
            b = mixed[2]! * k
          }
          if (m) {
            balance(m, r, g, b)
            r = mixed[0]!
            g = mixed[1]!
            b = mixed[2]!
          }
          const over = r > 1.0001 || g > 1.0001 || b > 1.0001
          if (over) clipped++
          if (o.zones) putZone(out, p, r, g, b)
          else if (o.neutral) putNeutral(out, p, r, g, b)
          else if (over && o.clipping) {
            const s = ((x + y) >> 2) & 1 ? 255 : 0
            out[p] = s
            out[p + 1] = s
            out[p + 2] = s
          } else {
            out[p] = BYTE[r > 0 ? (r < 1 ? (Math.sqrt(r) * STEPS + 0.5) | 0 : STEPS) : 0]!
            out[p + 1] = BYTE[g > 0 ? (g < 1 ? (Math.sqrt(g) * STEPS + 0.5) | 0 : STEPS) : 0]!
            out[p + 2] = BYTE[b > 0 ? (b < 1 ? (Math.sqrt(b) * STEPS + 0.5) | 0 : STEPS) : 0]!
          }
          out[p + 3] = 255
        }
      unlockTile(film, tile)
    }
  return clipped / (width * height)
}

/**
 * A coarse picture with what its scaling needs: for each column and row of the full picture its cell and place in
 * it, and for each cell the part if it is even.
 */
interface Coarse {
  column: Int32Array
  row: Int32Array
  fx: Float32Array
  fy: Float32Array
  /** Part shared by a cell's corners under like normals; −2 where they differ. */ even: Int32Array
}

let kept: { level: Level; width: number; height: number; coarse: Coarse } | undefined

function prepareLevel(level: Level, width: number, height: number): Coarse {
  const lw = level.width
  const lh = level.height
  if (kept?.level !== level || kept.width !== width || kept.height !== height) {
    const axis = (n: number, m: number) => {
      const cell = new Int32Array(n)
      const f = new Float32Array(n)
      for (let i = 0; i < n; i++) {
        const x = Math.min(m - 1, Math.max(0, ((i + 0.5) / n) * m - 0.5))
        const c = Math.min(m - 2, Math.floor(x))
        cell[i] = c
        f[i] = x - c
      }
      return [cell, f] as const
    }
    const [column, fx] = axis(width, lw)
    const [row, fy] = axis(height, lh)
    kept = { level, width, height, coarse: { column, row, fx, fy, even: new Int32Array(lw * lh) } }
  }
  const { even } = kept.coarse
  const { part, normal: n } = level
  for (let y = 0; y < lh - 1; y++)
    for (let x = 0; x < lw - 1; x++) {
      const a = y * lw + x
      const p = part[a]!
      const like = (b: number) =>
        part[b] === p &&
        (p < 0 || n[a * 3]! * n[b * 3]! + n[a * 3 + 1]! * n[b * 3 + 1]! + n[a * 3 + 2]! * n[b * 3 + 2]! > 0.9)
      even[a] = like(a + 1) && like(a + lw) && like(a + lw + 1) ? p : -2
    }
  return kept.coarse
}

const mixed = new Float64Array(3)

/** Writes a colour as Khronos PBR Neutral shows it. */
function putNeutral(out: Uint8ClampedArray, p: number, r: number, g: number, b: number): void {
  mixed[0] = r
  mixed[1] = g
  mixed[2] = b
  toneNeutral(mixed)
  out[p] = toByte(mixed[0]!)
  out[p + 1] = toByte(mixed[1]!)
  out[p + 2] = toByte(mixed[2]!)
}

/** A balanced colour, into `mixed`. */
function balance(m: Balance, r: number, g: number, b: number): void {
  mixed[0] = m[0]! * r + m[1]! * g + m[2]! * b
  mixed[1] = m[3]! * r + m[4]! * g + m[5]! * b
  mixed[2] = m[6]! * r + m[7]! * g + m[8]! * b
}

const weight = new Float64Array(4)

/** Colour of a full pixel out of a coarse picture, into `mixed`. */
function scaled(film: Film, level: Level, c: Coarse, x: number, y: number, guided: boolean): void {
  const lw = level.width
  const rgb = level.rgb
  const a = c.row[y]! * lw + c.column[x]!
  const s = c.fx[x]!
  const t = c.fy[y]!
  let w0 = (1 - s) * (1 - t)
  let w1 = s * (1 - t)
  let w2 = (1 - s) * t
  let w3 = s * t
  if (guided) {
    const i = y * film.width + x
    const p = film.part[i]!
    if (c.even[a] !== p) {
      weight[0] = w0 + 1e-4
      weight[1] = w1 + 1e-4
      weight[2] = w2 + 1e-4
      weight[3] = w3 + 1e-4
      let total = 0
      for (let k = 0; k < 4; k++) {
        const j = a + (k & 1) + (k >> 1) * lw
        if (level.part[j] !== p) weight[k]! *= 1e-3
        else if (p >= 0) {
          const d = Math.max(
            0,
            film.normal[i * 3]! * level.normal[j * 3]! +
              film.normal[i * 3 + 1]! * level.normal[j * 3 + 1]! +
              film.normal[i * 3 + 2]! * level.normal[j * 3 + 2]!,
          )
          const d2 = d * d
          const d4 = d2 * d2
          weight[k]! *= 0.02 + d4 * d4
        }
        total += weight[k]!
      }
      w0 = weight[0] / total
      w1 = weight[1] / total
      w2 = weight[2] / total
      w3 = weight[3] / total
    }
  }
  const o = a * 3
  const q = o + lw * 3
  mixed[0] = w0 * rgb[o]! + w1 * rgb[o + 3]! + w2 * rgb[q]! + w3 * rgb[q + 3]!
  mixed[1] = w0 * rgb[o + 1]! + w1 * rgb[o + 4]! + w2 * rgb[q + 1]! + w3 * rgb[q + 4]!
  mixed[2] = w0 * rgb[o + 2]! + w1 * rgb[o + 5]! + w2 * rgb[q + 2]! + w3 * rgb[q + 5]!
}

/**
 * Fills RGBA bytes from the coarse picture alone, at half the film's size each way: a quarter of the work for what
 * is shown a blink long.
 * @param out ⌈width/2⌉ · ⌈height/2⌉ pixels
 * @returns share of pixels that clip
 */
export function developCoarse(film: Film, o: DisplayOptions, out: Uint8ClampedArray): number {
  const level = o.level!
  const coarse = prepareLevel(level, film.width, film.height)
  const w = (film.width + 1) >> 1
  const h = (film.height + 1) >> 1
  const gain = 2 ** o.exposure
  const m = o.balance ?? null
  let clipped = 0
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const p = (y * w + x) * 4
      const fx = Math.min(film.width - 1, x * 2)
      const fy = Math.min(film.height - 1, y * 2)
      if (o.only && !o.only[film.part[fy * film.width + fx]!]) {
        out[p + 3] = 0
        continue
      }
      scaled(film, level, coarse, fx, fy, o.guided)
      if (m) balance(m, mixed[0]!, mixed[1]!, mixed[2]!)
      const r = mixed[0]! * gain
      const g = mixed[1]! * gain
      const b = mixed[2]! * gain
      const over = r > 1.0001 || g > 1.0001 || b > 1.0001
      if (over) clipped++
      if (o.zones) putZone(out, p, r, g, b)
      else if (over && o.clipping) {
        const s = ((x + y) >> 1) & 1 ? 255 : 0
        out[p] = s
        out[p + 1] = s
        out[p + 2] = s
      } else if (o.neutral) putNeutral(out, p, r, g, b)
      else {
        out[p] = toByte(r)
        out[p + 1] = toByte(g)
        out[p + 2] = toByte(b)
      }
      out[p + 3] = 255
    }
  return clipped / (w * h)
}

/**
 * Develops a kept picture (linear RGB floats) to RGBA bytes, at an exposure (EV), with a white balance, clipped or
 * compressed.
 */
export function developPicture(
  rgb: ArrayLike<number>,
  exposure: number,
  out: Uint8ClampedArray,
  m: Balance | null = null,
  neutral = false,
): void {
  const gain = 2 ** exposure
  for (let i = 0, p = 0; p < out.length; i += 3, p += 4) {
    let r = rgb[i]! * gain
    let g = rgb[i + 1]! * gain
    let b = rgb[i + 2]! * gain
    if (m) {
      balance(m, r, g, b)
      r = mixed[0]!
      g = mixed[1]!
      b = mixed[2]!
    }
    if (neutral) putNeutral(out, p, r, g, b)
    else {
      out[p] = toByte(r)
      out[p + 1] = toByte(g)
      out[p + 2] = toByte(b)
    }
    out[p + 3] = 255
  }
}
