/**
 * A small hierarchy of boxes over the panels of a rig, so that a ray asks few of many. It stands beside the model's,
 * which knows nothing of lights: a panel that moves leaves that alone. A box holds what a shape may be met in; the
 * shape's own file decides.
 *
 * Measured (`benchmark lamps`, nanoseconds of a ray by boxes and by asking all): 4 panels 182 and 182, 5 127 and 208,
 * 9 125 and 308, 50 127 and 1,341, 500 196 and 18,341.
 */
import { BOX, PANEL } from './slots'

/** Most panels that are asked one after the other. */
const MOST_UNBOXED = 4
/** Panels of a leaf. */
const IN_LEAF = 3

/** Plain data. */
export interface PanelBoxes {
  nodes: Float64Array
  /** Numbers of panels, leaf by leaf. */
  order: Int32Array
  /** Those that are met in directions alone, wherever they stand. */
  far: Int32Array
}

/**
 * @param panels words of {@link PANEL}, of at most 2¹⁶ panels
 * @returns null where asking all of them is as fast
 */
export function boxPanels(panels: Float64Array, count: number): PanelBoxes | null {
  if (count <= MOST_UNBOXED) return null
  const all = Array.from({ length: count }, (_, i) => i)
  const isFar = (i: number) => panels[i * PANEL.stride + PANEL.area]! === 0
  const order = Int32Array.from(all.filter(i => !isFar(i)))
  const boxes = new Float64Array(count * 6)
  for (const i of order) boxPanel(panels, i * PANEL.stride, boxes, i * 6)
  const nodes: number[] = new Array(BOX.stride).fill(0)
  const waiting = [{ node: 0, from: 0, to: order.length }]
  for (let todo = waiting.pop(); todo; todo = waiting.pop()) {
    const { node, from, to } = todo
    const o = node * BOX.stride
    for (let k = 0; k < 3; k++) {
      let low = Infinity
      let high = -Infinity
      for (let j = from; j < to; j++) {
        low = Math.min(low, boxes[order[j]! * 6 + k]!)
        high = Math.max(high, boxes[order[j]! * 6 + 3 + k]!)
      }
      nodes[o + BOX.low + k] = low
      nodes[o + BOX.high + k] = high
    }
    if (to - from <= IN_LEAF) {
      nodes[o + BOX.first] = from
      nodes[o + BOX.count] = to - from
      continue
    }
    const half = halve(order, from, to, boxes, longestOf(nodes, o))
    const child = nodes.length / BOX.stride
    for (let k = 0; k < 2 * BOX.stride; k++) nodes.push(0)
    nodes[o + BOX.first] = child
    waiting.push({ node: child + 1, from: half, to }, { node: child, from, to: half })
  }
  return { nodes: Float64Array.from(nodes), order, far: Int32Array.from(all.filter(isFar)) }
}

/** Brings panels left of the middle of their centres before the others. @returns where those begin */
function halve(order: Int32Array, from: number, to: number, boxes: Float64Array, axis: number): number {
  const centre = (i: number) => boxes[i * 6 + axis]! + boxes[i * 6 + 3 + axis]!
  let low = Infinity
  let high = -Infinity
  for (let j = from; j < to; j++) {
    const c = centre(order[j]!)
    if (c < low) low = c
    if (c > high) high = c
  }
  let at = from
  for (let j = from; j < to; j++)
    if (centre(order[j]!) < (low + high) / 2) {
      const i = order[j]!
      order[j] = order[at]!
      order[at++] = i
    }
  // where all lie in one place, or one is far away, by number: a hierarchy is never deep
  return at - from < (to - from) / 8 || to - at < (to - from) / 8 ? (from + to) >> 1 : at
}

/** Number of the axis along which a box is longest. */
function longestOf(nodes: ArrayLike<number>, o: number): number {
  const along = (k: number) => nodes[o + BOX.high + k]! - nodes[o + BOX.low + k]!
  const longer = along(1) > along(0) ? 1 : 0
  return along(2) > along(longer) ? 2 : longer
}

/** The box that a panel is met in, a little wider than it: flat ones have no thickness of their own. */
export function boxPanel(p: Float64Array, o: number, boxes: Float64Array, at: number): void {
  const round = p[o + PANEL.round] === 1 ? Math.sqrt(p[o + PANEL.uu]!) : 0
  for (let k = 0; k < 3; k++) {
    const reach = round || Math.abs(p[o + PANEL.u + k]!) + Math.abs(p[o + PANEL.v + k]!)
    const wide = reach + 1e-7 * (1 + Math.abs(p[o + k]!) + reach)
    boxes[at + k] = p[o + k]! - wide
    boxes[at + 3 + k] = p[o + k]! + wide
  }
}
