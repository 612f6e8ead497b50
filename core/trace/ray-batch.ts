/** A batch of rays and what they hit. All arrays have the batch's capacity (times three for vectors). */
export interface RayBatch {
  capacity: number
  /** Origins, metres. */
  origin: Float64Array
  /** Directions; need not be unit, distances are in their length. */
  direction: Float64Array
  /** In: farthest distance wanted. Out of closest hits: distance of the hit, unchanged when nothing is hit. */
  distance: Float64Array
  /** Out: place of the triangle in the hierarchy, or −1. */
  triangle: Int32Array
  /** Out: barycentric weights of the second and third corner. */
  u: Float64Array
  v: Float64Array
  /** Memory of a hierarchy that it lies in, and where; null for one of its own. */
  memory: WebAssembly.Memory | null
  address: number
}
