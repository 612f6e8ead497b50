/** Panels that rays meet. */
import type { Lights } from './lights'
import { lit, memory } from './memory'
import type { PanelBoxes } from './panel-boxes'
import { densityOfShape, fadeOfShape, hitShape } from './shapes/dispatch'
import { setRadiance } from './shapes/flat'
import { BOX, PANEL } from './slots'

const { boxesWaiting, enteredAt } = memory

/** The ray that boxes are asked about: where it begins, and one over its direction. */
const ray = { x: 0.5, y: 0.5, z: 0.5, perX: 0.5, perY: 0.5, perZ: 0.5 }

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
  if (lights.boxes !== null) return hitBoxed(p, lights.boxes, origin, direction, at, camera)
  let found = -1
  for (let i = 0; i < lights.panelCount; i++) if (meets(p, i, origin, direction, at, camera)) found = i
  return found
}

/** Whether a ray meets panel i before `lit.distance`, which then is the distance. */
function meets(
  p: Float64Array,
  i: number,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  camera: boolean,
): boolean {
  const o = i * PANEL.stride
  if (camera && p[o + PANEL.visible] === 0) return false
  return hitShape(p[o + PANEL.shape]!, p, o, origin, direction, at)
}

/** Reciprocal for the planes of a box; what runs along them counts as nearly along. */
const per = (x: number): number => 1 / (x !== 0 ? x : 1e-300)

function hitBoxed(
  p: Float64Array,
  { nodes, order, far }: PanelBoxes,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  camera: boolean,
): number {
  let found = -1
  ray.x = origin[at]!
  ray.y = origin[at + 1]!
  ray.z = origin[at + 2]!
  ray.perX = per(direction[at]!)
  ray.perY = per(direction[at + 1]!)
  ray.perZ = per(direction[at + 2]!)
  let waiting = 0
  let node = entersBox(nodes, 0) < Infinity ? 0 : -1
  while (node >= 0) {
    const o = node * BOX.stride
    const first = nodes[o + BOX.first]!
    const count = nodes[o + BOX.count]!
    node = -1
    if (count > 0) {
      for (let j = first; j < first + count; j++)
        if (meets(p, order[j]!, origin, direction, at, camera)) found = order[j]!
    } else {
      const a = entersBox(nodes, first * BOX.stride)
      const b = entersBox(nodes, first * BOX.stride + BOX.stride)
      if (a < Infinity && b < Infinity) {
        // the nearer one first
        node = a <= b ? first : first + 1
        boxesWaiting[waiting] = a <= b ? first + 1 : first
        enteredAt[waiting++] = a <= b ? b : a
      } else if (a < Infinity) node = first
      else if (b < Infinity) node = first + 1
    }
    while (node < 0 && waiting > 0) if (enteredAt[--waiting]! < lit.distance) node = boxesWaiting[waiting]!
  }
  // what lies in directions alone is behind everything
  for (let j = 0; j < far.length; j++) if (meets(p, far[j]!, origin, direction, at, camera)) found = far[j]!
  return found
}

/** How far away {@link ray} enters the box at o; Infinity where it does not before `lit.distance`. */
function entersBox(nodes: Float64Array, o: number): number {
  const x0 = (nodes[o + BOX.low]! - ray.x) * ray.perX
  const x1 = (nodes[o + BOX.high]! - ray.x) * ray.perX
  const y0 = (nodes[o + BOX.low + 1]! - ray.y) * ray.perY
  const y1 = (nodes[o + BOX.high + 1]! - ray.y) * ray.perY
  const z0 = (nodes[o + BOX.low + 2]! - ray.z) * ray.perZ
  const z1 = (nodes[o + BOX.high + 2]! - ray.z) * ray.perZ
  let from = x0 < x1 ? x0 : x1
  let to = x0 < x1 ? x1 : x0
  if (y0 < y1) {
    if (y0 > from) from = y0
    if (y1 < to) to = y1
  } else {
    if (y1 > from) from = y1
    if (y0 < to) to = y0
  }
  if (z0 < z1) {
    if (z0 > from) from = z0
    if (z1 < to) to = z1
  } else {
    if (z1 > from) from = z1
    if (z0 < to) to = z0
  }
  return to >= 0 && from <= to && from < lit.distance ? from : Infinity
}

/** Radiance of the panel that {@link hitPanel} found last, into `lit`. */
export function panelRadiance(lights: Lights, i: number): void {
  const o = i * PANEL.stride
  setRadiance(lights.panels, o, fadeOfShape(lights.panels[o + PANEL.shape]!, lights.panels, o))
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
