import type { FieldAsk } from '../point/field-ask'
import { createFieldTable } from '../fields/table'
import { useOf } from '../fields/use'
import { placeOnPlane } from '../point/plane'
import type { Shader } from '../network/instantiate'
import type { Geometry } from '../scene/geometry'
import { castClosest, createRayBatch } from '../trace/cast'
import { fillPoint } from '../scene/fill-point'
import { fillFields } from './fields'
import { memory } from '../nodes/memory'
import { memory as render } from './memory'

const { result } = memory
const { lonePoint: S } = render

/** Corners of fields that are kept for one picture of a model. */
const RECORDS = 2 ** 18

/** Numbers a pixel of values with that many components: a scalar is shown as grey. */
export const isolatedSize = (size: number): 3 | 4 => (size > 3 ? 4 : 3)

/** Writes the value at a point, of so many components, as {@link isolatedSize} numbers from index o on. */
export function takeValue(
  shader: Shader,
  C: Float64Array,
  size: number,
  S: Float64Array,
  out: Float32Array,
  o: number,
): void {
  shader.value(S, C, shader.images)
  const n = isolatedSize(size)
  for (let k = 0; k < n; k++) out[o + k] = size === 1 ? result[0]! : k < size ? result[k]! : 0
}

/**
 * Values of a node on the plane (0, 0, 0) to (1, 1, 0), normal +z, texture coordinates xy; row 0 at v = 1, one
 * sample at each pixel's centre.
 * @returns {@link isolatedSize} numbers a pixel; scalars repeated
 */
export function isolateOnPlane(
  shader: Shader,
  C: Float64Array,
  size: number,
  width: number,
  height: number,
): Float32Array {
  const stride = isolatedSize(size)
  const out = new Float32Array(width * height * stride)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const u = (x + 0.5) / width
      const v = 1 - (y + 0.5) / height
      placeOnPlane(S, u, v)
      takeValue(shader, C, size, S, out, (y * width + x) * stride)
    }
  return out
}

/** The same on a model as a camera sees it; 0 beside it. */
export function isolateOnModel(
  shader: Shader,
  C: Float64Array,
  fields: readonly FieldAsk[],
  size: number,
  geometry: Geometry,
  camera: Float64Array,
  width: number,
  height: number,
): Float32Array {
  const stride = isolatedSize(size)
  const out = new Float32Array(width * height * stride)
  const asked = { geometry, fields: fields.length > 0 ? createFieldTable(RECORDS) : null }
  const asking = { shader, constants: C, fields: fields.map(useOf) }
  const ray = createRayBatch(1)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const a = (2 * (x + 0.5)) / width - 1
      const b = 1 - (2 * (y + 0.5)) / height
      const d = [0, 1, 2].map(k => camera[3 + k]! * a + camera[6 + k]! * b + camera[9 + k]!)
      const l = Math.hypot(...d)
      ray.origin.set(camera.subarray(0, 3))
      ray.direction.set(d.map(c => c / l))
      ray.distance[0] = Infinity
      castClosest(geometry.hierarchy, ray, 1)
      if (ray.triangle[0]! < 0) continue
      fillPoint(geometry, ray, 0, ray.direction, 0, S)
      fillFields(asked, asking, S)
      takeValue(shader, C, size, S, out, (y * width + x) * stride)
    }
  return out
}
