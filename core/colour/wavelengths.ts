/**
 * Choice of the four wavelengths of a path, and their way back to Rec.709.
 *
 * The grid is cut into SLOTS equal slots of probability; slot s stands for the nanometre slotIndex[s]. A path
 * draws one u in [0, 1) and takes the slots (u + i)/4, so its four wavelengths stratify the spectrum. The density
 * follows the magnitude of the RGB matching curves under D65. Radiance along a path is kept relative to D65, so
 * that RGB emission is the plain combination of the three curves of `upsample.ts`.
 *
 * With weights W (3×4) an estimate from the spectral values f alone is W·f. Its colour noise is tamed without
 * bias by an RGB companion h of the same path as control variate: W·f + h − W·(Bᵀh), where B holds the three
 * curves at the four wavelengths. E[W·Bᵀ] is the identity by construction of the curves. Measured on the scene
 * of `benchmark paths`: docs/performance.md.
 */
import { GRID_SIZE } from './grid'
import { d65, reflectanceScale, xBar, yBar, zBar } from './observer'
import { xyzToRec709 } from './rgb'
import { basisB, basisG, basisR } from './upsample'

export const SLOTS = 4096
/** Number of wavelengths a path carries. */
export const LANES = 4

/** Rec.709 response to unit power relative to D65 at each nanometre; sums to (1, 1, 1) over the grid. */
export const responseRGB = [0, 1, 2].map(c =>
  xBar.map(
    (_, i) =>
      d65[i]! *
      reflectanceScale *
      (xyzToRec709[c]![0] * xBar[i]! + xyzToRec709[c]![1] * yBar[i]! + xyzToRec709[c]![2] * zBar[i]!),
  ),
) as [Float64Array, Float64Array, Float64Array]

/** How many of the SLOTS fall on each nanometre: at least one, in proportion to the response otherwise. */
function slotCounts(): Int32Array {
  const magnitude = responseRGB[0].map(
    (r, i) => Math.abs(r) + Math.abs(responseRGB[1][i]!) + Math.abs(responseRGB[2][i]!),
  )
  const total = magnitude.reduce((a, b) => a + b, 0)
  const free = SLOTS - GRID_SIZE
  const ideal = magnitude.map(m => (m / total) * free)
  const counts = Int32Array.from(ideal, x => 1 + Math.floor(x))
  const order = Array.from(ideal, (x, i) => ({ i, rest: x - Math.floor(x) })).sort((a, b) => b.rest - a.rest)
  let left = SLOTS - counts.reduce((a, b) => a + b, 0)
  for (let k = 0; left > 0; k++, left--) counts[order[k]!.i]!++
  return counts
}

/** Grid index of every slot. */
export const slotIndex = new Int32Array(SLOTS)
/**
 * Per grid index: three curves B then three weights W; W already divides by density and by the number of lanes.
 * Small enough for the first cache; a table by slot was not.
 */
export const laneTable = new Float64Array(GRID_SIZE * 6)

{
  let s = 0
  slotCounts().forEach((count, i) => {
    slotIndex.fill(i, s, s + count)
    s += count
    const inverseDensity = SLOTS / count / LANES
    laneTable.set(
      [
        basisR[i]!,
        basisG[i]!,
        basisB[i]!,
        responseRGB[0][i]! * inverseDensity,
        responseRGB[1][i]! * inverseDensity,
        responseRGB[2][i]! * inverseDensity,
      ],
      i * 6,
    )
  })
}

/** Grid index of lane `lane` for a draw u in [0, 1). */
export function gridIndexOf(u: number, lane: number): number {
  return slotIndex[((u + lane) * (SLOTS / LANES)) | 0]!
}
