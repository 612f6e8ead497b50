/** Panels that rays meet. */
import { visibility } from './draw-light'
import type { Lights } from './lights'
import { lit } from './memory'
import { densityOfShape, fadeOfShape, hitShape } from './shapes/dispatch'
import { setRadiance } from './shapes/flat'
import { PANEL } from './slots'
import { weighPanel } from './weigh-panel'

/**
 * Finds the nearest panel that a ray meets on its shining side before `lit.distance`.
 * @param camera whether the camera looks, which sees only some
 * @returns its number, or −1; `lit.distance` is then the distance
 */
export function hitPanel(
  lights: Lights,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  camera: boolean,
): number {
  const p = lights.panels
  let found = -1
  for (let i = 0, o = 0; i < lights.panelCount; i++, o += PANEL.stride) {
    if (camera && p[o + PANEL.visible] === 0) continue
    if (hitShape(p[o + PANEL.shape]!, p, o, origin, direction, at)) found = i
  }
  return found
}

/** Radiance of the panel that {@link hitPanel} found last, into `lit`. */
export function panelRadiance(lights: Lights, i: number): void {
  const o = i * PANEL.stride
  setRadiance(lights.panels, o, fadeOfShape(lights.panels[o + PANEL.shape]!, lights.panels, o))
}

/** Share of the draws that go to panel i from a point of a part, given `lit.sum` there. */
export function shareOfPanel(lights: Lights, i: number, origin: Float64Array, at: number, part: number): number {
  const o = i * PANEL.stride
  weighPanel(lights.panels, o, origin, at)
  return lit.sum > 0 ? (lit.estimate * visibility(lights, i, part)) / lit.sum : 0
}

/**
 * Density with which a light would have been drawn towards panel i, met at `lit.distance`, times lit.share; into
 * `lit.pdf`.
 */
export function panelDensity(
  lights: Lights,
  i: number,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
): void {
  const o = i * PANEL.stride
  densityOfShape(lights.panels[o + PANEL.shape]!, lights.panels, o, origin, direction, at)
}

/**
 * Whether a panel stands in the way of a shadow ray: its shining side, and both sides of a blocker, as for any ray.
 * What lies in all directions is behind every one.
 */
export function isBlocked(
  lights: Lights,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  distance: number,
): boolean {
  const kept = lit.distance
  lit.distance = distance < Infinity ? distance : Number.MAX_VALUE
  const found = hitPanel(lights, origin, direction, at, false) >= 0
  lit.distance = kept
  return found
}
