/**
 * Two unit vectors square to a unit vector n and to each other, into `frame[0…5]` (Duff et al. 2017, "Building an
 * Orthonormal Basis, Revisited").
 */
export function orthonormal(frame: Float64Array, nx: number, ny: number, nz: number): void {
  const sign = nz >= 0 ? 1 : -1
  const a = -1 / (sign + nz)
  const b = nx * ny * a
  frame[0] = 1 + sign * nx * nx * a
  frame[1] = sign * b
  frame[2] = -sign * nx
  frame[3] = b
  frame[4] = sign + ny * ny * a
  frame[5] = -ny
}
