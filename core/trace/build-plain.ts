/**
 * The plain builder of the hierarchy, where the kernel's cannot run: binned surface-area heuristic (Wald 2007),
 * built binary and then folded to eight children a node.
 *
 * Tried, on the 500 k sphere of the peer comparison (ratio to three-mesh-bvh), in plain TypeScript with two
 * children a node: one box a node 1.7; both children's boxes in the parent 2.4; leaves of at most 4 against 2 and
 * 8 triangles: best at 4. Bins: 16 costs 1 % of speed against 32 and builds faster. Building the lantern (116 k
 * triangles): one closure for everything 950–1150 ms; functions of the module, warmed up (see `warmUp`), 8 bins
 * below 33 triangles 560–750 ms; the same with Math.min instead of branches 830–1000 ms.
 */
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

const BINS = 16
const LEAF = 4

/**
 * Builds the hierarchy.
 * @param position vertex coordinates, three a vertex
 * @param index three vertex numbers a triangle
 */
export function buildPlain(
  position: Float32Array,
  index: Uint32Array,
  allocate: Allocate = bytes => new ArrayBuffer(bytes),
): Hierarchy {
  if (!warm) warmUp()
  const count = index.length / 3
  const boxes = triangleBoxes(position, index)
  const ids = new Uint32Array(count)
  for (let t = 0; t < count; t++) ids[t] = t
  const scratch = new Float32Array(Math.max(1, count) * 16)
  const scratchLinks = new Int32Array(scratch.buffer)
  let used = 0
  let root = ~0
  const bounds = new Float32Array(6)
  // Explicit stack of [first, count, parent node, side]: a degenerate mesh must not exhaust the call stack.
  const stack = [0, count, -1, 0]
  while (stack.length) {
    const side = stack.pop()!
    const parent = stack.pop()!
    const n = stack.pop()!
    const first = stack.pop()!
    measure(boxes, first, n)
    if (parent >= 0) for (let k = 0, o = parent * 16 + side * 6; k < 6; k++) scratch[o + k] = box[k]!
    else bounds.set(box)
    const left = n <= LEAF ? 0 : split(boxes, ids, first, n)
    let reference
    if (left === 0) reference = ~((first << 4) | n)
    else {
      reference = used++
      stack.push(first + left, n - left, reference, 1, first, left, reference, 0)
    }
    if (parent >= 0) scratchLinks[parent * 16 + 12 + side] = reference
    else root = reference
  }
  if (count === 0) {
    root = ~0
    bounds.fill(0)
  }
  return fold({ nodes: scratch, links: scratchLinks, used, root, bounds, ids, position, index }, allocate)
}

