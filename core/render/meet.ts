/** What the rays of a bounce met: lights end a path, surfaces go on to shading, media scatter. */
import { addLight } from '../light/add-light'
import { chanceOf } from '../light/descend'
import { chanceOfPanel, shareOfChoice, shareOfEnvironment } from '../light/draw-light'
import { cutAbove, leafAt, lightOf } from '../light/emitters'
import { environmentRadiance } from '../light/environment'
import { environmentChoice, environmentLight } from '../light/lights'
import { panelDensity, panelRadiance } from '../light/meet-panel'
import { lit } from '../light/memory'
import { receiveAll, receiveAt } from '../light/receiver'
import { triangleDensity } from '../light/sample-emitters'
import { POINT } from '../point/slots'
import { fillPoint } from '../scene/fill-point'
import { CHANNELS } from '../surface/slots'
import type { RayBatch } from '../trace/ray-batch'
import type { RenderScene } from '../world/render-scene'
import { advanceCone } from './cone'
import { askFields } from './fields'
import { BACKGROUND_LAYER, deposit, type Layers } from './layers'
import { absorb } from './media'
import { TOGETHER } from './matter-draws'
import { memory } from './memory'
import { bendToHeight } from './own-height'
import { loadWavelengths } from './paths'
import { COUNTED, FILLS, VIEW } from './slots'
import type { Tracer } from './tracer'
import { drift, ENDED, flyOn, panelBefore, walkOn } from './walk'
import { shareFromWithin } from './within'

const {
  active,
  brought,
  coneRadius,
  counted,
  density,
  direction,
  drifting,
  emitterPdf,
  fills,
  inMatter,
  leftNormal,
  leftPart,
  leftSides,
  lightSum,
  origin,
  points,
  radiance,
  shading,
  smoothBefore,
  steps,
  throughput,
  unseen,
  walking,
  view,
} = memory

/** How many paths met a surface (they are listed in `shading`), and how many scattered in a medium (`drifting`). */
export const met = { shaded: 0, drifted: 0 }

/** Sorts the paths in `active` by what their rays met; fields of materials that ask for them are found. */
export function meet(t: Tracer, scene: RenderScene, living: number, bounce: number, layers: Layers | null): void {
  const { geometry, lights } = scene
  const rays = t.rays
  let shaded = 0
  let drifted = 0
  t.fewRays.count = 0
  for (let k = 0; k < living; k++) {
    const path = active[k]!
    const o = path * 3
    let triangle = rays.triangle[k]!
    let distance = triangle >= 0 ? rays.distance[k]! : Infinity
    lit.distance = distance
    let panel = panelBefore(lights, path)
    if (fills[path] === FILLS.scatters) {
      const flight = flyOn(t, scene, path, bounce, layers)
      if (flight >= 0) {
        if (!drift(t, scene, path, flight, bounce)) continue
        if (steps[path]! <= TOGETHER) {
          drifting[drifted++] = path
          continue
        }
        panel = walkOn(t, scene, path, bounce, rays, k, layers)
        if (panel === ENDED) continue
        triangle = rays.triangle[k]!
        distance = lit.distance
      }
      // nothing is left of what walks below an open surface
      if (walking[path]! >= 0 && (panel >= 0 || triangle < 0)) continue
    }
    if (fills[path] === FILLS.absorbs) absorb(path, throughput, lit.distance)
    if (panel >= 0 || triangle < 0) {
      findLight(scene, path, panel, bounce, layers)
      continue
    }
    const S = points[path]!
    fillPoint(geometry, rays, k, direction, o, S)
    advanceCone(path, distance)
    S[POINT.footprint] = coneRadius[path]!
    rememberEmitter(scene, path, rays, k)
    const material = scene.materials[scene.materialOf[S[POINT.part]!]!]!
    if (material.displacement && S[POINT.displaced] === 1)
      bendToHeight(geometry, rays, k, material.displacement, S)
    if (material.fields.length > 0) askFields(t, scene, material, S, path, bounce)
    shading[shaded++] = path
  }
  met.shaded = shaded
  met.drifted = drifted
}

