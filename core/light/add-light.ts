/** What a light brings to a path, in its seven channels. */
import { memory } from '../surface/memory'
import { lit } from './memory'

const { basis, value } = memory

/**
 * Adds throughput · light (lit.r, g, b) · lit.weight to the seven channels of a path; the path's wavelengths must
 * be loaded into the surface's basis.
 */
export function addLight(target: Float64Array, o: number, throughput: Float64Array, p: number): void {
  const r = lit.r * lit.weight
  const g = lit.g * lit.weight
  const b = lit.b * lit.weight
  target[o]! += throughput[p]! * (basis[0]! * r + basis[1]! * g + basis[2]! * b)
  target[o + 1]! += throughput[p + 1]! * (basis[3]! * r + basis[4]! * g + basis[5]! * b)
  target[o + 2]! += throughput[p + 2]! * (basis[6]! * r + basis[7]! * g + basis[8]! * b)
  target[o + 3]! += throughput[p + 3]! * (basis[9]! * r + basis[10]! * g + basis[11]! * b)
  target[o + 4]! += throughput[p + 4]! * r
  target[o + 5]! += throughput[p + 5]! * g
  target[o + 6]! += throughput[p + 6]! * b
}

/**
 * What the light drawn last sends by way of the surface just evaluated ({@link value}) along a path: seven
 * channels into `target[o …]`, times lit.weight. Written out: by loops over the channels all paths are 2 to 3 %
 * slower.
 */
export function drawnLight(target: Float64Array, o: number, throughput: Float64Array, p: number): void {
  const r = lit.r * lit.weight
  const g = lit.g * lit.weight
  const b = lit.b * lit.weight
  target[o] = throughput[p]! * value[0]! * (basis[0]! * r + basis[1]! * g + basis[2]! * b)
  target[o + 1] = throughput[p + 1]! * value[1]! * (basis[3]! * r + basis[4]! * g + basis[5]! * b)
  target[o + 2] = throughput[p + 2]! * value[2]! * (basis[6]! * r + basis[7]! * g + basis[8]! * b)
  target[o + 3] = throughput[p + 3]! * value[3]! * (basis[9]! * r + basis[10]! * g + basis[11]! * b)
  target[o + 4] = throughput[p + 4]! * value[4]! * r
  target[o + 5] = throughput[p + 5]! * value[5]! * g
  target[o + 6] = throughput[p + 6]! * value[6]! * b
}
