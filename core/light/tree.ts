/**
 * Trees over many lights: a node knows where its lights lie, what they send out together, and the cone of the ways
 * that they face (Conty Estévez & Kulla 2018, "Importance Sampling of Many Lights with Adaptive Tree Splitting").
 *
 * A node is split where the sum over both halves of power × surface of the box × measure of the cone is least (their
 * orientation heuristic, §4.4), among cuts along the longest side of the centres' box.
 */
import { NODE } from './slots'

/** Lights of which a tree is made; flat arrays, one entry each. */
export interface Leaves {
  /** Number that the leaf keeps. */
  light: Int32Array
  /** Low and high corner of its box, 6 numbers. */
  boxes: Float64Array
  power: Float64Array
  /** Unit, the way that it faces; 3 numbers. */
  axis: Float64Array
  /** Radians about the axis within which the ways lie that it faces; π for all. */
  spread: Float64Array
  /** Whether light leaves on both sides. */
  bothSides: boolean
  /** Share of its area that is seen where light leaves all around: 1 where the power is that of what is seen. */
  shown: number
}

export interface LightTree {
  /** Words of {@link NODE}, the root first. */
  nodes: Float64Array
}

/** Places along an axis at which a node may be split, and one more. */
const BINS = 16
/** Beyond this many radians a cone of both sides says nothing any more. */
const HARDLY = 1.4

/** Box, power and cone of some lights. */
interface Bound {
  low: [number, number, number]
  high: [number, number, number]
  power: number
  count: number
  axis: [number, number, number]
  spread: number
}

const emptyBound = (): Bound => ({
  low: [Infinity, Infinity, Infinity],
  high: [-Infinity, -Infinity, -Infinity],
  power: 0,
  count: 0,
  axis: [0, 0, 1],
  spread: 0,
})

function clearBound(b: Bound): void {
  for (let k = 0; k < 3; k++) {
    b.low[k] = Infinity
    b.high[k] = -Infinity
  }
  b.power = 0
  b.count = 0
  b.spread = 0
}

const clamped = (x: number): number => Math.min(1, Math.max(-1, x))

/** Widens the cone of `to` so that it holds another one too (Conty Estévez & Kulla 2018, algorithm 1). */
function widen(to: Bound, x: number, y: number, z: number, spread: number, bothSides: boolean): void {
  if (to.spread >= Math.PI || spread >= Math.PI) {
    to.spread = Math.PI
    return
  }
  if (x === to.axis[0] && y === to.axis[1] && z === to.axis[2]) {
    if (spread > to.spread) to.spread = spread
    return
  }
  let dot = x * to.axis[0] + y * to.axis[1] + z * to.axis[2]
  const turn = bothSides && dot < 0 ? -1 : 1
  dot *= turn
  const between = Math.acos(clamped(dot))
  if (between + spread <= to.spread) return
  if (between + to.spread <= spread) {
    to.axis[0] = x
    to.axis[1] = y
    to.axis[2] = z
    to.spread = spread
    return
  }
  const half = (to.spread + between + spread) / 2
  const sine = Math.sin(between)
  if (half >= Math.PI || sine < 1e-9) {
    to.spread = half >= Math.PI || dot < 0 ? Math.PI : half
    return
  }
  // the axis turns towards the other one until both edges fit
  const turned = half - to.spread
  const a = Math.sin(between - turned) / sine
  const b = (Math.sin(turned) / sine) * turn
  to.axis[0] = a * to.axis[0] + b * x
  to.axis[1] = a * to.axis[1] + b * y
  to.axis[2] = a * to.axis[2] + b * z
  const length = Math.hypot(to.axis[0], to.axis[1], to.axis[2])
  for (let k = 0; k < 3; k++) to.axis[k]! /= length
  to.spread = half
}

