import { placeWord } from './hierarchy'

/** The triangle that {@link loadTriangle} took up last: a corner, the two edges from it, and their cross product, as long as twice the area. */
export const triangle = { ax: 0.5, ay: 0.5, az: 0.5, e1x: 0.5, e1y: 0.5, e1z: 0.5, e2x: 0.5, e2y: 0.5, e2z: 0.5, nx: 0.5, ny: 0.5, nz: 0.5 }

/** Takes up the triangle at a place of the packets. */
export function loadTriangle(packets: Float32Array, place: number): void {
  const c = placeWord(place), ax = packets[c]!, ay = packets[c + 4]!, az = packets[c + 8]!
  const e1x = packets[c + 12]! - ax, e1y = packets[c + 16]! - ay, e1z = packets[c + 20]! - az, e2x = packets[c + 24]! - ax, e2y = packets[c + 28]! - ay, e2z = packets[c + 32]! - az
  triangle.ax = ax; triangle.ay = ay; triangle.az = az
  triangle.e1x = e1x; triangle.e1y = e1y; triangle.e1z = e1z
  triangle.e2x = e2x; triangle.e2y = e2y; triangle.e2z = e2z
  triangle.nx = e1y * e2z - e1z * e2y; triangle.ny = e1z * e2x - e1x * e2z; triangle.nz = e1x * e2y - e1y * e2x
}
