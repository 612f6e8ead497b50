/** Means of measured metals in clear matter, at steps of its index: computed when first asked for. */
import { GRID_SIZE } from '../colour/grid'
import { reflectanceToXYZ } from '../colour/observer'
import { transform, xyzToRec709 } from '../colour/rgb'
import { conductorK, conductorN } from '../optics/conductors'
import { fresnelConductor } from '../optics/fresnel'

/** Indices are asked for in steps from that of air on; beyond the last, as there. */
const STEP = 0.05
const STEPS = 33

/** What is known of a metal in matter of one index: cosine means on the grid, and RGB at normal incidence. */
interface Means {
  cosine: Float64Array
  rgb: Float64Array
}
const known: Means[] = []

/** Cosine mean ∫ 2µ·F(µ) dµ by 16 midpoints in µ². */
function compute(table: number, index: number): Means {
  const at = (mu: number, i: number) =>
    fresnelConductor(mu, conductorN[table]![i]! / index, conductorK[table]![i]! / index)
  const cosine = Float64Array.from({ length: GRID_SIZE }, (_, i) => {
    let sum = 0
    for (let j = 0; j < 16; j++) sum += at(Math.sqrt((j + 0.5) / 16), i)
    return sum / 16
  })
  const facing = Float64Array.from({ length: GRID_SIZE }, (_, i) => at(1, i))
  return { cosine, rgb: Float64Array.from(transform(xyzToRec709, reflectanceToXYZ(facing))) }
}

const meansAt = (table: number, step: number): Means =>
  (known[table * (STEPS + 1) + step] ??= compute(table, 1 + step * STEP))

/** Number i of a mean, between the steps of an index. */
function between(table: number, index: number, of: keyof Means, i: number): number {
  const at = Math.min(STEPS - 1, Math.max(0, (index - 1) / STEP))
  const low = meansAt(table, at | 0)[of][i]!
  const part = at - (at | 0)
  return part === 0 ? low : low + (meansAt(table, (at | 0) + 1)[of][i]! - low) * part
}

/** Cosine mean of a metal's reflectance at grid index i, in matter of an absolute index. */
export const conductorAverage = (table: number, i: number, index: number): number =>
  between(table, index, 'cosine', i)

/** Linear Rec.709 component k of its reflectance at normal incidence under D65 there. */
export const rgbIn = (table: number, index: number, k: number): number => between(table, index, 'rgb', k)