function addLeaf(to: Bound, l: Leaves, i: number): void {
  for (let k = 0; k < 3; k++) {
    const low = l.boxes[i * 6 + k]!
    const high = l.boxes[i * 6 + 3 + k]!
    if (low < to.low[k]!) to.low[k] = low
    if (high > to.high[k]!) to.high[k] = high
  }
  addCone(to, l.axis[i * 3]!, l.axis[i * 3 + 1]!, l.axis[i * 3 + 2]!, l.spread[i]!, l.bothSides)
  to.power += l.power[i]!
  to.count++
}

function addBound(to: Bound, from: Bound, bothSides: boolean): void {
  if (from.count === 0) return
  for (let k = 0; k < 3; k++) {
    to.low[k] = Math.min(to.low[k]!, from.low[k]!)
    to.high[k] = Math.max(to.high[k]!, from.high[k]!)
  }
  addCone(to, from.axis[0], from.axis[1], from.axis[2], from.spread, bothSides)
  to.power += from.power
  to.count += from.count
}

function addCone(to: Bound, x: number, y: number, z: number, spread: number, bothSides: boolean): void {
  if (to.count > 0) return widen(to, x, y, z, spread, bothSides)
  to.axis[0] = x
  to.axis[1] = y
  to.axis[2] = z
  to.spread = spread
}

/** What some lights cost, but for a factor: power × surface × measure of the ways that they reach (eq. 1, 2). */
function costOf(b: Bound): number {
  if (b.count === 0) return 0
  const x = b.high[0] - b.low[0]
  const y = b.high[1] - b.low[1]
  const z = b.high[2] - b.low[2]
  const o = b.spread
  const w = Math.min(o + Math.PI / 2, Math.PI)
  const cone =
    2 * Math.PI * (1 - Math.cos(o)) +
    (Math.PI / 2) * (2 * w * Math.sin(o) - Math.cos(o - 2 * w) - 2 * o * Math.sin(o) + Math.cos(o))
  // lights in a row have no surface
  return b.power * (x * y + y * z + z * x + 1e-3 * (x * x + y * y + z * z)) * cone
}

/** Builds a tree. @param count at least 1 */
export function buildTree(leaves: Leaves, count: number): LightTree {
  const nodes = new Float64Array((2 * count - 1) * NODE.stride)
  const order = Int32Array.from({ length: count }, (_, i) => i)
  const bins = Array.from({ length: BINS }, emptyBound)
  const all = emptyBound()
  const side = emptyBound()
  const behind = new Float64Array(BINS)
  /** Twice the middles of their boxes. */
  const centres = new Float64Array(count * 3)
  for (let i = 0; i < count; i++)
    for (let k = 0; k < 3; k++) centres[i * 3 + k] = leaves.boxes[i * 6 + k]! + leaves.boxes[i * 6 + 3 + k]!
  const binOf = new Uint8Array(count)
  const second = new Int32Array(count)
  let used = 1
  for (let i = 0; i < count; i++) addLeaf(all, leaves, i)
  const waiting = [{ from: 0, to: count, node: 0, above: -1, bound: all }]
  for (let todo = waiting.pop(); todo; todo = waiting.pop()) {
    const { from, to, node, above, bound } = todo
    writeNode(nodes, node * NODE.stride, bound, leaves, above)
    if (to - from === 1) {
      nodes[node * NODE.stride + NODE.child] = -1
      nodes[node * NODE.stride + NODE.leaf] = leaves.light[order[from]!]!
      continue
    }
    const [one, two] = [emptyBound(), emptyBound()]
    const half = split(from, to, one, two)
    nodes[node * NODE.stride + NODE.child] = used
    waiting.push(
      { from: half, to, node: used + 1, above: node, bound: two },
      { from, to: half, node: used, above: node, bound: one },
    )
    used += 2
  }
  return { nodes }

  /** Brings the lights of one half before those of the other, and bounds both. @returns where the second begins */
  function split(from: number, to: number, one: Bound, two: Bound): number {
    let axis = 0
    let low = 0
    let long = -1
    for (let k = 0; k < 3; k++) {
      let least = Infinity
      let most = -Infinity
      for (let j = from; j < to; j++) {
        const c = centres[order[j]! * 3 + k]!
        if (c < least) least = c
        if (c > most) most = c
      }
      if (most - least > long) {
        long = most - least
        low = least
        axis = k
      }
    }
    if (!(long > 0)) {
      const middle = (from + to) >> 1
      for (let j = from; j < to; j++) addLeaf(j < middle ? one : two, leaves, order[j]!)
      return middle
    }
    const used = Math.min(BINS, to - from)
    const perBin = used / long
    for (let b = 0; b < used; b++) clearBound(bins[b]!)
    for (let j = from; j < to; j++) {
      const i = order[j]!
      const b = Math.min(used - 1, Math.floor((centres[i * 3 + axis]! - low) * perBin))
      binOf[i] = b
      addLeaf(bins[b]!, leaves, i)
    }
    const cut = used === 2 ? 1 : bestCut(used, to - from)
    for (let b = 0; b < used; b++) addBound(b < cut ? one : two, bins[b]!, leaves.bothSides)
    // in their order, so that the tree is the same wherever it is built
    let half = from
    let others = 0
    for (let j = from; j < to; j++) {
      const i = order[j]!
      if (binOf[i]! < cut) order[half++] = i
      else second[others++] = i
    }
    for (let j = 0; j < others; j++) order[half + j] = second[j]!
    return half
  }

  /** First bin of the second half where both together cost least. @param count lights in all bins */
  function bestCut(used: number, count: number): number {
    clearBound(side)
    for (let b = used - 1; b > 0; b--) {
      addBound(side, bins[b]!, leaves.bothSides)
      behind[b] = costOf(side)
    }
    clearBound(side)
    let best = Infinity
    let cut = 1
    for (let b = 1; b < used; b++) {
      addBound(side, bins[b - 1]!, leaves.bothSides)
      const cost = costOf(side) + behind[b]!
      if (side.count > 0 && side.count < count && cost < best) {
        best = cost
        cut = b
      }
    }
    return cut
  }
}

