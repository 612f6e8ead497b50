import { POINT, POINT_STRIDE } from '../core/point/slots'
import type { TextureMap } from '../core/maps/map'
import type { Texture } from '../core/maps/texture'
import { fillPoint } from '../core/scene/fill-point'
import { fillFields } from '../core/render/fields'
import type { Geometry } from '../core/scene/geometry'
import { castClosest, createRayBatch } from '../core/trace/cast'
import { instantiateMaterial } from '../core/world/world'
import type { ProfileAnswer, ProfileRequest } from './protocol'
import { memory } from '../core/nodes/memory'

const { result } = memory

/** Evaluates masks where rays meet a part. @param open opens the maps that they look up */
export function profileAlong(
  geometry: Geometry,
  r: ProfileRequest,
  open?: (map: TextureMap) => Texture,
): ProfileAnswer {
  const n = r.rays.length / 6
  const positions = new Float64Array(n * 3).fill(NaN)
  const values = r.programs.map(() => new Float64Array(n))
  const materials = r.programs.map(p => instantiateMaterial(p.program, p.maps, open))
  const ray = createRayBatch(1)
  const S = new Float64Array(POINT_STRIDE)
  for (let i = 0; i < n; i++) {
    ray.origin.set(r.rays.subarray(i * 6, i * 6 + 3))
    ray.direction.set(r.rays.subarray(i * 6 + 3, i * 6 + 6))
    ray.distance[0] = Infinity
    castClosest(geometry.hierarchy, ray, 1)
    if (ray.triangle[0]! < 0) continue
    fillPoint(geometry, ray, 0, ray.direction, 0, S)
    if (S[POINT.part] !== r.part) continue
    positions.set(S.subarray(0, 3), i * 3)
    materials.forEach((material, p) => {
      fillFields({ geometry }, material, S)
      material.shader.value(S, material.constants, material.shader.images)
      values[p]![i] = result[0]!
    })
  }
  return { id: r.id, positions, values }
}
