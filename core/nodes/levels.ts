/** Functions that adjustments call. */
import { memory } from './memory'

const { result } = memory

/** Levels: from inlow..inhigh through a power 1/gamma to outlow..outhigh. */
export function range(
  x: number,
  inLow: number,
  inHigh: number,
  gamma: number,
  outLow: number,
  outHigh: number,
  clamped: number,
): number {
  const t = (x - inLow) / (inHigh - inLow)
  const p = gamma === 1 ? t : Math.sign(t) * Math.pow(Math.abs(t), 1 / gamma)
  const y = outLow + p * (outHigh - outLow)
  return clamped === 0 ? y : Math.min(Math.max(outLow, outHigh), Math.max(Math.min(outLow, outHigh), y))
}

/**
 * Hue 0..1, saturation and value of a colour, into `memory.result` (Smith 1978); without light it has neither hue
 * nor saturation.
 */
export function rgbToHsv(r: number, g: number, b: number): void {
  const v = Math.max(r, g, b)
  const d = v - Math.min(r, g, b)
  const h = d <= 0 ? 0 : v === r ? (g - b) / d / 6 : v === g ? (2 + (b - r) / d) / 6 : (4 + (r - g) / d) / 6
  result[0] = v <= 0 ? 0 : h < 0 ? h + 1 : h
  result[1] = v > 0 ? d / v : 0
  result[2] = v
}

/** Below it the standard's library takes a colour for grey. */
const LEAST_SATURATION = 1e-4

/** Colour of hue (any number, of which the fraction counts), saturation and value, into `memory.result`. */
export function hsvToRgb(h: number, s: number, v: number): void {
  if (s < LEAST_SATURATION) s = 0
  const k = (h - Math.floor(h)) * 6
  for (let i = 0; i < 3; i++) {
    // distance of the hue from the channel's own, in sixths of the circle
    const d = Math.abs(i === 0 ? (k > 3 ? 6 - k : k) : k - 2 * i)
    result[i] = v * (1 - s * Math.min(1, Math.max(0, d - 1)))
  }
}

/** Hermite step: 0 up to low, 1 from high on, which goes before where they are the wrong way round. */
export function smoothstep(x: number, low: number, high: number): number {
  if (x >= high) return 1
  if (x <= low) return 0
  const t = (x - low) / (high - low)
  return t * t * (3 - 2 * t)
}
