import { GRID_SIZE } from '../colour/grid'
import { conductorK, conductorN } from '../optics/conductors'
import { fresnelConductor } from '../optics/fresnel'

const known: Float64Array[] = []

/**
 * Cosine mean of a measured metal's reflectance, ∫ 2µ·F(µ) dµ, on the grid; by 16 midpoints in µ². Computed
 * when first asked for.
 */
export function conductorAverage(table: number): Float64Array {
  return (known[table] ??= Float64Array.from({ length: GRID_SIZE }, (_, i) => {
    let sum = 0
    for (let j = 0; j < 16; j++)
      sum += fresnelConductor(Math.sqrt((j + 0.5) / 16), conductorN[table]![i]!, conductorK[table]![i]!)
    return sum / 16
  }))
}
