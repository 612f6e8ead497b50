import { expect } from 'vitest'
import { POINT_STRIDE } from '../point/slots'
import { fillPoint } from '../scene/fill-point'
import type { Geometry } from '../scene/geometry'
import { castClosest, createRayBatch } from '../trace/cast'

const rays = createRayBatch(1)

/** The shading point where a ray from a place meets a model. */
export function pointOf(geometry: Geometry, from: readonly number[], towards: readonly number[]): Float64Array {
  const S = new Float64Array(POINT_STRIDE)
  const l = Math.hypot(...towards)
  const direction = Float64Array.from(towards, x => x / l)
  rays.origin.set(from)
  rays.direction.set(direction)
  rays.distance[0] = Infinity
  castClosest(geometry.hierarchy, rays, 1)
  expect(rays.triangle[0]).toBeGreaterThanOrEqual(0)
  fillPoint(geometry, rays, 0, direction, 0, S)
  return S
}

/** Three words of a point. */
export const three = (S: Float64Array, o: number): number[] => [...S.subarray(o, o + 3)]
