/**
 * Which light is drawn for a way through matter that scatters: one for the whole way, so that the place where it is
 * asked for can be chosen to suit it.
 */
import type { Geometry } from '../scene/geometry'
import { settleWeights, weighChoice } from './draw-light'
import { choiceCount, environmentChoice, type Lights } from './lights'
import { lit, memory } from './memory'
import { NODE, PANEL } from './slots'
import { seenFromWithin } from './visibility'

const { onWay, weights } = memory

/** Where a light stands beside a way. */
export const middle = { x: 0.5, y: 0.5, z: 0.5, radius2: 0.5 }

/**
 * Finds the middle of a choice and the square of its size, metres, into {@link middle}.
 * @returns false for what lies in directions alone
 */
export function findMiddle(lights: Lights, i: number): boolean {
  const { choices, emitters, panels } = lights
  const count = choices.of.length
  if (i === count) return false
  if (i > count) return findNode(emitters!.tree.nodes, emitters!.cut[i - count - 1]!)
  const of = choices.of[i]!
  if (of < 0) return findNode(choices.tree!.nodes, -1 - of)
  const o = of * PANEL.stride
  const area = panels[o + PANEL.area]!
  if (!(area > 0)) return false
  middle.x = panels[o + PANEL.x]!
  middle.y = panels[o + PANEL.y]!
  middle.z = panels[o + PANEL.z]!
  middle.radius2 = area / Math.PI
  return true
}

function findNode(nodes: Float64Array, node: number): true {
  const o = node * NODE.stride
  middle.x = nodes[o + NODE.centre]!
  middle.y = nodes[o + NODE.centre + 1]!
  middle.z = nodes[o + NODE.centre + 2]!
  middle.radius2 = nodes[o + NODE.radius2]!
  return true
}

function estimateAt(
  lights: Lights,
  i: number,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  t: number,
): number {
  for (let k = 0; k < 3; k++) onWay[k] = origin[at + k]! + t * direction[at + k]!
  return weighChoice(lights, i, onWay, 0)
}

/** Estimate of what choice i gives along a way from `origin[at …]`, metres long: the most of three of its points. */
function estimateAlong(
  lights: Lights,
  i: number,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  way: number,
): number {
  if (i === environmentChoice(lights)) return lights.mapPower
  if (!findMiddle(lights, i)) return estimateAt(lights, i, origin, direction, at, 0)
  const x = middle.x - origin[at]!
  const y = middle.y - origin[at + 1]!
  const z = middle.z - origin[at + 2]!
  const beside = Math.min(way, Math.max(0, x * direction[at]! + y * direction[at + 1]! + z * direction[at + 2]!))
  const end = Math.min(way, beside + 2 * Math.sqrt(x * x + y * y + z * z))
  return Math.max(
    estimateAt(lights, i, origin, direction, at, 0),
    estimateAt(lights, i, origin, direction, at, beside),
    estimateAt(lights, i, origin, direction, at, end),
  )
}

/** Shares of the choices seen within a part, see {@link seenFromWithin}; null for all of all, empty for none. */
function sharesWithin(lights: Lights, geometry: Geometry, part: number): Float64Array | null {
  if (lights.within === null) return null
  const { shares, passes } = lights.within
  return (shares[part] ??= seenFromWithin(geometry, lights, part, passes))
}

/**
 * Estimates what each choice gives along a way within a part; the sum goes to `lit.sum`, 0 where none can be drawn, and
 * the factor on those that the part does not see to `lit.unseen`.
 * @param way its length, metres
 */
export function weighAlong(
  lights: Lights,
  geometry: Geometry,
  part: number,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  way: number,
): void {
  const table = sharesWithin(lights, geometry, part)
  const count = choiceCount(lights)
  let sum = 0
  let unseen = 0
  lit.sum = 0
  if (table?.length === 0) return
  for (let i = 0; i < count; i++) {
    const share = table === null ? 1 : table[i]!
    const w = estimateAlong(lights, i, origin, direction, at, way)
    weights[i] = share > 0 ? w * share : -w
    if (share > 0) sum += w * share
    else unseen += w
  }
  // where none is seen, none is drawn: what is found there counts whole
  settleWeights(lights, sum, unseen, 0)
}

/** Weight of choice i along a way, given `lit.unseen` of {@link weighAlong} there. */
export function weightAlong(
  lights: Lights,
  geometry: Geometry,
  i: number,
  part: number,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  way: number,
): number {
  const table = sharesWithin(lights, geometry, part)
  const share = table === null ? 1 : table[i]!
  return estimateAlong(lights, i, origin, direction, at, way) * (share > 0 ? share : lit.unseen)
}
