/**
 * Long walks in matter that scatters. The first steps of all paths of a tile go on together; a path that walks on is
 * followed by itself until it meets a surface, so that a thousand steps are no thousand turns of the tile.
 */
import type { Lights } from '../light/lights'
import { hitPanel } from '../light/meet-panel'
import { lit } from '../light/memory'
import { batchNear, castClosest, createRayBatch } from '../trace/cast'
import type { RayBatch } from '../trace/ray-batch'
import type { RenderScene } from '../world/render-scene'
import { advanceCone, MEDIUM_SPREAD } from './cone'
import type { Layers } from './layers'
import { drawInMatter } from './matter-draws'
import { fly, loneLane, phase, scatterPhase } from './media'
import { memory } from './memory'
import { CHANNELS } from '../surface/slots'
import { PAIR, VIEW } from './slots'
import type { Tracer } from './tracer'
import { askAlong, keepWay } from './within'

const { alone, coneSpread, density, direction, drawn, hero, meanCosine, origin, steps, throughput, view } = memory

/** Steps after which a walk ends: what is left then is lost. A half-space of white matter loses 0.4 %. */
export const MOST_STEPS = 65_536

/** Number that {@link walkOn} gives where a walk ended. */
export const ENDED = -2

/** Lies where rays of fields do: both are read as soon as they are cast. */
let solo = createRayBatch(1)
const WHICH = 3

/** Panel that a path's ray meets before `lit.distance`, which then is the distance; −1 for none. */
export const panelBefore = (lights: Lights, path: number): number =>
  hitPanel(lights, origin, direction, path * 3, view[path] !== VIEW.none)

/** Flight of a path in the matter that it is in, up to `lit.distance`, with light drawn for it; see {@link fly}. */
export function flyOn(t: Tracer, scene: RenderScene, path: number, bounce: number, layers: Layers | null): number {
  askAlong(t, scene, path, bounce, layers)
  drawInMatter(path, bounce, PAIR.flight)
  return fly(path, throughput, lit.distance, loneLane(path), drawn)
}

/** A path scatters in its medium after a flight. @returns whether it goes on */
export function drift(t: Tracer, scene: RenderScene, path: number, flight: number, bounce: number): boolean {
  const o = path * 3
  const c = path * CHANNELS
  if (++steps[path]! > (scene.maxSteps ?? MOST_STEPS)) {
    t.counts.cut++
    return false
  }
  const most = alone[path]
    ? throughput[c + hero[path]!]! * 0.25
    : Math.max(throughput[c + 4]!, throughput[c + 5]!, throughput[c + 6]!)
  if (!(most > 0)) return false
  if (most < 0.25) {
    drawInMatter(path, bounce, PAIR.roulette)
    if (drawn[0]! >= most * 4) return false
    for (let j = 0; j < CHANNELS; j++) throughput[c + j]! /= most * 4
  }
  keepWay(path, flight)
  view[path] = VIEW.none
  const x = direction[o]!
  const y = direction[o + 1]!
  const z = direction[o + 2]!
  for (let j = 0; j < 3; j++) origin[o + j]! += flight * direction[o + j]!
  advanceCone(path, flight)
  drawInMatter(path, bounce, PAIR.phase)
  scatterPhase(direction, o, meanCosine[path]!, drawn)
  coneSpread[path] = Math.abs(coneSpread[path]!) + MEDIUM_SPREAD
  density[path] = phase(x * direction[o]! + y * direction[o + 1]! + z * direction[o + 2]!, meanCosine[path]!)
  return true
}

/**
 * Follows a path until it meets a surface or a panel, which then is what its ray met: {@link RayBatch} k and
 * lit.distance.
 * @returns number of the panel, −1 for none; {@link ENDED} where the walk did
 */
export function walkOn(
  t: Tracer,
  scene: RenderScene,
  path: number,
  bounce: number,
  rays: RayBatch,
  k: number,
  layers: Layers | null,
): number {
  const { geometry, lights } = scene
  const o = path * 3
  solo = batchNear(geometry.hierarchy, solo, WHICH)
  for (;;) {
    for (let j = 0; j < 3; j++) {
      solo.origin[j] = origin[o + j]!
      solo.direction[j] = direction[o + j]!
    }
    solo.distance[0] = Infinity
    castClosest(geometry.hierarchy, solo, 1)
    t.counts.rays++
    lit.distance = solo.triangle[0]! >= 0 ? solo.distance[0]! : Infinity
    const panel = panelBefore(lights, path)
    const flight = flyOn(t, scene, path, bounce, layers)
    if (flight >= 0) {
      if (!drift(t, scene, path, flight, bounce)) return ENDED
      continue
    }
    rays.triangle[k] = solo.triangle[0]!
    rays.distance[k] = solo.distance[0]!
    rays.u[k] = solo.u[0]!
    rays.v[k] = solo.v[0]!
    return panel
  }
}
