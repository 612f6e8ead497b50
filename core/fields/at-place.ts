/** A field at single places, by as many rays as make it sure. */
import type { Side } from '../point/field-ask'
import { orthonormal } from '../surface/orthonormal'
import { batchNear, castClosest, createRayBatch } from '../trace/cast'
import type { Hierarchy } from '../trace/hierarchy'
import type { Field } from './field'
import { hemisphere, layRay, type Site } from './hemisphere'

/** Rays a hemisphere: on a sphere of five radii they are right to a hundredth. */
const RAYS = 256
/** How far from the surface rays begin, in radii. */
const OFF = 1e-4
/** Which of a memory's batches is used. */
const BATCH = 3

/**
 * What gives a field at places of a surface: position and unit normal, six numbers.
 * @param h hierarchy of the whole model
 * @param radius metres
 */
export function fieldAt(h: Hierarchy, field: Field, radius: number, side: Side): (place: Float64Array) => number {
  const { inside, outside } = field.weights(side)
  const directions = hemisphere(field.spread, RAYS)
  const batch = batchNear(h, createRayBatch(RAYS), BATCH)
  const frame = new Float64Array(6)

  /** Mean of what rays tell on one side of a place. @param way 1 outwards, −1 inwards */
  function mean(at: Site, way: number): number {
    orthonormal(frame, at.nx, at.ny, at.nz)
    for (let i = 0; i < RAYS; i++) layRay(batch, i, at, frame, directions, i, way * OFF * radius, radius)
    castClosest(h, batch, RAYS)
    let sum = 0
    for (let i = 0; i < RAYS; i++)
      sum += field.tells(batch.triangle[i]! < 0 ? 1 : Math.min(1, batch.distance[i]! / radius))
    return sum / RAYS
  }
  const unit = field.overRadius ? 1 / radius : 1
  const at: Site = { x: 0, y: 0, z: 0, nx: 0, ny: 0, nz: 0 }
  return place => {
    at.x = place[0]!
    at.y = place[1]!
    at.z = place[2]!
    at.nx = place[3]!
    at.ny = place[4]!
    at.nz = place[5]!
    return unit * ((inside ? inside * mean(at, -1) : 0) + (outside ? outside * mean(at, 1) : 0))
  }
}
