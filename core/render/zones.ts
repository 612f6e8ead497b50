/**
 * Exposure in zones: luminance by whole stops from mid grey (18 %), a colour a stop. Common practice; the colours
 * are ours, light where the zone is light.
 */

/** Stops of the darkest and of the lightest zone; each takes in all beyond it. */
export const ZONE_FIRST = -6
export const ZONE_LAST = 3
/** sRGB bytes of each zone from the darkest on. */
export const ZONES: readonly (readonly [number, number, number])[] = [
  [38, 20, 58],
  [52, 40, 110],
  [40, 74, 148],
  [30, 112, 150],
  [44, 146, 122],
  [92, 168, 84],
  [142, 142, 142],
  [214, 186, 74],
  [232, 132, 62],
  [250, 226, 226],
]

/** Zone of a linear Rec.709 luminance, 0 the darkest. Mid grey lies in the middle of its zone. */
export function zoneOf(luminance: number): number {
  const stop = Math.round(Math.log2((luminance > 1e-9 ? luminance : 1e-9) / 0.18))
  return Math.min(ZONE_LAST, Math.max(ZONE_FIRST, stop)) - ZONE_FIRST
}

/** Writes a pixel's zone colour. */
export function putZone(out: Uint8ClampedArray, p: number, r: number, g: number, b: number): void {
  const c = ZONES[zoneOf(0.2126 * r + 0.7152 * g + 0.0722 * b)]!
  out[p] = c[0]
  out[p + 1] = c[1]
  out[p + 2] = c[2]
}
