/**
 * Instances: meshes that are there several times, each moved by a transform, with one hierarchy for all copies. A
 * tree over the instances' boxes leads to them; a ray that comes to one is taken to its space, where the mesh's
 * own nodes and packets are, and back when nothing waits there any more.
 *
 * Layout: 32 float64 words an instance: the 3 × 4 transform from the scene's space to its own, row by row, the one
 * back, then as int32 the root of its nodes, what the places of its packets are moved by so that every triangle of
 * every copy has a place of its own, the first of these, and its part. A leaf at or beyond {@link COPIES} is an
 * instance: its number is (leaf − COPIES) / 4.
 */
import { inverse, movedBox } from '../mesh/transform'
import {
  GREATEST,
  LINKS,
  linksOf,
  NO_TRIANGLE,
  NODE_WORDS,
  PACKET_WORDS,
  slackOf,
  WIDTH,
  type Allocate,
  type Hierarchy,
  type Instances,
} from './hierarchy'
import { allocateTrace } from './memory'

/** Float64 words of an instance, and int32 words. */
export const INSTANCE_WORDS = 32
export const INSTANCE_LINKS = 64
/** Float64 word of the transform back; int32 words of root, moved places, first place and part. */
export const TO_SCENE = 12
export const ROOT = 48
export const MOVED = 49
export const FIRST = 50
export const PART = 51

/** A copy of a mesh. */
export interface Copy {
  /** Number of the mesh. */
  body: number
  /** 3 × 4, row by row: from the mesh's space to the scene's. */
  transform: Float64Array
  part: number
}

/** The greatest number of places: they are counted in 32 bits. */
const MOST_PLACES = 2 ** 31 - 1
/** The least leaf that is an instance: leaves of packets are below. */
export const COPIES = 2 ** 30

/** Box of a moved hierarchy: of the boxes two steps below its root, which fit closer than its own. */
function boxOfCopy(h: Hierarchy, m: Float64Array): number[] {
  const out = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]
  const box = [0, 0, 0, 0, 0, 0]
  if (h.root < 0) {
    movedBox(h.bounds, m, out)
    return out
  }
  const visit = (node: number, depth: number): void => {
    for (let child = 0; child < WIDTH; child++) {
      const o = node * NODE_WORDS
      const reference = h.links[o + LINKS + child]!
      for (let k = 0; k < 6; k++) box[k] = h.nodes[o + k * WIDTH + child]!
      if (box[0]! > box[3]!) continue
      if (reference >= 0 && depth > 0) visit(reference, depth - 1)
      else movedBox(box, m, out)
    }
  }
  visit(h.root, 1)
  return out
}

const area = (b: readonly number[]): number => {
  const x = b[3]! - b[0]!
  const y = b[4]! - b[1]!
  const z = b[5]! - b[2]!
  return x * y + y * z + z * x
}
const joined = (a: readonly number[], b: readonly number[]): number[] =>
  a.map((x, k) => (k < 3 ? Math.min(x, b[k]!) : Math.max(x, b[k]!)))

/** Halves a list of boxes where the surface-area heuristic costs least, swept along all three axes. */
function halve(ids: number[], boxes: readonly number[][]): [number[], number[]] {
  let best = Infinity
  let halves: [number[], number[]] = [ids.slice(0, ids.length >> 1), ids.slice(ids.length >> 1)]
  for (let axis = 0; axis < 3; axis++) {
    const sorted = ids
      .slice()
      .sort((a, b) => boxes[a]![axis]! + boxes[a]![axis + 3]! - boxes[b]![axis]! - boxes[b]![axis + 3]! || a - b)
    const right: number[] = []
    for (let i = sorted.length - 1, box: number[] | undefined; i > 0; i--) {
      box = box ? joined(box, boxes[sorted[i]!]!) : boxes[sorted[i]!]!
      right[i] = area(box)
    }
    for (let i = 1, box = boxes[sorted[0]!]!; i < sorted.length; i++) {
      const cost = area(box) * i + right[i]! * (sorted.length - i)
      if (cost < best) {
        best = cost
        halves = [sorted.slice(0, i), sorted.slice(i)]
      }
      box = joined(box, boxes[sorted[i]!]!)
    }
  }
  return halves
}

/**
 * A tree over boxes, eight children a node: boxes of the children, and of each its node or, negative, ~ the number
 * of its box.
 */
interface Tree {
  boxes: number[][][]
  children: number[][]
  root: number
}

function treeOf(boxes: readonly number[][]): Tree {
  const tree: Tree = { boxes: [], children: [], root: 0 }
  const boxOf = (ids: readonly number[]) => ids.reduce((b, i) => joined(b, boxes[i]!), boxes[ids[0]!]!)
  const group = (ids: number[]) => {
    const box = boxOf(ids)
    return { ids, box, area: area(box) }
  }
  const node = (ids: number[]): number => {
    if (ids.length === 1) return ~ids[0]!
    const groups = [group(ids)]
    while (groups.length < WIDTH) {
      const largest = groups.reduce(
        (l, g, i) => (g.ids.length > 1 && (l < 0 || g.area > groups[l]!.area) ? i : l),
        -1,
      )
      if (largest < 0) break
      groups.splice(largest, 1, ...halve(groups[largest]!.ids, boxes).map(group))
    }
    const number = tree.boxes.push(groups.map(g => g.box)) - 1
    const children: number[] = []
    tree.children[number] = children
    for (const g of groups) children.push(node(g.ids))
    return number
  }
  tree.root = node(boxes.map((_, i) => i))
  return tree
}

