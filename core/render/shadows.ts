/** Shadow rays: one towards a drawn light for each path that answers it, cast together. */
import { drawnLight } from '../light/add-light'
import { sampleLight } from '../light/draw-light'
import { emissionLight } from '../light/lights'
import { isBlocked } from '../light/meet-panel'
import { drawnEmitter, lit } from '../light/memory'
import { POINT } from '../point/slots'
import { doubtOf } from '../scene/fill-point'
import { evaluateClass, evaluateIncoming } from '../surface/evaluate'
import { memory as surface, now } from '../surface/memory'
import { ASK, CHANNELS, CLASS } from '../surface/slots'
import { castAny } from '../trace/cast'
import type { RenderScene } from '../world/render-scene'
import { arriveAt } from './arrive'
import { depositDrawn, shareByLobe, shareOfOne, type Layers } from './layers'
import { extinctionBeside, remains } from './media'
import { memory, tile } from './memory'
import { loadWavelengths } from './paths'
import { draw2 } from './sampler'
import { PAIR } from './slots'
import { passStraight } from './straight'
import type { Tracer } from './tracer'

const {
  counted,
  drawn,
  lightDraws,
  passed,
  places,
  radiance,
  seeds,
  shadowAt,
  shadowFills,
  shadowLight,
  shadowOf,
  shadowPlace,
  shadowSigma,
  shadowValue,
  shadowWhole,
  surrounding,
  throughput,
  whole,
} = memory

const { ask, emission, value } = surface

/**
 * Draws a light for the path at S, whose surface is finished and whose lights are weighed (`lightDraws[0]` chooses),
 * as shadow ray number `shadowed`.
 * @returns how many shadow rays it made: one, or none
 */
export function drawShadow(
  t: Tracer,
  scene: RenderScene,
  path: number,
  S: Float64Array,
  bounce: number,
  shadowed: number,
  layers: Layers | null,
): number {
  const { geometry, lights } = scene
  const material = scene.materials[scene.materialOf[S[POINT.part]!]!]!
  const shadows = t.shadows
  draw2(places[path]!, seeds[path]!, PAIR.first + bounce * PAIR.stride + PAIR.light)
  lightDraws[1] = drawn[0]!
  lightDraws[2] = drawn[1]!
  if (!sampleLight(lights, geometry, S, lightDraws)) return 0
  ask[ASK.x] = lit.x
  ask[ASK.y] = lit.y
  ask[ASK.z] = lit.z
  evaluateIncoming()
  let q = ask[ASK.pdf]!
  let inward = lit.x * now.gx + lit.y * now.gy + lit.z * now.gz <= 0
  if (inward && !(q > 0) && turnsWithSmooth()) {
    // triangles that face away beside ones that do not: no drawn direction leaves there
    now.lenient = true
    evaluateClass(CLASS.diffuse)
    q = 0
    inward = false
  } else if (!(q > 0) || (inward && material.straight && counted[path]! > 0)) return 0
  const c = path * CHANNELS
  const shift = doubtOf(S)
  const side = inward ? -shift : shift
  const s = shadowed * 3
  shadows.origin[s] = S[POINT.position]! + side * now.gx
  shadows.origin[s + 1] = S[POINT.position + 1]! + side * now.gy
  shadows.origin[s + 2] = S[POINT.position + 2]! + side * now.gz
  shadows.direction[s] = lit.x
  shadows.direction[s + 1] = lit.y
  shadows.direction[s + 2] = lit.z
  if (now.outside && !inward) raise(shadows, s, S)
  shadows.distance[shadowed] = lit.distance * (1 - 1e-9)
  const v = shadowed * CHANNELS
  const open =
    lights.panelCount === 0 ||
    !isBlocked(lights, shadows.origin, shadows.direction, s, shadows.distance[shadowed]! * (1 - 1e-6))
  if (layers?.lobes && bounce === 0) {
    if (now.lenient) shareOfOne(layers.shadowShare, shadowed, CLASS.diffuse)
    else {
      whole.set(value)
      shareByLobe(layers.shadowShare, shadowed, whole, side < 0)
      value.set(whole)
    }
  }
  now.lenient = false
  lit.weight = 1 / (lights.gather === 'lights' ? lit.pdf : lit.pdf + q)
  shadowLight[shadowed] = lit.light
  shadowWhole[shadowed] = 1 / (lit.pdf * lit.weight)
  if (lit.light === emissionLight(lights)) {
    // the ray ends before its own triangle, from wherever it was shifted to; what that sends out is found
    // when the ray has arrived
    shadows.distance[shadowed] = lit.distance * (1 - 1e-6) - 4 * shift
    for (let j = 0; j < CHANNELS; j++) shadowValue[v + j] = value[j]! * throughput[c + j]! * lit.weight
    shadowPlace[shadowed] = drawnEmitter.place
    shadowAt[shadowed * 2] = drawnEmitter.u
    shadowAt[shadowed * 2 + 1] = drawnEmitter.v
  } else drawnLight(shadowValue, v, throughput, c)
  shadowOf[shadowed] = path
  shadowFills[shadowed] = extinctionBeside(path, S[POINT.part]!, inward, shadowSigma, v) ? 1 : 0
  return open ? 1 : 0
}

