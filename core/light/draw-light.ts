/**
 * Light sampling: panels by area, balls by the cone that they fill (Pharr, Jakob & Humphreys, "Physically Based
 * Rendering", "Sampling Light Sources"), an environment picture by its luminance.
 *
 * At each point one light is drawn in proportion to a quick estimate of what it gives there unshadowed. A uniform
 * environment is not drawn: sampling the surface finds it with no more noise than sampling the whole sphere would.
 * Pictures are importance-sampled by rows and columns
 * (Pharr, Jakob & Humphreys, "Physically Based Rendering", piecewise-constant 2D distributions) and meet surface
 * sampling by the balance heuristic. What a shining part sends out is found where the shadow ray arrives.
 *
 * What is drawn first is a choice (`choices.ts`): a panel, the environment, or a node of a tree over many panels or
 * over shining triangles, below which one light is drawn then (`descend.ts`).
 */
import { POINT } from '../point/slots'
import type { Geometry } from '../scene/geometry'
import { chanceOf, descended, drawLeaf, importance, weighNode } from './descend'
import { sampleMap } from './environment'
import { choiceCount, emissionLight, environmentChoice, environmentLight, type Lights } from './lights'
import { drawnEmitter, lit, memory } from './memory'
import { sampleTriangle } from './sample-emitters'
import { sampleShape } from './shapes/dispatch'
import { PANEL } from './slots'
import { weighPanel } from './weigh-panel'

const { weights } = memory

/** Part of the draws that go to lights which a part was never seen to see, however bright they are. */
const UNSEEN = 0.04

/** Estimates what choice i gives at the point that begins at `at`, unshadowed; the environment apart. */
export function weighChoice(lights: Lights, i: number, point: Float64Array, at: number): number {
  const { choices, panels, emitters } = lights
  const count = choices.of.length
  if (i > count) return importance(emitters!.tree.nodes, emitters!.cut[i - count - 1]!, point, at)
  const of = choices.of[i]!
  if (of < 0) return weighNode(choices.tree!, -1 - of, panels, point, at)
  weighPanel(panels, of * PANEL.stride, point, at)
  return lit.estimate
}

/**
 * Estimates what each choice gives at the point S, to what receives it there (`receiver.ts`); their sum goes to
 * `lit.sum`, and the factor on choices that its part does not see to `lit.unseen`.
 */
export function weighLights(lights: Lights, S: Float64Array): void {
  const { choices, panels, visible: table } = lights
  const count = choiceCount(lights)
  const row = S[POINT.part]! * count
  const environment = environmentChoice(lights)
  let sum = lights.mapPower
  let unseen = 0
  for (let i = 0; i < count; i++) {
    if (i === environment) continue
    // panels that are choices of their own are asked here: through `weighChoice` a path took a twentieth longer
    const of = i < environment ? choices.of[i]! : -1
    if (of >= 0) weighPanel(panels, of * PANEL.stride, S, POINT.position)
    else lit.estimate = weighChoice(lights, i, S, POINT.position)
    const w = lit.estimate
    const share = table === null ? 1 : table[row + i]!
    weights[i] = share > 0 ? w * share : -w
    if (share > 0) sum += w * share
    else unseen += w
  }
  weights[environment] = lights.mapPower
  settleWeights(lights, sum, unseen, 1)
}

/**
 * Gives choices that are not seen, whose weights are negative, their small part of the draws; fills `lit.unseen`, and
 * `lit.sum`.
 * @param sum of the weights of those that are seen; unseen: of the others
 * @param alone factor on the others where none is seen
 */
export function settleWeights(lights: Lights, sum: number, unseen: number, alone: number): void {
  lit.unseen = unseen === 0 ? 0 : sum > 0 ? Math.min(1, (UNSEEN * sum) / unseen) : alone
  if (unseen > 0)
    for (let i = 0, n = choiceCount(lights); i < n; i++) if (weights[i]! < 0) weights[i]! *= -lit.unseen
  lit.sum = lights.gather === 'directions' ? 0 : sum + unseen * lit.unseen
}

/** Factor on a choice's estimate at a point of a part, given `lit.unseen` of that point. */
export function visibility(lights: Lights, choice: number, part: number): number {
  const share = lights.visible === null ? 1 : lights.visible[part * choiceCount(lights) + choice]!
  return share > 0 ? share : lit.unseen
}

/** Share of the draws that go to the environment, given `lit.sum` of the point. */
export const shareOfEnvironment = (lights: Lights): number => (lit.sum > 0 ? lights.mapPower / lit.sum : 0)

/** Share of the draws that go to a choice from a point of a part, given `lit.sum` there; the environment apart. */
export const shareOfChoice = (lights: Lights, i: number, point: Float64Array, at: number, part: number): number =>
  lit.sum > 0 ? (weighChoice(lights, i, point, at) * visibility(lights, i, part)) / lit.sum : 0

/** Chance with which panel i is drawn once its choice is. */
export function chanceOfPanel({ choices, panels }: Lights, i: number, point: Float64Array, at: number): number {
  const leaf = choices.leafOf[i]!
  return leaf < 0 ? 1 : chanceOf(choices.tree!, leaf, -1 - choices.of[choices.byPanel[i]!]!, panels, point, at)
}

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

/** Makes a choice in proportion to the weights. @param u its first number chooses, and is one anew after it */
export function chooseLight(lights: Lights, u: Float64Array): number {
  let pick = u[0]! * lit.sum
  let i = 0
  const last = choiceCount(lights) - 1
  while (i < last && (pick >= weights[i]! || weights[i] === 0)) pick -= weights[i++]!
  u[0] = Math.min(1 - 2 ** -53, pick / weights[i]!)
  return i
}

/** Draws a direction by choice i from S[0…2]; its density is times lit.share. @returns false when there is none */
export function drawFrom(
  lights: Lights,
  geometry: Geometry,
  i: number,
  S: Float64Array,
  u: Float64Array,
): boolean {
  const { choices, emitters, panels } = lights
  const count = choices.of.length
  if (i === count) {
    lit.light = environmentLight(lights)
    return lights.map !== null && sampleMap(lights, u)
  }
  if (i > count) {
    lit.light = emissionLight(lights)
    if (!drawLeaf(emitters!.tree, emitters!.cut[i - count - 1]!, null, S, 0, u)) return false
    if (!sampleTriangle(geometry, emitters!.cells, descended.leaf, S, u)) return false
    lit.x = drawnEmitter.x
    lit.y = drawnEmitter.y
    lit.z = drawnEmitter.z
    lit.distance = drawnEmitter.distance
    lit.pdf = lit.share * descended.chance * drawnEmitter.pdf
    return true
  }
  lit.light = choices.of[i]!
  if (lit.light < 0) {
    if (!drawLeaf(choices.tree!, -1 - lit.light, panels, S, 0, u)) return false
    lit.light = descended.leaf
    lit.share *= descended.chance
  }
  lit.u = u[1]!
  lit.v = u[2]!
  const o = lit.light * PANEL.stride
  return sampleShape(panels[o + PANEL.shape]!, panels, o, S)
}