function writeNode(nodes: Float64Array, o: number, b: Bound, l: Leaves, above: number): void {
  for (let k = 0; k < 3; k++) {
    nodes[o + NODE.centre + k] = (b.low[k]! + b.high[k]!) / 2
    nodes[o + NODE.radius2]! += (b.high[k]! - b.low[k]!) ** 2 / 4
    nodes[o + NODE.axis + k] = b.axis[k]!
  }
  nodes[o + NODE.power] = b.power
  nodes[o + NODE.parent] = above
  nodes[o + NODE.cos] = Math.cos(b.spread)
  nodes[o + NODE.sin] = Math.sin(b.spread)
  nodes[o + NODE.sides] = b.spread >= (l.bothSides ? HARDLY : Math.PI) ? 0 : l.bothSides ? 2 : 1
  nodes[o + NODE.shown] = l.shown
}

/**
 * The nodes at which a tree is cut into few: the ones whose power times squared size is largest are taken apart first.
 * @param most how many there may be, at least 1
 */
export function cutTree({ nodes }: LightTree, most: number): Int32Array {
  const cut = [0]
  const size = (node: number) =>
    nodes[node * NODE.stride + NODE.child]! < 0
      ? -1
      : nodes[node * NODE.stride + NODE.power]! * nodes[node * NODE.stride + NODE.radius2]!
  while (cut.length < most) {
    const at = cut.reduce((best, node, i) => (size(node) > size(cut[best]!) ? i : best), 0)
    if (size(cut[at]!) < 0) break
    const child = nodes[cut[at]! * NODE.stride + NODE.child]!
    cut.splice(at, 1, child, child + 1)
  }
  return Int32Array.from(cut)
}

/** Visits the leaves below a node. */
export function leavesBelow(
  { nodes }: LightTree,
  from: number,
  visit: (light: number, leaf: number) => void,
): void {
  const waiting = [from]
  for (let node = waiting.pop(); node !== undefined; node = waiting.pop()) {
    const child = nodes[node * NODE.stride + NODE.child]!
    if (child < 0) visit(nodes[node * NODE.stride + NODE.leaf]!, node)
    else waiting.push(child + 1, child)
  }
}
