import {
  fillPackets,
  GREATEST,
  LINKS,
  NO_TRIANGLE,
  NODE_WORDS,
  placeWord,
  slackOf,
  WIDTH,
  type Hierarchy,
} from './hierarchy'

/**
 * Fits a hierarchy to moved vertices, its shape staying as it is: for small movements a fraction of a build. Nodes
 * come after their parents, so one sweep backwards does it.
 * @param position vertex coordinates, as many as it was built from
 * @param index the triangles it was built from
 * @throws RangeError where it has copies: their meshes are fitted before they are joined
 */
export function refit(h: Hierarchy, position: Float32Array, index: Uint32Array): void {
  if (h.instances !== null) throw new RangeError('a hierarchy with copies cannot be fitted')
  const { nodes, links, packets, order, bounds } = h
  fillPackets(packets, order, position, index)
  bounds.fill(Infinity, 0, 3).fill(-Infinity, 3, 6)
  for (let place = 0; place < order.length; place++) if (order[place] !== NO_TRIANGLE) grow(bounds, packets, place)
  if (h.root < 0) return
  const slack = slackOf(bounds)
  for (let o = nodes.length - NODE_WORDS; o >= 0; o -= NODE_WORDS)
    for (let child = 0; child < WIDTH; child++) {
      const reference = links[o + LINKS + child]!
      // an empty box marks a missing child
      if (nodes[o + child]! > nodes[o + GREATEST + child]!) continue
      if (reference < 0) boxOfLeaf(h, ~reference)
      else boxOfNode(nodes, reference * NODE_WORDS)
      for (let k = 0; k < 3; k++) {
        nodes[o + k * WIDTH + child] = box[k]! - (reference < 0 ? slack : 0)
        nodes[o + GREATEST + k * WIDTH + child] = box[k + 3]! + (reference < 0 ? slack : 0)
      }
    }
}

const box = new Float64Array(6)

/** Makes a box (least x y z, greatest x y z) hold the triangle at a place. */
function grow(box: Float32Array | Float64Array, packets: Float32Array, place: number): void {
  for (let v = 0; v < 3; v++)
    for (let k = 0; k < 3; k++) {
      const x = packets[placeWord(place) + (v * 3 + k) * 4]!
      if (x < box[k]!) box[k] = x
      if (x > box[k + 3]!) box[k + 3] = x
    }
}

function boxOfLeaf({ packets, order }: Hierarchy, leaf: number): void {
  box.fill(Infinity, 0, 3).fill(-Infinity, 3, 6)
  for (let place = (leaf >> 2) * 4; place < ((leaf >> 2) + (leaf & 3) + 1) * 4; place++)
    if (order[place] !== NO_TRIANGLE) grow(box, packets, place)
}

function boxOfNode(nodes: Float32Array, o: number): void {
  for (let k = 0; k < 3; k++) {
    box[k] = Infinity
    box[k + 3] = -Infinity
    for (let i = o + k * WIDTH; i < o + (k + 1) * WIDTH; i++) {
      box[k] = Math.min(box[k]!, nodes[i]!)
      box[k + 3] = Math.max(box[k + 3]!, nodes[i + GREATEST]!)
    }
  }
}
