/** What a shining triangle sends out where a shadow ray arrives. */
import { POINT } from '../point/slots'
import { fillPoint } from '../scene/fill-point'
import { beginSurfaceAt } from '../surface/begin'
import type { RenderScene } from '../world/render-scene'
import { radiusAt } from './cone'
import { fillFields } from './fields'
import { memory } from './memory'
import { loadWavelengths } from './paths'

const { arrival, shining } = memory

/**
 * Finds what the triangle at a place sends out against a direction, into the surface's `emission`.
 * @param u, v barycentric, of its second and third corner
 * @param at where the ray's unit direction begins in `directions`
 * @param distance of the ray, metres
 * @param path that the ray belongs to
 */
export function arriveAt(
  scene: RenderScene,
  place: number,
  u: number,
  v: number,
  directions: Float64Array,
  at: number,
  distance: number,
  path: number,
): void {
  const { geometry } = scene
  arrival.triangle[0] = place
  arrival.u[0] = u
  arrival.v[0] = v
  fillPoint(geometry, arrival, 0, directions, at, shining)
  shining[POINT.footprint] = radiusAt(path, distance)
  const material = scene.materials[scene.materialOf[shining[POINT.part]!]!]!
  fillFields(scene, material, shining)
  loadWavelengths(path)
  beginSurfaceAt(shining)
  material.shader.light(shining, material.constants, material.shader.images)
}
