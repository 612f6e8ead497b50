/** Drawing a point of a triangle that shines, and the density of having drawn it. */
import type { Geometry } from '../scene/geometry'
import { loadTriangle, triangle } from '../trace/triangle'
import { POINT } from '../point/slots'
import { drawnEmitter } from './memory'

/**
 * Draws a point of the shining triangle at a place as seen from S[0…2] into `drawnEmitter`; its density is given that
 * triangle.
 * @param u three numbers in [0, 1), of which the last two are used
 * @returns false where the triangle is seen edge-on
 */
export function sampleTriangle(geometry: Geometry, place: number, S: Float64Array, u: Float64Array): boolean {
  loadTriangle(geometry.hierarchy, place)
  const { ax, ay, az, e1x, e1y, e1z, e2x, e2y, e2z, nx, ny, nz } = triangle
  // evenly over the triangle (Turk 1990): the square root spreads towards the far edge
  const r = Math.sqrt(u[1]!)
  const bu = r * (1 - u[2]!)
  const bv = r * u[2]!
  const dx = ax + bu * e1x + bv * e2x - S[POINT.position]!
  const dy = ay + bu * e1y + bv * e2y - S[POINT.position + 1]!
  const dz = az + bu * e1z + bv * e2z - S[POINT.position + 2]!
  // n is as long as twice the area
  const d2 = dx * dx + dy * dy + dz * dz
  const d = Math.sqrt(d2)
  const projected = Math.abs(dx * nx + dy * ny + dz * nz) / d
  if (!(projected > 1e-30)) return false
  drawnEmitter.x = dx / d
  drawnEmitter.y = dy / d
  drawnEmitter.z = dz / d
  drawnEmitter.distance = d
  drawnEmitter.place = place
  drawnEmitter.u = bu
  drawnEmitter.v = bv
  drawnEmitter.pdf = (2 * d2) / projected
  return true
}

/**
 * Density with which {@link sampleTriangle} draws a hit from where its ray began.
 * @param distance along the unit direction from index `at` on
 */
export function triangleDensity(
  geometry: Geometry,
  place: number,
  direction: Float64Array,
  at: number,
  distance: number,
): number {
  loadTriangle(geometry.hierarchy, place)
  const projected = Math.abs(
    direction[at]! * triangle.nx + direction[at + 1]! * triangle.ny + direction[at + 2]! * triangle.nz,
  )
  return projected > 1e-30 ? (2 * distance * distance) / projected : 0
}
