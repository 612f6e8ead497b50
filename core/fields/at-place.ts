/** A field at single places, by as many rays as make it sure. */
import type { Side } from '../point/field-ask'
import { orthonormal } from '../surface/orthonormal'
import { batchNear, castClosest, createRayBatch } from '../trace/cast'
import type { Hierarchy } from '../trace/hierarchy'
import type { Field } from './field'
import { hemisphere } from './hemisphere'

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
  function mean(p: Float64Array, way: number): number {
    const [x, y, z] = [p[3]!, p[4]!, p[5]!]
    orthonormal(frame, x, y, z)
    const off = way * OFF * radius
    for (let i = 0; i < RAYS; i++) {
      const a = directions[i * 3]!
      const b = directions[i * 3 + 1]!
      const c = directions[i * 3 + 2]! * way
      batch.origin[i * 3] = p[0]! + off * x
      batch.origin[i * 3 + 1] = p[1]! + off * y
      batch.origin[i * 3 + 2] = p[2]! + off * z
      batch.direction[i * 3] = a * frame[0]! + b * frame[3]! + c * x
      batch.direction[i * 3 + 1] = a * frame[1]! + b * frame[4]! + c * y
      batch.direction[i * 3 + 2] = a * frame[2]! + b * frame[5]! + c * z
      batch.distance[i] = radius
    }
    castClosest(h, batch, RAYS)
    let sum = 0
    for (let i = 0; i < RAYS; i++)
      sum += field.tells(batch.triangle[i]! < 0 ? 1 : Math.min(1, batch.distance[i]! / radius))
    return sum / RAYS
  }
  const unit = field.overRadius ? 1 / radius : 1
  return place => unit * ((inside ? inside * mean(place, -1) : 0) + (outside ? outside * mean(place, 1) : 0))
}
