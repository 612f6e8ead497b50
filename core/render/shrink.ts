/**
 * A picture made smaller by a box filter: every pixel falls into one small pixel.
 * @param rgb linear floats, three a pixel
 * @param most pixels of the longer side at most; a smaller picture stays as it is
 */
export function shrink(
  rgb: ArrayLike<number>,
  width: number,
  height: number,
  most: number,
): { width: number; height: number; rgb: Float32Array } {
  const scale = Math.min(1, most / Math.max(width, height))
  const w = Math.max(1, Math.round(width * scale))
  const h = Math.max(1, Math.round(height * scale))
  const small = new Float32Array(w * h * 3)
  const count = new Float32Array(w * h)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const o = Math.min(h - 1, Math.floor(y * scale)) * w + Math.min(w - 1, Math.floor(x * scale))
      for (let k = 0; k < 3; k++) small[o * 3 + k]! += rgb[(y * width + x) * 3 + k]!
      count[o]!++
    }
  for (let i = 0; i < small.length; i++) small[i]! /= count[Math.floor(i / 3)]!
  return { width: w, height: h, rgb: small }
}
