export interface Instances {
  count: number
  /** Transforms, {@link INSTANCE_WORDS} an instance. */
  words: Float64Array
  /** The same memory as int32. */
  links: Int32Array
  /** Places in all: those below the first instance's belong to no instance. */
  places: number
}

/**
 * Bounding volume hierarchy over triangles, eight children a node: its layout, shared by the builders, the kernel
 * and the plain caster.
 *
 * Layout: a node is 64 float32 words, four lines of a processor's cache: least x of its eight children, least y,
 * least z, greatest x, y, z, then (read as int32) the references to the children, then eight that are not used. A
 * missing child has an empty box. A reference ≥ 0 is a node; a negative one is a leaf whose bits are ~(first
 * packet << 2 | packets − 1). A packet is 36 float32 words: x of the first corner of its four triangles, then y,
 * z, and the other corners alike, copied exactly, so that neighbours share their edges to the bit. A hit names a
 * place: packet · 4 + lane. Places without a triangle hold three corners at the origin. Where all of it lies:
 * `memory.ts`. Meshes that are there several times: `instances.ts`.
 */
export interface Hierarchy {
  /** What nodes and packets lie in, for the kernel; null where they are ordinary arrays. */
  memory: WebAssembly.Memory | null
  /** Node words; see the layout above. */
  nodes: Float32Array
  /** The same memory as int32. */
  links: Int32Array
  /** Corners by packets; see the layout above. */
  packets: Float32Array
  /** Original index of the triangle at each place; {@link NO_TRIANGLE} where there is none. */
  order: Uint32Array
  /** Box of everything: min x y z, max x y z. */
  bounds: Float32Array
  /** Reference of the root (a node or, for tiny meshes, a leaf). */
  root: number
  /** What is there as copies; null where everything is there once. */
  instances: Instances | null
}
/** Children of a node, words of it, and where its greatest coordinates and its references begin. */
export const WIDTH = 8
export const NODE_WORDS = 64
export const GREATEST = 3 * WIDTH
export const LINKS = 6 * WIDTH
export const PACKET_WORDS = 36
export const NO_TRIANGLE = 0xffffffff

/**
 * Word of a place's first coordinate in {@link Hierarchy.packets}; the other coordinates follow in steps of four.
 */
export const placeWord = (place: number): number => (place >> 2) * PACKET_WORDS + (place & 3)

/**
 * By how much boxes are made larger than what they hold, so that testing them in float32 never misses it.
 * @param bounds box of everything
 */
export const slackOf = (bounds: Float32Array): number =>
  2.4e-7 * bounds.reduce((m, x) => Math.max(m, Math.abs(x)), 0)

/** Makes arrays; given a SharedArrayBuffer allocator, workers can share them. */
export type Allocate = (bytes: number) => ArrayBufferLike

/** The references in nodes: the same memory as int32. */
export const linksOf = (nodes: Float32Array): Int32Array =>
  new Int32Array(nodes.buffer, nodes.byteOffset, nodes.length)

/** Memory that tracing needs for each triangle, bytes. */
export function bytesPerTriangle(h: Hierarchy): number {
  return (
    (h.nodes.byteLength + h.packets.byteLength + h.order.byteLength) /
    h.order.reduce((n, t) => (t === NO_TRIANGLE ? n : n + 1), 0)
  )
}

/** Copies the corners of the triangles in `order` to their places. */
export function fillPackets(
  packets: Float32Array,
  order: Uint32Array,
  position: Float32Array,
  index: Uint32Array,
): void {
  for (let place = 0; place < order.length; place++) {
    if (order[place] === NO_TRIANGLE) continue
    const o = placeWord(place)
    const t = order[place]! * 3
    for (let v = 0; v < 3; v++) {
      const p = index[t + v]! * 3
      const w = o + v * 12
      packets[w] = position[p]!
      packets[w + 4] = position[p + 1]!
      packets[w + 8] = position[p + 2]!
    }
  }
}
