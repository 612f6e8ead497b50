/** Glasses that the camera stands in: found once a camera, so that paths begin in them. */
import { POINT, POINT_STRIDE } from '../point/slots'
import { beginSurfaceAt } from '../surface/begin'
import { now } from '../surface/memory'
import { castClosest, createRayBatch } from '../trace/cast'
import { fillPoint } from '../scene/fill-point'
import type { RenderScene } from '../world/render-scene'
import { fillFields } from './fields'
import { crossGlass } from './media'

/** A part around the camera, and the point where a ray leaves it, seen from outside. */
interface Around {
  part: number
  S: Float64Array
}

/** Most faces that are looked through. */
const FACES = 256
/** Any direction that meets few edges of man-made things. */
const OUT = [0.3623, 0.4818, 0.7979] as const
const known = new WeakMap<Float64Array, Around[]>()
const ray = createRayBatch(1)
const way = new Float64Array(3)

/** Parts that a ray from the camera leaves more often than it enters them, outermost first. */
export function partsAround(scene: RenderScene): readonly Around[] {
  let around = known.get(scene.camera)
  if (!around) known.set(scene.camera, (around = look(scene)))
  return around
}

function look(scene: RenderScene): Around[] {
  const { geometry, camera } = scene
  const balance = new Map<number, number>()
  const last = new Map<number, Float64Array>()
  const l = Math.hypot(...OUT)
  for (let k = 0; k < 3; k++) {
    ray.origin[k] = camera[k]!
    way[k] = OUT[k]! / l
  }
  for (let face = 0; face < FACES; face++) {
    ray.direction.set(way)
    ray.distance[0] = Infinity
    castClosest(geometry.hierarchy, ray, 1)
    if (ray.triangle[0]! < 0) break
    const S = new Float64Array(POINT_STRIDE)
    const part = (fillPoint(geometry, ray, 0, way, 0, S), S[POINT.part]!)
    const leaves =
      way[0]! * S[POINT.geometric]! + way[1]! * S[POINT.geometric + 1]! + way[2]! * S[POINT.geometric + 2]! > 0
    balance.set(part, (balance.get(part) ?? 0) + (leaves ? 1 : -1))
    for (let k = 0; k < 3; k++) S[POINT.view + k] = -S[POINT.geometric + k]!
    if (leaves) last.set(part, S)
    const step = ray.distance[0]! * (1 + 1e-9) + 1e-9
    for (let k = 0; k < 3; k++) ray.origin[k]! += step * way[k]!
  }
  return [...balance]
    .filter(([, n]) => n > 0)
    .map(([part]) => ({ part, S: last.get(part)! }))
    .filter(a => isGlassAt(scene, a))
    .reverse()
}

/** Pushes the surface of a part around the camera. @returns whether it is glass with an inside */
function isGlassAt(scene: RenderScene, { part, S }: Around): boolean {
  const material = scene.materials[scene.materialOf[part]!]!
  fillFields(scene, material, S)
  beginSurfaceAt(S)
  material.shader.shade(S, material.constants, material.shader.images)
  return now.glass > 0 && !now.thin
}

/** Puts a path whose wavelengths are loaded into the glasses around the camera. */
export function beginInside(scene: RenderScene, path: number): void {
  for (const a of partsAround(scene)) if (isGlassAt(scene, a)) crossGlass(path, a.part, scene.priorityOf[a.part]!)
}
