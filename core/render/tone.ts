/**
 * Khronos PBR Neutral tone mapping (Khronos Group 2024, the specification's listing): colours up to about 0.8 stay
 * as they are but for a small toe, what lies above is compressed towards white and loses saturation. For display
 * only.
 */
const START = 0.8 - 0.04
const DESATURATION = 0.15

/** Maps the linear colour in `c` (three numbers) in place. */
export function toneNeutral(c: Float64Array): void {
  const least = Math.min(c[0]!, c[1]!, c[2]!)
  const offset = least < 0.08 ? least - 6.25 * least * least : 0.04
  for (let k = 0; k < 3; k++) c[k]! -= offset
  const peak = Math.max(c[0]!, c[1]!, c[2]!)
  if (peak < START) return
  const d = 1 - START
  const newPeak = 1 - (d * d) / (peak + d - START)
  const g = 1 - 1 / (DESATURATION * (peak - newPeak) + 1)
  for (let k = 0; k < 3; k++) c[k] = ((c[k]! * newPeak) / peak) * (1 - g) + newPeak * g
}