/** Whether the light asked for, which the geometry hides, lies above an opaque smooth surface seen from outside. */
const turnsWithSmooth = (): boolean =>
  now.outside && now.glass === 0 && ask[ASK.x]! * now.sx + ask[ASK.y]! * now.sy + ask[ASK.z]! * now.sz > 0

/** Lets a shadow ray begin on the smooth surface that its triangle stands for, and end where it would have ended. */
function raise(shadows: Tracer['shadows'], s: number, S: Float64Array): void {
  const x = S[POINT.smooth]!
  const y = S[POINT.smooth + 1]!
  const z = S[POINT.smooth + 2]!
  if (x === 0 && y === 0 && z === 0) return
  shadows.origin[s]! += x
  shadows.origin[s + 1]! += y
  shadows.origin[s + 2]! += z
  if (lit.distance === Infinity) return
  const tx = lit.x * lit.distance - x
  const ty = lit.y * lit.distance - y
  const tz = lit.z * lit.distance - z
  lit.distance = Math.sqrt(tx * tx + ty * ty + tz * tz)
  shadows.direction[s] = tx / lit.distance
  shadows.direction[s + 1] = ty / lit.distance
  shadows.direction[s + 2] = tz / lit.distance
}

/** Casts the shadow rays, and adds what those bring that arrive. */
export function castShadows(
  t: Tracer,
  scene: RenderScene,
  shadowed: number,
  bounce: number,
  layers: Layers | null,
): void {
  const { geometry, lights } = scene
  const shadows = t.shadows
  castAny(geometry.hierarchy, shadows, shadowed)
  t.counts.rays += shadowed
  for (let k = 0; k < shadowed; k++) {
    const c = shadowOf[k]! * CHANNELS
    const v = k * CHANNELS
    if (shadows.triangle[k]! >= 0) {
      if (!tile.shadowsPass || !followStraight(scene, shadows, k)) continue
    } else if (shadowFills[k] === 1)
      for (let j = 0; j < CHANNELS; j++) shadowValue[v + j]! *= remains(shadowSigma[v + j]!, shadows.distance[k]!)
    if (shadowLight[k] === emissionLight(lights)) {
      arriveAt(
        scene,
        shadowPlace[k]!,
        shadowAt[k * 2]!,
        shadowAt[k * 2 + 1]!,
        shadows.direction,
        k * 3,
        shadows.distance[k]!,
        shadowOf[k]!,
      )
      for (let j = 0; j < CHANNELS; j++) shadowValue[v + j]! *= emission[j]!
    }
    radiance[c]! += shadowValue[v]!
    radiance[c + 1]! += shadowValue[v + 1]!
    radiance[c + 2]! += shadowValue[v + 2]!
    radiance[c + 3]! += shadowValue[v + 3]!
    radiance[c + 4]! += shadowValue[v + 4]!
    radiance[c + 5]! += shadowValue[v + 5]!
    radiance[c + 6]! += shadowValue[v + 6]!
    if (layers)
      depositDrawn(layers, shadowOf[k]!, lights.layerOf[shadowLight[k]!]!, k, bounce === 0, shadowValue, v)
  }
  if (layers) for (let k = 0; k < shadowed; k++) layers.cost[shadowOf[k]!]!++
}

/**
 * Follows a shadow ray that something lies in the way of through glass that it may pass straight, and weighs it
 * with what is left.
 * @returns whether anything is left
 */
function followStraight(scene: RenderScene, shadows: Tracer['shadows'], k: number): boolean {
  loadWavelengths(shadowOf[k]!)
  const within = shadowFills[k] === 1
  if (within) for (let j = 0; j < CHANNELS; j++) surrounding[j] = shadowSigma[k * CHANNELS + j]!
  if (!passStraight(scene, shadows, k, shadowOf[k]!, within)) return false
  for (let j = 0; j < CHANNELS; j++) shadowValue[k * CHANNELS + j]! *= passed[j]! * shadowWhole[k]!
  return true
}