/** A path found a panel (its number, −1 for none), or the environment. */
function findLight(scene: RenderScene, path: number, panel: number, bounce: number, layers: Layers | null): void {
  const { lights } = scene
  const o = path * 3
  const c = path * CHANNELS
  loadWavelengths(path)
  lit.sum = lightSum[path]!
  lit.unseen = unseen[path]!
  receiveAsLeft(path)
  const light = panel >= 0 ? panel : environmentLight(lights)
  if (panel >= 0) lit.share = shareOfPanel(scene, path, panel)
  else
    lit.share =
      inMatter[path] === 1 ? shareFromWithin(scene, path, environmentChoice(lights)) : shareOfEnvironment(lights)
  if (panel >= 0) {
    panelDensity(lights, panel, origin, direction, o)
    panelRadiance(lights, panel)
  } else if (view[path] !== VIEW.none && lights.backdrop !== null) {
    lit.r = lights.backdrop[0]
    lit.g = lights.backdrop[1]
    lit.b = lights.backdrop[2]
    lit.pdf = 0
  } else environmentRadiance(lights, direction, o)
  // what could have been drawn has come straight already
  if (counted[path] === COUNTED.passed && lit.pdf > 0) return
  // balance heuristic; where the light could not have been drawn, the direction counts whole
  const q = smoothBefore[path] ? 0 : lit.pdf
  lit.weight = q > 0 ? (lights.gather === 'lights' ? 0 : density[path]! / (density[path]! + q)) : 1
  if (layers) {
    brought.fill(0)
    addLight(brought, 0, throughput, c)
    for (let j = 0; j < CHANNELS; j++) radiance[c + j]! += brought[j]!
    deposit(layers, path, lights.layerOf[light]!, bounce === 0 ? BACKGROUND_LAYER : -1, brought, 0)
  } else addLight(radiance, c, throughput, c)
}

/** Share of the draws that went to a panel where the path scattered last. */
function shareOfPanel(scene: RenderScene, path: number, panel: number): number {
  const { lights } = scene
  const o = path * 3
  const choice = lights.choices.byPanel[panel]!
  if (choice < 0) return 0
  const share =
    inMatter[path] === 1
      ? shareFromWithin(scene, path, choice)
      : shareOfChoice(lights, choice, origin, o, leftPart[path]!)
  return share > 0 ? share * chanceOfPanel(lights, panel, origin, o) : 0
}

/** Lights are weighed as they were where the path scattered last. */
function receiveAsLeft(path: number): void {
  const o = path * 3
  if (inMatter[path] === 1) receiveAll()
  else receiveAt(leftNormal[o]!, leftNormal[o + 1]!, leftNormal[o + 2]!, leftSides[path]!)
}

/**
 * Keeps the density with which the tree of shining triangles would have drawn the hit of a path, rays[k]; 0 where it
 * could not have.
 */
function rememberEmitter(scene: RenderScene, path: number, rays: RayBatch, k: number): void {
  const { geometry, lights } = scene
  const { emitters } = lights
  emitterPdf[path] = 0
  if (emitters === null) return
  const leaf = leafAt(emitters, rays.triangle[k]!, rays.u[k]!, rays.v[k]!)
  if (leaf < 0) return
  if (counted[path] === COUNTED.passed) {
    emitterPdf[path] = Infinity
    return
  }
  if (smoothBefore[path] || !(lightSum[path]! > 0)) return
  const o = path * 3
  const top = cutAbove(emitters, leaf)
  const choice = environmentChoice(lights) + 1 + emitters.cutOf[top]!
  lit.sum = lightSum[path]!
  lit.unseen = unseen[path]!
  receiveAsLeft(path)
  const share =
    inMatter[path] === 1
      ? shareFromWithin(scene, path, choice)
      : shareOfChoice(lights, choice, origin, o, leftPart[path]!)
  if (!(share > 0)) return
  emitterPdf[path] =
    share *
    chanceOf(emitters.tree, leaf, top, null, origin, o) *
    triangleDensity(geometry, emitters.cells, lightOf(emitters, leaf), direction, o, rays.distance[k]!)
}
