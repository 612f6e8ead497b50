import { smoothNormals, type Part } from './model'

/**
 * A quadrilateral of two triangles.
 * @param corners four points, counter-clockwise as seen from its front; coordinates run along the first edge and
 * the last
 */
export function quad(name: string, corners: readonly number[]): Part {
  const position = Float32Array.from(corners)
  const index = Uint32Array.from([0, 1, 2, 0, 2, 3])
  return {
    name,
    position,
    index,
    normal: smoothNormals(position, index),
    uv: Float32Array.from([0, 0, 1, 0, 1, 1, 0, 1]),
  }
}
