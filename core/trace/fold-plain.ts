/** Folding of the plain builder's binary tree to nodes of eight children. */
import {
  fillPackets,
  linksOf,
  LINKS,
  NODE_WORDS,
  NO_TRIANGLE,
  PACKET_WORDS,
  slackOf,
  WIDTH,
  type Allocate,
  type Hierarchy,
} from './hierarchy'
import { allocateTrace } from './memory'
import { halfArea } from './split-plain'

/** A binary tree of boxes under way to nodes of eight. */
export interface Binary {
  nodes: Float32Array
  links: Int32Array
  used: number
  root: number
  bounds: Float32Array
  ids: Uint32Array
  position: Float32Array
  index: Uint32Array
}

/** Children of the node being folded: word of each one's box in the binary nodes, and its reference. */
const childBox = new Int32Array(WIDTH)
const childLink = new Int32Array(WIDTH)

/** Numbers of a binary node in {@link weigh}; least surfaces of its two sides by places. */
const WEIGHTS = WIDTH - 1
const sideSurface = new Float64Array(2 * WIDTH)

/** How many children have been gathered. */
let gathered = 0

/**
 * Weighs, from the leaves up, how the binary nodes fold to nodes of eight with the least surface in all.
 * @returns for each: the surface of the folded nodes below it when it gives its place to two, three … eight nodes
 * or leaves (after Wald, Benthin & Boulos 2008)
 */
function weigh(b: Binary): Float32Array {
  const weights = new Float32Array(b.used * WEIGHTS)
  // what is below a node was made after it
  for (let i = b.used - 1; i >= 0; i--) {
    for (let places = 1; places < WIDTH; places++) {
      sideSurface[places] = surfaceOf(b, weights, i, 0, places)
      sideSurface[WIDTH + places] = surfaceOf(b, weights, i, 1, places)
    }
    for (let places = 2; places <= WIDTH; places++) {
      let least = Infinity
      for (let left = 1; left < places; left++)
        least = Math.min(least, sideSurface[left]! + sideSurface[WIDTH + places - left]!)
      weights[i * WEIGHTS + places - 2] = least
    }
  }
  return weights
}

/**
 * Least surface of the folded nodes in the subtree on one side of a binary node when it may take up to `places`
 * places.
 */
function surfaceOf(b: Binary, weights: Float32Array, node: number, side: number, places: number): number {
  const reference = b.links[node * 16 + 12 + side]!
  const w = node * 16 + side * 6
  if (reference < 0) return 0
  const whole =
    halfArea(b.nodes[w + 3]! - b.nodes[w]!, b.nodes[w + 4]! - b.nodes[w + 1]!, b.nodes[w + 5]! - b.nodes[w + 2]!) +
    weights[reference * WEIGHTS + WIDTH - 2]!
  return places === 1 ? whole : Math.min(whole, weights[reference * WEIGHTS + places - 2]!)
}

/** Gathers the children that take the places of a binary node's. */
function gather(b: Binary, weights: Float32Array, node: number, places: number): void {
  const total = (left: number) =>
    surfaceOf(b, weights, node, 0, left) + surfaceOf(b, weights, node, 1, places - left)
  let left = 1
  for (let k = 2; k < places; k++) if (total(k) < total(left)) left = k
  for (let side = 0; side < 2; side++) {
    const reference = b.links[node * 16 + 12 + side]!
    const of = side === 0 ? left : places - left
    if (reference >= 0 && of > 1 && surfaceOf(b, weights, node, side, of) < surfaceOf(b, weights, node, side, 1)) {
      gather(b, weights, reference, of)
      continue
    }
    childBox[gathered] = node * 16 + side * 6
    childLink[gathered++] = reference
  }
}

/** Folds a binary hierarchy to nodes of eight. */
export function foldPlain(b: Binary, allocate: Allocate): Hierarchy {
  let packetCount = b.root < 0 ? packetsOf(b.root) : 0
  for (let n = 0; n < b.used; n++)
    for (let side = 12; side < 14; side++)
      if (b.links[n * 16 + side]! < 0) packetCount += packetsOf(b.links[n * 16 + side]!)
  const order = new Uint32Array(allocate(packetCount * 16)).fill(NO_TRIANGLE)
  const wide = new Float32Array(Math.max(1, b.used) * NODE_WORDS)
  const wideLinks = new Int32Array(wide.buffer)
  const slack = slackOf(b.bounds)
  const weights = weigh(b)
  let nodeCount = 0
  let packet = 0
  const leaf = (reference: number): number => {
    const first = ~reference >>> 4
    const n = ~reference & 15
    const from = packet
    const count = packetsOf(reference)
    for (let i = 0; i < n; i++) order[packet * 4 + i] = b.ids[first + i]!
    packet += count
    return ~((from << 2) | (count - 1))
  }
  // binary node, and the word where its number is wanted
  const stack = b.root >= 0 ? [b.root, -1] : []
  while (stack.length) {
    const wanted = stack.pop()!
    const binary = stack.pop()!
    const o = nodeCount * NODE_WORDS
    if (wanted >= 0) wideLinks[wanted] = nodeCount
    nodeCount++
    gathered = 0
    gather(b, weights, binary, WIDTH)
    const n = gathered
    for (let i = 0; i < WIDTH; i++) {
      for (let k = 0; k < 6; k++)
        wide[o + k * WIDTH + i] =
          i >= n ? (k < 3 ? Infinity : -Infinity) : b.nodes[childBox[i]! + k]! + (k < 3 ? -slack : slack)
      if (i < n && childLink[i]! < 0) wideLinks[o + LINKS + i] = leaf(childLink[i]!)
    }
    for (let i = n - 1; i >= 0; i--) if (childLink[i]! >= 0) stack.push(childLink[i]!, o + LINKS + i)
  }
  const root = b.root >= 0 ? 0 : leaf(b.root)
  const { memory, nodes, packets } = allocateTrace(
    Math.max(1, nodeCount) * NODE_WORDS,
    packetCount * PACKET_WORDS,
    allocate,
  )
  nodes.set(wide.subarray(0, nodeCount * NODE_WORDS))
  fillPackets(packets, order, b.position, b.index)
  return { memory, nodes, links: linksOf(nodes), packets, order, bounds: b.bounds, root, instances: null }
}

const packetsOf = (reference: number): number => Math.max(1, ((~reference & 15) + 3) >> 2)
