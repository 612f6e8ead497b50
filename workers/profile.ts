import { instantiate } from '../core/network/instantiate'
import { MAX_PROBES, POINT, POINT_STRIDE } from '../core/point/slots'
import type { TextureMap } from '../core/maps/map'
import { openMap, type Texture } from '../core/maps/texture'
import { fillPoint } from '../core/scene/fill-point'
import { createProbes } from '../core/render/probes'
import type { Geometry } from '../core/scene/geometry'
import { castClosest, createRayBatch } from '../core/trace/cast'
import type { ProfileAnswer, ProfileRequest } from './protocol'
import { memory } from '../core/nodes/memory'

const { result } = memory

/**
 * Probe patterns averaged at each point: a mask of a noisy curvature is judged by its mean, as the render shows
 * it.
 */
const PATTERNS = 12

/** Evaluates masks where rays meet a part. @param open opens the maps that they look up */
export function profileAlong(
  geometry: Geometry,
  r: ProfileRequest,
  open: (map: TextureMap) => Texture = openMap,
): ProfileAnswer {
  const n = r.rays.length / 6
  const positions = new Float64Array(n * 3).fill(NaN)
  const values = r.programs.map(() => new Float64Array(n))
  const shaders = r.programs.map(p => ({
    shader: instantiate(
      p.program,
      p.maps.map(m => m && open(m)),
    ),
    C: Float64Array.from(p.program.constants),
    probes: p.program.probes,
  }))
  const ray = createRayBatch(1)
  const probes = createProbes(1)
  const S = new Float64Array(POINT_STRIDE)
  const radii = new Float64Array(MAX_PROBES)
  for (let i = 0; i < n; i++) {
    ray.origin.set(r.rays.subarray(i * 6, i * 6 + 3))
    ray.direction.set(r.rays.subarray(i * 6 + 3, i * 6 + 6))
    ray.distance[0] = Infinity
    castClosest(geometry.hierarchy, ray, 1)
    if (ray.triangle[0]! < 0) continue
    fillPoint(geometry, ray, 0, ray.direction, 0, S)
    if (S[POINT.part] !== r.part) continue
    positions.set(S.subarray(0, 3), i * 3)
    shaders.forEach(({ shader, C, probes: sides }, p) => {
      const patterns = sides.length ? PATTERNS : 1
      for (let k = 0; k < patterns; k++) {
        if (sides.length) {
          shader.requests(S, C, shader.images, radii)
          probes.ask(S, sides, radii, Float64Array.from([(k * 0.754877666) % 1, (k * 0.569840291) % 1]))
          probes.answer(geometry.hierarchy)
        }
        shader.value(S, C, shader.images)
        values[p]![i]! += result[0]! / patterns
      }
    })
  }
  return { id: r.id, positions, values }
}
