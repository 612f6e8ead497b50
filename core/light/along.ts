/**
 * Which light is drawn for a way through matter that scatters: one for the whole way, so that the place where it is
 * asked for can be chosen to suit it.
 */
import type { Geometry } from '../scene/geometry'
import { settleWeights } from './draw-light'
import { emissionLight, type Lights } from './lights'
import { lit, memory } from './memory'
import { emittersWeight } from './sample-emitters'
import { weighShape } from './shapes/dispatch'
import { EMITTER, PANEL } from './slots'
import { seenFromWithin } from './visibility'

const { onWay, weights } = memory

/** Where a light stands beside a way. */
export const middle = { x: 0.5, y: 0.5, z: 0.5, radius2: 0.5 }

/**
 * Finds the middle of a light and the square of its size, metres, into {@link middle}.
 * @returns false for what lies in directions alone
 */
export function findMiddle(lights: Lights, i: number): boolean {
  if (i === lights.panelCount) return false
  if (i === emissionLight(lights)) {
    if (lights.emitters === null) return false
    const { nodes } = lights.emitters
    middle.x = nodes[EMITTER.centre]!
    middle.y = nodes[EMITTER.centre + 1]!
    middle.z = nodes[EMITTER.centre + 2]!
    middle.radius2 = nodes[EMITTER.radius2]!
    return true
  }
  const o = i * PANEL.stride
  const area = lights.panels[o + PANEL.area]!
  if (!(area > 0)) return false
  middle.x = lights.panels[o + PANEL.x]!
  middle.y = lights.panels[o + PANEL.y]!
  middle.z = lights.panels[o + PANEL.z]!
  middle.radius2 = area / Math.PI
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
  if (i === emissionLight(lights)) return emittersWeight(lights.emitters!, onWay, 0)
  const o = i * PANEL.stride
  weighShape(lights.panels[o + PANEL.shape]!, lights.panels, o, onWay, 0)
  return lit.estimate
}

/** Estimate of what light i gives along a way from `origin[at …]`, metres long: the most of three of its points. */
function estimateAlong(
  lights: Lights,
  i: number,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  way: number,
): number {
  if (i === lights.panelCount) return lights.mapPower
  if (i === emissionLight(lights) && lights.emitters === null) return 0
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

/** Shares of the lights seen within a part, see {@link seenFromWithin}; null for all of all, empty for none. */
function sharesWithin(lights: Lights, geometry: Geometry, part: number): Float64Array | null {
  if (lights.within === null) return null
  const { shares, passes } = lights.within
  return (shares[part] ??= seenFromWithin(geometry, lights, part, passes))
}

/**
 * Estimates what each light gives along a way within a part; the sum goes to `lit.sum`, 0 where none can be drawn, and
 * the factor on lights that the part does not see to `lit.unseen`.
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
  const last = emissionLight(lights)
  let sum = 0
  let unseen = 0
  lit.sum = 0
  if (table?.length === 0) return
  for (let i = 0; i <= last; i++) {
    const share = table === null ? 1 : table[i]!
    const w = estimateAlong(lights, i, origin, direction, at, way)
    weights[i] = share > 0 ? w * share : -w
    if (share > 0) sum += w * share
    else unseen += w
  }
  // where none is seen, none is drawn: what is found there counts whole
  settleWeights(lights, sum, unseen, 0)
}

/** Weight of light i along a way, given `lit.unseen` of {@link weighAlong} there. */
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
