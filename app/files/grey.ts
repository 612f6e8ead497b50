import type { Picture } from '../../core/formats/pictures/picture'

/** Most places of a picture that are looked at. */
const PLACES = 4096
/** How far components of grey differ at most, as a share of white: blocks of lossy files do so by some steps of 255. */
const NEAR = 6 / 255

/** Whether a picture (RGBA) holds no colour, wherever it is looked at. */
export function isGrey({ data, width, height }: Picture): boolean {
  const floats = data instanceof Float32Array
  const step = Math.max(1, Math.floor((width * height) / PLACES))
  for (let p = 0; p < width * height; p += step) {
    const [r, g, b] = data.subarray(p * 4, p * 4 + 3) as unknown as [number, number, number]
    const high = Math.max(r, g, b)
    if (high - Math.min(r, g, b) > NEAR * (floats ? Math.max(1, high) : 255)) return false
  }
  return true
}
