/**
 * Light sampling: panels by area, balls by the cone that they fill (Pharr, Jakob & Humphreys, "Physically Based
 * Rendering", "Sampling Light Sources"), an environment picture by its luminance.
 *
 * At each point one light is drawn in proportion to a quick estimate of what it gives there unshadowed. A uniform
 * environment is not drawn: sampling the surface finds it with no more noise than sampling the whole sphere would.
 * Pictures are importance-sampled by rows and columns
 * (Pharr, Jakob & Humphreys, "Physically Based Rendering", piecewise-constant 2D distributions) and meet surface
 * sampling by the balance heuristic. Shining parts are one light here; which triangle is `sample-emitters.ts`'
 * business, and what it sends out is found where the shadow ray arrives.
 */
import { POINT } from '../point/slots'
import type { Geometry } from '../scene/geometry'
import { sampleMap } from './environment'
import { emissionLight, lightCount, type Lights } from './lights'
import { drawnEmitter, lit, memory } from './memory'
import { emittersWeight, sampleEmitters } from './sample-emitters'
import { sampleShape } from './shapes/dispatch'
import { PANEL } from './slots'
import { weighPanel } from './weigh-panel'

const { weights } = memory

/** Part of the draws that go to lights which a part was never seen to see, however bright they are. */
const UNSEEN = 0.04

/**
 * Estimates what each light gives at the point S, to what receives it there (`receiver.ts`); their sum goes to
 * `lit.sum`, and the factor on lights that its part does not see to `lit.unseen`.
 */
export function weighLights(lights: Lights, S: Float64Array): void {
  const part = S[POINT.part]!
  const last = emissionLight(lights)
  const table = lights.visible
  const panels = lights.panels
  let sum = lights.mapPower
  let unseen = 0
  weights[lights.panelCount] = lights.mapPower
  for (let i = 0; i <= last; i++) {
    if (i === lights.panelCount) continue
    const o = i * PANEL.stride
    if (i < last) weighPanel(panels, o, S, POINT.position)
    else lit.estimate = lights.emitters === null ? 0 : emittersWeight(lights.emitters, S, POINT.position)
    const share = table === null ? 1 : table[part * lightCount(lights) + i]!
    const w = lit.estimate
    weights[i] = share > 0 ? w * share : -w
    if (share > 0) sum += w * share
    else unseen += w
  }
  settleWeights(lights, sum, unseen, 1)
}

/**
 * Gives lights that are not seen, whose weights are negative, their small part of the draws; fills `lit.unseen`, and
 * `lit.sum`.
 * @param sum of the weights of those that are seen; unseen: of the others
 * @param alone factor on the others where none is seen
 */
export function settleWeights(lights: Lights, sum: number, unseen: number, alone: number): void {
  lit.unseen = unseen === 0 ? 0 : sum > 0 ? Math.min(1, (UNSEEN * sum) / unseen) : alone
  if (unseen > 0)
    for (let i = 0, n = lightCount(lights); i < n; i++) if (weights[i]! < 0) weights[i]! *= -lit.unseen
  lit.sum = lights.gather === 'directions' ? 0 : sum + unseen * lit.unseen
}

/** Factor on a light's estimate at a point of a part, given `lit.unseen` of that point. */
export function visibility(lights: Lights, light: number, part: number): number {
  const share = lights.visible === null ? 1 : lights.visible[part * lightCount(lights) + light]!
  return share > 0 ? share : lit.unseen
}

/** Share of the draws that go to the environment, given `lit.sum` of the point. */
export const shareOfEnvironment = (lights: Lights): number => (lit.sum > 0 ? lights.mapPower / lit.sum : 0)

/**
 * Draws a direction to a light from the point that {@link weighLights} saw last.
 * @returns false when there is none to draw
 * @param u three numbers in [0, 1); the first is used up
 */
export function sampleLight(lights: Lights, geometry: Geometry, S: Float64Array, u: Float64Array): boolean {
  const sum = lit.sum
  if (!(sum > 0)) return false
  const i = chooseLight(lights, u)
  lit.share = weights[i]! / sum
  return drawFrom(lights, geometry, i, S, u)
}

/** Chooses a light in proportion to the weights. @param u its first number chooses, and is one anew after it */
export function chooseLight(lights: Lights, u: Float64Array): number {
  let pick = u[0]! * lit.sum
  let i = 0
  const last = emissionLight(lights)
  while (i < last && (pick >= weights[i]! || weights[i] === 0)) pick -= weights[i++]!
  u[0] = Math.min(1 - 2 ** -53, pick / weights[i]!)
  return i
}

/** Draws a direction to light i from S[0…2]; its density is times lit.share. @returns false when there is none */
export function drawFrom(
  lights: Lights,
  geometry: Geometry,
  i: number,
  S: Float64Array,
  u: Float64Array,
): boolean {
  lit.light = i
  if (i === lights.panelCount) return lights.map !== null && sampleMap(lights, u)
  if (i === emissionLight(lights)) {
    if (lights.emitters === null) return false
    if (!sampleEmitters(lights.emitters, geometry, S, u)) return false
    lit.x = drawnEmitter.x
    lit.y = drawnEmitter.y
    lit.z = drawnEmitter.z
    lit.distance = drawnEmitter.distance
    lit.pdf = lit.share * drawnEmitter.pdf
    return true
  }
  lit.u = u[1]!
  lit.v = u[2]!
  const o = i * PANEL.stride
  return sampleShape(lights.panels[o + PANEL.shape]!, lights.panels, o, S)
}
