/** Folding of the binary tree that `build.ts` made to nodes of eight children. */
import { INFINITE, NODE, RECORD, WIDE, halfArea } from './layout'

/** Children of a folded node. */
const WIDTH: i32 = 8

/**
 * Weighs, from the leaves up, how the binary nodes fold to nodes of eight with the least surface in all: for each,
 * the surface of the folded nodes below it when it gives its place to two, three … eight nodes or leaves (after
 * Wald, Benthin & Boulos, "Getting Rid of Packets", 2008). It goes where the records kept coordinates.
 * @param from to numbers of the nodes: what is below them outside was weighed before
 * @param sides room for the least surfaces of a node's two sides by places
 */
export function weigh(nodes: usize, from: i32, to: i32, records: usize, sides: usize): void {
  // what is below a node was made after it
  for (let i = to - 1; i >= from; i--) {
    const l = nodes + <usize>i * NODE,
      r = l + 32
    for (let places: i32 = 1; places < WIDTH; places++) {
      store<f32>(sides + ((<usize>places) << 2), surfaceOf(l, records, places))
      store<f32>(sides + ((<usize>places) << 2), surfaceOf(r, records, places), 32)
    }
    for (let places: i32 = 2; places <= WIDTH; places++) {
      let least = INFINITE
      for (let left: i32 = 1; left < places; left++)
        least = min(
          least,
          load<f32>(sides + ((<usize>left) << 2)) + load<f32>(sides + ((<usize>(places - left)) << 2), 32),
        )
      store<f32>(weight(records, i, places), least)
    }
  }
}

/**
 * Address of a binary node's surface when it gives its place to 2 … 8: the seven words of a record that are not
 * its number.
 */
// @ts-ignore: a decorator of AssemblyScript
@inline
function weight(records: usize, node: i32, places: i32): usize {
  return records + <usize>node * RECORD + ((<usize>(places - 2 + <i32>(places > 4))) << 2)
}

/**
 * Least surface of the folded nodes in a box's subtree when it may take up to `places` places.
 * @param p address of its box
 */
// @ts-ignore: a decorator of AssemblyScript
@inline
function surfaceOf(p: usize, records: usize, places: i32): f32 {
  const reference = load<i32>(p, 12)
  if (reference < 0) return 0
  const whole = halfArea(f32x4.sub(v128.load(p, 16), v128.load(p))) + load<f32>(weight(records, reference, WIDTH))
  return places === 1 ? whole : min(whole, load<f32>(weight(records, reference, places)))
}

/** Lists the addresses of the boxes that take the places of a binary node's. @returns where the list ends */
function gather(nodes: usize, records: usize, node: usize, places: i32, list: usize): usize {
  const l = nodes + node * NODE,
    r = l + 32
  let left = 1
  for (let k = 2; k < places; k++)
    if (
      surfaceOf(l, records, k) + surfaceOf(r, records, places - k) <
      surfaceOf(l, records, left) + surfaceOf(r, records, places - left)
    )
      left = k
  return place(nodes, records, r, places - left, place(nodes, records, l, left, list))
}

function place(nodes: usize, records: usize, p: usize, places: i32, list: usize): usize {
  const reference = load<i32>(p, 12)
  if (reference >= 0 && places > 1 && surfaceOf(p, records, places) < surfaceOf(p, records, 1))
    return gather(nodes, records, <usize>reference, places, list)
  store<u32>(list, <u32>p)
  return list + 4
}

/**
 * Begins folding.
 * @param waiting 64 KiB for what waits; its first words keep how many nodes and packets there are, and where the
 * waiting ends
 */
export function beginFold(root: i32, records: usize, order: usize, waiting: usize): void {
  const single = root < 0
  store<i32>(waiting, 0)
  store<i32>(waiting, single ? leaf(root, records, order, 0) : 0, 4)
  store<u32>(waiting, <u32>(waiting + QUEUE) + (single ? 0 : 8), 8)
  store<i32>(waiting, root, QUEUE)
  store<u32>(waiting, 0, QUEUE + 4)
}

/** Where addresses of boxes and what waits begin. */
const BOXES: usize = 16,
  QUEUE: usize = 64

/**
 * Folds binary nodes that were weighed to nodes of eight, so many at most. Leaves become packets of four places.
 * @param wide where the folded nodes go; `order` where the number of the triangle at each place goes, −1 for none
 * @param slack by how much boxes are widened
 * @param waiting what {@link beginFold} was given
 * @returns whether any wait
 */
export function fold(
  nodes: usize,
  records: usize,
  wide: usize,
  order: usize,
  slack: f32,
  waiting: usize,
  most: i32,
): bool {
  const box = waiting + BOXES,
    bottom = waiting + QUEUE
  let count = load<i32>(waiting),
    packet = load<i32>(waiting, 4),
    top = <usize>load<u32>(waiting, 8)
  for (const end = count + most; top > bottom && count < end;) {
    top -= 8
    const wanted = <usize>load<u32>(top, 4),
      o = wide + <usize>count * WIDE
    if (wanted !== 0) store<i32>(wanted, count)
    count++
    const n = (<i32>(gather(nodes, records, <usize>load<i32>(top), WIDTH, box) - box)) >> 2
    for (let i: i32 = 0; i < WIDTH; i++) {
      const q = o + ((<usize>i) << 2),
        p = <usize>load<u32>(box + ((<usize>i) << 2))
      for (let k: usize = 0; k < 3; k++) {
        store<f32>(q + k * 32, i < n ? load<f32>(p + k * 4) - slack : INFINITE)
        store<f32>(q + k * 32, i < n ? load<f32>(p + k * 4, 16) + slack : -INFINITE, 96)
      }
      store<i32>(q, 0, 192)
      if (i >= n || load<i32>(p, 12) >= 0) continue
      const reference = load<i32>(p, 12),
        size = packetsOf(reference)
      store<i32>(q, ~((packet << 2) | (size - 1)), 192)
      packet = leaf(reference, records, order, packet)
    }
    for (let i = n - 1; i >= 0; i--) {
      const reference = load<i32>(<usize>load<u32>(box + ((<usize>i) << 2)), 12)
      if (reference < 0) continue
      store<i32>(top, reference)
      store<u32>(top, <u32>(o + ((<usize>i) << 2) + 192), 4)
      top += 8
    }
  }
  store<i32>(waiting, count)
  store<i32>(waiting, packet, 4)
  store<u32>(waiting, <u32>top, 8)
  return top > bottom
}

// @ts-ignore: a decorator of AssemblyScript
@inline
function packetsOf(reference: i32): i32 {
  return max(((~reference & 15) + 3) >> 2, 1)
}

/** Writes the places of a leaf. @returns the next packet */
function leaf(reference: i32, records: usize, order: usize, packet: i32): i32 {
  const first = ~reference >>> 4,
    n = ~reference & 15,
    size = packetsOf(reference)
  for (let i = 0; i < size * 4; i++)
    store<i32>(
      order + ((<usize>(packet * 4 + i)) << 2),
      i < n ? load<i32>(records + <usize>(first + i) * RECORD, 12) : -1,
    )
  return packet + size
}