interface Binary {
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
function fold(b: Binary, allocate: Allocate): Hierarchy {
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

let warm = false
/**
 * Builds a small hierarchy once. V8 compiles a function while its first long loop still runs; what comes after
 * that loop has then never run, and the compiled code is left there each time it is entered again: a large first
 * mesh was built four times slower, and so was every mesh after it.
 */
function warmUp(): void {
  warm = true
  const n = 400
  const position = Float32Array.from({ length: n * 9 }, (_, i) => Math.sin(i * 12.9898) * (i % 7))
  for (let k = 0; k < 4; k++)
    buildPlain(
      position,
      Uint32Array.from({ length: n * 3 }, (_, i) => i),
    )
}

/** Box of each triangle: min x y z, max x y z. */
function triangleBoxes(position: Float32Array, index: Uint32Array): Float32Array {
  const count = index.length / 3
  const boxes = new Float32Array(count * 6)
  for (let t = 0; t < count; t++) {
    const a = index[t * 3]! * 3
    const b = index[t * 3 + 1]! * 3
    const c = index[t * 3 + 2]! * 3
    for (let k = 0; k < 3; k++) {
      const x = position[a + k]!
      const y = position[b + k]!
      const z = position[c + k]!
      boxes[t * 6 + k] = x < y ? (x < z ? x : z) : y < z ? y : z
      boxes[t * 6 + 3 + k] = x > y ? (x > z ? x : z) : y > z ? y : z
    }
  }
  return boxes
}

/** Box of the triangles measured last, and the box of their doubled centres. */
const box = new Float64Array(6)
const middle = new Float64Array(6)

/** Measures the triangles [first, first + n) into `box` and `middle`. */
function measure(boxes: Float32Array, first: number, n: number): void {
  let x0 = Infinity
  let y0 = Infinity
  let z0 = Infinity
  let x1 = -Infinity
  let y1 = -Infinity
  let z1 = -Infinity
  let cx0 = Infinity
  let cy0 = Infinity
  let cz0 = Infinity
  let cx1 = -Infinity
  let cy1 = -Infinity
  let cz1 = -Infinity
  for (let o = first * 6, end = o + n * 6; o < end; o += 6) {
    const ax = boxes[o]!
    const ay = boxes[o + 1]!
    const az = boxes[o + 2]!
    const bx = boxes[o + 3]!
    const by = boxes[o + 4]!
    const bz = boxes[o + 5]!
    x0 = Math.min(x0, ax)
    y0 = Math.min(y0, ay)
    z0 = Math.min(z0, az)
    x1 = Math.max(x1, bx)
    y1 = Math.max(y1, by)
    z1 = Math.max(z1, bz)
    const cx = ax + bx
    const cy = ay + by
    const cz = az + bz
    cx0 = Math.min(cx0, cx)
    cy0 = Math.min(cy0, cy)
    cz0 = Math.min(cz0, cz)
    cx1 = Math.max(cx1, cx)
    cy1 = Math.max(cy1, cy)
    cz1 = Math.max(cz1, cz)
  }
  box[0] = x0
  box[1] = y0
  box[2] = z0
  box[3] = x1
  box[4] = y1
  box[5] = z1
  middle[0] = cx0
  middle[1] = cy0
  middle[2] = cz0
  middle[3] = cx1
  middle[4] = cy1
  middle[5] = cz1
}

/** Bins of one axis: count and box of each. */
const binCount = new Int32Array(BINS)
const binBox = new Float64Array(BINS * 6)
const rightArea = new Float64Array(BINS)
const rightCount = new Int32Array(BINS)
/** Best split found so far: cost, bin after which it lies. */
const found = new Float64Array(2)

/**
 * Partitions ids[first … first + n) by the best split of what was measured last; returns the size of the left
 * half, or 0 for a leaf.
 */
function split(boxes: Float32Array, ids: Uint32Array, first: number, n: number): number {
  // few triangles need no fine bins, whose sweeping would cost more than the triangles
  const bins = n > 32 ? BINS : 8
  let best = Infinity
  let bestAxis = -1
  let bestBin = 0
  for (let axis = 0; axis < 3; axis++) {
    const extent = middle[3 + axis]! - middle[axis]!
    if (!((bins * (1 - 1e-6)) / extent < 1e30)) continue
    fillBins(boxes, first, n, axis, middle[axis]!, (bins * (1 - 1e-6)) / extent, bins)
    sweepBins(bins)
    if (found[0]! < best) {
      best = found[0]!
      bestAxis = axis
      bestBin = found[1]!
    }
  }
  if (bestAxis < 0) return n <= 15 ? 0 : n >> 1 // all centres coincide
  return partition(
    boxes,
    ids,
    first,
    n,
    bestAxis,
    middle[bestAxis]!,
    (bins * (1 - 1e-6)) / (middle[3 + bestAxis]! - middle[bestAxis]!),
    bestBin,
  )
}

const halfArea = (x: number, y: number, z: number): number => x * y + y * z + z * x

function fillBins(
  boxes: Float32Array,
  first: number,
  n: number,
  axis: number,
  low: number,
  scale: number,
  bins: number,
): void {
  for (let b = 0; b < bins; b++) {
    binCount[b] = 0
    const q = b * 6
    binBox[q] = Infinity
    binBox[q + 1] = Infinity
    binBox[q + 2] = Infinity
    binBox[q + 3] = -Infinity
    binBox[q + 4] = -Infinity
    binBox[q + 5] = -Infinity
  }
  for (let o = first * 6, end = o + n * 6; o < end; o += 6) {
    const bin = ((boxes[o + axis]! + boxes[o + 3 + axis]! - low) * scale) | 0
    const q = bin * 6
    binCount[bin] = binCount[bin]! + 1
    const ax = boxes[o]!
    const ay = boxes[o + 1]!
    const az = boxes[o + 2]!
    const bx = boxes[o + 3]!
    const by = boxes[o + 4]!
    const bz = boxes[o + 5]!
    if (ax < binBox[q]!) binBox[q] = ax
    if (ay < binBox[q + 1]!) binBox[q + 1] = ay
    if (az < binBox[q + 2]!) binBox[q + 2] = az
    if (bx > binBox[q + 3]!) binBox[q + 3] = bx
    if (by > binBox[q + 4]!) binBox[q + 4] = by
    if (bz > binBox[q + 5]!) binBox[q + 5] = bz
  }
}

/** Cheapest split of the filled bins into `found`. */
function sweepBins(bins: number): void {
  let x0 = Infinity
  let y0 = Infinity
  let z0 = Infinity
  let x1 = -Infinity
  let y1 = -Infinity
  let z1 = -Infinity
  let total = 0
  for (let b = bins - 1; b > 0; b--) {
    const q = b * 6
    x0 = Math.min(x0, binBox[q]!)
    y0 = Math.min(y0, binBox[q + 1]!)
    z0 = Math.min(z0, binBox[q + 2]!)
    x1 = Math.max(x1, binBox[q + 3]!)
    y1 = Math.max(y1, binBox[q + 4]!)
    z1 = Math.max(z1, binBox[q + 5]!)
    total += binCount[b]!
    rightArea[b] = halfArea(x1 - x0, y1 - y0, z1 - z0)
    rightCount[b] = total
  }
  x0 = Infinity
  y0 = Infinity
  z0 = Infinity
  x1 = -Infinity
  y1 = -Infinity
  z1 = -Infinity
  let left = 0
  let best = Infinity
  let bestBin = 0
  for (let b = 0; b < bins - 1; b++) {
    const q = b * 6
    x0 = Math.min(x0, binBox[q]!)
    y0 = Math.min(y0, binBox[q + 1]!)
    z0 = Math.min(z0, binBox[q + 2]!)
    x1 = Math.max(x1, binBox[q + 3]!)
    y1 = Math.max(y1, binBox[q + 4]!)
    z1 = Math.max(z1, binBox[q + 5]!)
    left += binCount[b]!
    const cost =
      left === 0 || rightCount[b + 1]! === 0
        ? Infinity
        : halfArea(x1 - x0, y1 - y0, z1 - z0) * ((left + 3) >> 2) +
          rightArea[b + 1]! * ((rightCount[b + 1]! + 3) >> 2)
    if (cost < best) {
      best = cost
      bestBin = b
    }
  }
  found[0] = best
  found[1] = bestBin
}

function partition(
  boxes: Float32Array,
  ids: Uint32Array,
  first: number,
  n: number,
  axis: number,
  low: number,
  scale: number,
  lastLeft: number,
): number {
  let i = first
  let j = first + n - 1
  while (i <= j) {
    const o = i * 6
    if ((((boxes[o + axis]! + boxes[o + 3 + axis]! - low) * scale) | 0) <= lastLeft) {
      i++
      continue
    }
    const p = j * 6
    const t = ids[i]!
    ids[i] = ids[j]!
    ids[j] = t
    for (let k = 0; k < 6; k++) {
      const x = boxes[o + k]!
      boxes[o + k] = boxes[p + k]!
      boxes[p + k] = x
    }
    j--
  }
  return i - first
}
