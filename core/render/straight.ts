/**
 * Shadow rays that pass openings, which is exact; and glass straight, for materials that ask for it: light behind a
 * window or under a shell without waiting for paths that happen to find the lamp.
 *
 * The latter is an approximation, and therefore off by default. Light is not bent, so what the glass would gather into
 * caustics or shift aside lies where it would lie without refraction; of light that goes to and fro inside only
 * the first passage counts (a plate of index 1.5 passes 0.2 % less than it should at normal incidence, 3 % less at
 * 70°); rough glass does not blur shadows; in glasses that lie in each other every face counts as towards air.
 * What a ray is in, from its beginning on, takes of its light by Beer–Lambert up to each face and to the lamp.
 * Paths that would have brought the same light otherwise are not counted again: {@link counted}.
 */
import { letsShadowsPass } from '../light/emitters'
import { POINT } from '../point/slots'
import { clearValue } from '../surface/accumulate'
import { beginSurfaceAt } from '../surface/begin'
import { lobeOfKind } from '../surface/lobes/dispatch'
import { KIND } from '../surface/lobes/kinds'
import { memory as surface, now } from '../surface/memory'
import { CHANNELS, LOBE } from '../surface/slots'
import { settleInterior } from '../surface/inside'
import type { RayBatch } from '../trace/ray-batch'
import { castClosest } from '../trace/cast'
import { doubtOf, fillPoint } from '../scene/fill-point'
import type { RenderScene } from '../world/render-scene'
import { fillFields } from './fields'
import { remains } from './media'
import { memory } from './memory'

const { coneRadius, passed, straightRay: ray, straightPoint: S, surrounding } = memory

const { interior, lobes, value } = surface

/** Most faces that a ray passes. */
const FACES = 64

/**
 * Follows a shadow ray through the glasses in its way. The wavelengths of its path are loaded.
 * @param k number of the ray in its batch
 * @param path that it belongs to, standing where the ray begins
 * @param within whether it begins in matter, whose extinction per channel, 1/m, is then in `surrounding`
 * @returns whether anything is left; {@link passed} says what
 */
export function passStraight(
  scene: RenderScene,
  rays: RayBatch,
  k: number,
  path: number,
  within: boolean,
): boolean {
  const { geometry } = scene
  for (let j = 0; j < 3; j++) {
    ray.origin[j] = rays.origin[k * 3 + j]!
    ray.direction[j] = rays.direction[k * 3 + j]!
  }
  let left = rays.distance[k]!
  let fills = within
  passed.fill(1)
  for (let face = 0; face < FACES; face++) {
    ray.distance[0] = left
    castClosest(geometry.hierarchy, ray, 1)
    if (ray.triangle[0]! < 0) return !fills || leaves(left)
    fillPoint(geometry, ray, 0, ray.direction, 0, S)
    const material = scene.materials[scene.materialOf[S[POINT.part]!]!]!
    const way = ray.distance[0]!
    if (!letsShadowsPass(material)) return false
    S[POINT.footprint] = coneRadius[path]!
    fillFields(scene, material, S)
    beginSurfaceAt(S)
    material.shader.passage(S, material.constants, material.shader.images)
    if (fills && !leaves(way)) return false
    if (!throughFace(!material.straight)) return false
    if (material.straight && now.glass > 0 && !now.thin) fills = now.outside && enters()
    const side = doubtOf(S)
    ray.origin[0] = S[POINT.position]! - side * now.gx
    ray.origin[1] = S[POINT.position + 1]! - side * now.gy
    ray.origin[2] = S[POINT.position + 2]! - side * now.gz
    left -= way
    if (!(left > side)) return true
  }
  return false
}

/**
 * Multiplies {@link passed} by what the surface just pushed lets on straight.
 * @param openings whether light passes through openings alone
 * @returns whether anything is left
 */
function throughFace(openings: boolean): boolean {
  clearValue()
  for (let l = 0; l < now.lobes; l++) {
    const o = l * LOBE.stride
    const kind = lobes[o + LOBE.kind]!
    if (!openings || kind === KIND.through) lobeOfKind(kind).straight(o)
  }
  let most = 0
  for (let j = 0; j < CHANNELS; j++) {
    const x = passed[j]! * value[j]!
    passed[j] = x
    if (x > most) most = x
  }
  return most > 0
}

/** The ray goes into the glass just pushed. @returns whether that takes of its light */
function enters(): boolean {
  if (now.fills === 0) return false
  settleInterior()
  surrounding.set(interior)
  return true
}

/** Multiplies {@link passed} by what matter leaves on a way, metres. @returns whether anything is left */
function leaves(way: number): boolean {
  let most = 0
  for (let j = 0; j < CHANNELS; j++) {
    const x = passed[j]! * remains(surrounding[j]!, way)
    passed[j] = x
    if (x > most) most = x
  }
  return most > 0
}
