/** Drawing a point of a triangle that shines, and the density of having drawn it. */
import type { Geometry } from '../scene/geometry'
import { loadTriangle, triangle } from '../trace/triangle'
import { POINT } from '../point/slots'
import type { Cells } from './cells'
import { drawnEmitter } from './memory'

/**
 * Draws a point of a leaf, a shining triangle or a cell of one, as seen from S[0…2] into `drawnEmitter`; its density is
 * given that leaf.
 * @param leaf place of the triangle, or −1 − the number of the cell
 * @param u three numbers in [0, 1), of which the last two are used
 * @returns false where the triangle is seen edge-on
 */
export function sampleTriangle(
  geometry: Geometry,
  { corners, place: placeOf, share: shareOf }: Cells,
  leaf: number,
  S: Float64Array,
  u: Float64Array,
): boolean {
  const place = leaf >= 0 ? leaf : placeOf[-1 - leaf]!
  loadTriangle(geometry.hierarchy, place)
  const { ax, ay, az, e1x, e1y, e1z, e2x, e2y, e2z, nx, ny, nz } = triangle
  // evenly over the triangle (Turk 1990): the square root spreads towards the far edge
  const r = Math.sqrt(u[1]!)
  let bu = r * (1 - u[2]!)
  let bv = r * u[2]!
  let share = 1
  if (leaf < 0) {
    const c = (-1 - leaf) * 6
    const s = bu
    const t = bv
    const w = 1 - s - t
    bu = s * corners[c]! + t * corners[c + 2]! + w * corners[c + 4]!
    bv = s * corners[c + 1]! + t * corners[c + 3]! + w * corners[c + 5]!
    share = shareOf[-1 - leaf]!
  }
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
  drawnEmitter.pdf = (2 * d2) / (projected * share)
  return true
}

/**
 * Density with which {@link sampleTriangle} draws a hit from where its ray began.
 * @param leaf place of its triangle, or −1 − the number of its cell
 * @param distance along the unit direction from index `at` on
 */
export function triangleDensity(
  geometry: Geometry,
  { place, share }: Cells,
  leaf: number,
  direction: Float64Array,
  at: number,
  distance: number,
): number {
  loadTriangle(geometry.hierarchy, leaf >= 0 ? leaf : place[-1 - leaf]!)
  const projected = Math.abs(
    direction[at]! * triangle.nx + direction[at + 1]! * triangle.ny + direction[at + 2]! * triangle.nz,
  )
  if (!(projected > 1e-30)) return 0
  return (2 * distance * distance) / (projected * (leaf >= 0 ? 1 : share[-1 - leaf]!))
}