/**
 * Joins a hierarchy of what is there once with those of meshes that are there as copies.
 * @param loose what is there once; undefined where nothing is
 * @param bodies hierarchies of the meshes, and the number of the first triangle of each
 * @param copies at least one
 * @throws RangeError where the copies have more triangles together than can be counted
 */
export function joinInstances(
  loose: Hierarchy | undefined,
  bodies: readonly { hierarchy: Hierarchy; triangle: number }[],
  copies: readonly Copy[],
  allocate: Allocate,
): Hierarchy {
  const sources = [...(loose ? [{ hierarchy: loose, triangle: 0 }] : []), ...bodies]
  const shift = sources.length - bodies.length
  const boxes = copies.map(c => boxOfCopy(bodies[c.body]!.hierarchy, c.transform))
  const all = loose ? [[...loose.bounds], ...boxes] : boxes
  const bounds = Float32Array.from(all.reduce(joined))
  const slack = slackOf(bounds)
  const tree = treeOf(all)
  const nodeStart: number[] = []
  const packetStart: number[] = []
  let nodeCount = tree.boxes.length
  let packetCount = 0
  for (const { hierarchy: h } of sources) {
    nodeStart.push(nodeCount)
    packetStart.push(packetCount)
    nodeCount += h.root >= 0 ? h.nodes.length / NODE_WORDS : 0
    packetCount += h.order.length / 4
  }
  if (packetCount * 4 >= COPIES) throw new RangeError('more triangles than can be counted')
  const moved = (reference: number, s: number) =>
    reference >= 0 ? reference + nodeStart[s]! : ~(~reference + packetStart[s]! * 4)
  const leafOf = (box: number) => (box < shift ? moved(loose!.root, 0) : ~(COPIES + (box - shift) * 4))
  const link = (child: number) => (child >= 0 ? child : leafOf(~child))
  const { memory, nodes, packets, instances } = allocateTrace(
    Math.max(1, nodeCount) * NODE_WORDS,
    packetCount * PACKET_WORDS,
    allocate,
    copies.length * INSTANCE_WORDS,
  )
  const links = linksOf(nodes)
  const order = new Uint32Array(allocate(packetCount * 16))
  tree.boxes.forEach((of, n) => {
    for (let i = 0; i < WIDTH; i++)
      for (let k = 0; k < 6; k++)
        nodes[n * NODE_WORDS + k * WIDTH + i] =
          i >= of.length ? (k < 3 ? Infinity : -Infinity) : of[i]![k]! + (k < 3 ? -slack : slack)
    tree.children[n]!.forEach((child, i) => {
      links[n * NODE_WORDS + LINKS + i] = link(child)
    })
  })
  sources.forEach(({ hierarchy: h, triangle }, s) => {
    packets.set(h.packets, packetStart[s]! * PACKET_WORDS)
    for (let i = 0; i < h.order.length; i++)
      order[packetStart[s]! * 4 + i] = h.order[i] === NO_TRIANGLE ? NO_TRIANGLE : h.order[i]! + triangle
    if (h.root < 0) return
    const start = nodeStart[s]! * NODE_WORDS
    nodes.set(h.nodes, start)
    for (let o = start; o < start + h.nodes.length; o += NODE_WORDS)
      for (let k = o; k < o + WIDTH; k++) {
        // an empty box marks a missing child
        if (nodes[k]! <= nodes[k + GREATEST]!) links[k + LINKS] = moved(links[k + LINKS]!, s)
      }
  })
  const of = instancesIn(instances, loose ? loose.order.length : 0)
  copies.forEach((c, i) => {
    const h = bodies[c.body]!.hierarchy
    const s = c.body + shift
    const there = inverse(c.transform)
    const o = i * INSTANCE_LINKS
    if (!there) throw new RangeError('a copy is moved by a transform that has no inverse')
    of.words.set(there, i * INSTANCE_WORDS)
    of.words.set(c.transform, i * INSTANCE_WORDS + TO_SCENE)
    of.links[o + ROOT] = moved(h.root, s)
    of.links[o + MOVED] = of.places - packetStart[s]! * 4
    of.links[o + FIRST] = of.places
    of.links[o + PART] = c.part
    of.places += h.order.length
    if (of.places > MOST_PLACES) throw new RangeError('more triangles than can be counted')
  })
  return { memory, nodes, links, packets, order, bounds, root: link(tree.root), instances: of }
}

/** Instances whose transforms, roots and places are written in an array. */
export const instancesIn = (words: Float64Array, places: number): Instances => ({
  count: words.length / INSTANCE_WORDS,
  words,
  links: new Int32Array(words.buffer, words.byteOffset, words.length * 2),
  places,
})

/** Number of the instance that a place belongs to; −1 for what is there once. */
export function instanceAt(of: Instances, place: number): number {
  if (place < of.links[FIRST]!) return -1
  let low = 0
  let high = of.count - 1
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (of.links[middle * INSTANCE_LINKS + FIRST]! <= place) low = middle
    else high = middle - 1
  }
  return low
}

/**
 * Where the packets and the order hold the triangle of a place.
 * @param instance number of its instance; −1 for what is there once
 */
export const storedPlace = (of: Instances, instance: number, place: number): number =>
  instance < 0 ? place : place - of.links[instance * INSTANCE_LINKS + MOVED]!
