import { balanced, type Balance } from '../colour/balance'
import { comparePictures } from './compare'

/**
 * A picture of linear Rec.709 floats, three a pixel, and the exposure (EV) and white balance with which it is
 * looked at.
 */
export interface Linear {
  width: number
  height: number
  rgb: Float32Array
  exposure: number
  balance?: Balance | null
}

/** ΔE that a map draws white. */
export const MAP_WHITE = 10

/** Pixel of a picture that lies at (x, y) of a w × h frame when it is fitted and centred there; −1 beside it. */
function fitted(p: Linear, w: number, h: number, x: number, y: number): number {
  const k = Math.min(w / p.width, h / p.height)
  const px = Math.floor((x + 0.5 - (w - p.width * k) / 2) / k)
  const py = Math.floor((y + 0.5 - (h - p.height * k) / 2) / k)
  return px < 0 || py < 0 || px >= p.width || py >= p.height ? -1 : py * p.width + px
}

/**
 * CIEDE2000 of two pictures fitted into one frame, pixel by pixel, each clipped to what a display shows at its
 * exposure.
 * @returns grey RGBA bytes (0 black, {@link MAP_WHITE} and above white, transparent where only one picture lies),
 * and the mean and 95th percentile where both do
 */
export function differenceMap(
  a: Linear,
  b: Linear,
  w: number,
  h: number,
): { bytes: Uint8ClampedArray; mean: number; p95: number } {
  const bytes = new Uint8ClampedArray(w * h * 4)
  const places: number[] = []
  const seenA: number[] = []
  const seenB: number[] = []
  const look = (p: Linear, i: number, into: number[]) => {
    for (const x of balanced(p.balance, p.rgb.subarray(i * 3, i * 3 + 3)))
      into.push(Math.min(1, Math.max(0, x * 2 ** p.exposure)))
  }
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = fitted(a, w, h, x, y)
      const j = fitted(b, w, h, x, y)
      if (i < 0 || j < 0) continue
      places.push((y * w + x) * 4)
      look(a, i, seenA)
      look(b, j, seenB)
    }
  if (!places.length) return { bytes, mean: 0, p95: 0 }
  const deltas = new Float32Array(places.length)
  const { mean, p95 } = comparePictures(seenA, seenB, deltas).deltaE2000
  places.forEach((o, n) => {
    bytes.fill((deltas[n]! / MAP_WHITE) * 255, o, o + 3)
    bytes[o + 3] = 255
  })
  return { bytes, mean, p95 }
}
