/** Drawing a triangle that shines from the tree of `emitters.ts`, and the density of having drawn it. */
import type { Geometry } from '../scene/geometry'
import { loadTriangle, triangle } from '../trace/triangle'
import { POINT } from '../point/slots'
import type { Emitters } from './emitters'
import { drawnEmitter } from './memory'
import { received } from './receiver'
import { EMITTER } from './slots'

/**
 * What a node may give at the point that begins at `at`: its power over the squared distance, which is never less
 * than its own radius, times what the receiver's cosine leaves.
 */
function importance(nodes: Float64Array, node: number, point: Float64Array, at: number): number {
  const o = node * EMITTER.stride
  const dx = nodes[o]! - point[at]!
  const dy = nodes[o + 1]! - point[at + 1]!
  const dz = nodes[o + 2]! - point[at + 2]!
  const d2 = dx * dx + dy * dy + dz * dz
  const r2 = nodes[o + EMITTER.radius2]!
  return (nodes[o + EMITTER.power]! * received(dx, dy, dz, d2, r2)) / (d2 > r2 ? d2 : r2)
}

/** Estimate of what all of them give at a point, comparable with that of a panel. */
export function emittersWeight(e: Emitters, point: Float64Array, at: number): number {
  return 0.5 * importance(e.nodes, 0, point, at)
}

/**
 * Draws a point of a shining triangle as seen from S[0…2] into `drawnEmitter`.
 * @param u three numbers in [0, 1)
 * @returns false where the triangle is seen edge-on
 */
export function sampleEmitters(e: Emitters, geometry: Geometry, S: Float64Array, u: Float64Array): boolean {
  const nodes = e.nodes
  let pick = u[0]!
  let node = 0
  let chance = 1
  for (let child = nodes[EMITTER.child]!; child >= 0; child = nodes[node * EMITTER.stride + EMITTER.child]!) {
    const a = importance(nodes, child, S, 0)
    const b = importance(nodes, child + 1, S, 0)
    const share = a / (a + b)
    if (pick < share) {
      node = child
      pick /= share
      chance *= share
    } else {
      node = child + 1
      pick = (pick - share) / (1 - share)
      chance *= 1 - share
    }
  }
  const place = nodes[node * EMITTER.stride + EMITTER.place]!
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
  drawnEmitter.pdf = (chance * 2 * d2) / projected
  return true
}

/**
 * Density with which {@link sampleEmitters} draws a hit from where its ray began, into `drawnEmitter.pdf`.
 * @param leaf of the tree; distance along the unit direction from index `at` on
 */
export function emitterDensity(
  e: Emitters,
  geometry: Geometry,
  leaf: number,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  distance: number,
): void {
  const nodes = e.nodes
  let chance = 1
  for (
    let node = leaf, up = nodes[leaf * EMITTER.stride + EMITTER.parent]!;
    up >= 0;
    node = up, up = nodes[up * EMITTER.stride + EMITTER.parent]!
  ) {
    const first = nodes[up * EMITTER.stride + EMITTER.child]!
    const a = importance(nodes, first, origin, at)
    const b = importance(nodes, first + 1, origin, at)
    chance *= (node === first ? a : b) / (a + b)
  }
  loadTriangle(geometry.hierarchy, nodes[leaf * EMITTER.stride + EMITTER.place]!)
  const projected = Math.abs(
    direction[at]! * triangle.nx + direction[at + 1]! * triangle.ny + direction[at + 2]! * triangle.nz,
  )
  drawnEmitter.pdf = projected > 1e-30 ? (chance * 2 * distance * distance) / projected : 0
}
