/**
 * Cuts the triangles of a part until no edge is longer than asked for. Whether an edge is cut depends on its two ends
 * alone, and its middle is the same number from both sides, so what was water-tight stays so: across seams of
 * coordinates, hard edges and the borders of parts.
 *
 * All edges that are too long are cut at once, into two, three or four triangles; again until none is left. Tried:
 * the longest edge alone, twice the rounds; the shorter of two diagonals where two edges are cut keeps triangles from
 * getting thin.
 */
import type { Part } from './model'
import { mapVertices, type VertexKind } from './vertices'

/** Most rounds: edges are halved in each. */
const MOST_ROUNDS = 40

/** Vertices that are there, and the two that each new one lies between. */
interface Growing {
  position: Float32Array
  count: number
  parents: Uint32Array
}

/** Room for so many vertices, with what is there. */
function grown(g: Growing, own: number, vertices: number): void {
  if (vertices * 3 <= g.position.length) return
  const room = Math.ceil(vertices * 1.5)
  const position = new Float32Array(room * 3)
  position.set(g.position)
  const parents = new Uint32Array((room - own) * 2)
  parents.set(g.parents)
  g.position = position
  g.parents = parents
}

/** Middles of edges that are cut in one round, by their ends. */
interface Middles {
  /** Vertex between two, made where there is none yet. */
  between(a: number, b: number): number
}

function createMiddles(g: Growing, own: number, most: number): Middles {
  let size = 1024
  while (size < most * 2) size *= 2
  const table = new Int32Array(size).fill(-1)
  return {
    between(a, b) {
      const low = a < b ? a : b
      const high = a < b ? b : a
      let at = (Math.imul(low, 0x9e3779b1) ^ Math.imul(high, 0x85ebca6b)) >>> 0
      at = (at ^ (at >>> 15)) & (size - 1)
      for (let v = table[at]!; v >= 0; v = table[at]!) {
        const p = (v - own) * 2
        if (g.parents[p] === low && g.parents[p + 1] === high) return v
        at = (at + 1) & (size - 1)
      }
      const v = g.count++
      table[at] = v
      const { position, parents } = g
      parents[(v - own) * 2] = low
      parents[(v - own) * 2 + 1] = high
      for (let k = 0; k < 3; k++) position[v * 3 + k] = (position[low * 3 + k]! + position[high * 3 + k]!) / 2
      return v
    },
  }
}

function squaredLength(position: Float32Array, a: number, b: number): number {
  const x = position[a * 3]! - position[b * 3]!
  const y = position[a * 3 + 1]! - position[b * 3 + 1]!
  const z = position[a * 3 + 2]! - position[b * 3 + 2]!
  return x * x + y * y + z * z
}

/** Which edges of each triangle are too long, as bits, and how many there are in all. */
function longEdges(position: Float32Array, index: Uint32Array, limit: number, marks: Uint8Array): number {
  let count = 0
  for (let t = 0; t < index.length; t += 3) {
    let bits = 0
    for (let k = 0; k < 3; k++)
      if (squaredLength(position, index[t + k]!, index[t + ((k + 1) % 3)]!) > limit) {
        bits |= 1 << k
        count++
      }
    marks[t / 3] = bits
  }
  return count
}

/** Triangles of one round. */
function cutOnce(g: Growing, index: Uint32Array, marks: Uint8Array, edges: number, middles: Middles): Uint32Array {
  const out = new Uint32Array(index.length + edges * 3)
  let to = 0
  const put = (a: number, b: number, c: number) => {
    out[to++] = a
    out[to++] = b
    out[to++] = c
  }
  for (let t = 0; t < index.length; t += 3) {
    const bits = marks[t / 3]!
    if (bits === 0) {
      put(index[t]!, index[t + 1]!, index[t + 2]!)
      continue
    }
    // turned so that the cut edges come first: 1 is a–b, 3 also b–c
    const turn = bits === 2 || bits === 6 ? 1 : bits === 4 || bits === 5 ? 2 : 0
    const a = index[t + turn]!
    const b = index[t + ((turn + 1) % 3)]!
    const c = index[t + ((turn + 2) % 3)]!
    const ab = middles.between(a, b)
    if (bits === 1 || bits === 2 || bits === 4) {
      put(a, ab, c)
      put(ab, b, c)
      continue
    }
    const bc = middles.between(b, c)
    if (bits === 7) {
      const ca = middles.between(c, a)
      put(a, ab, ca)
      put(ab, b, bc)
      put(ca, bc, c)
      put(ab, bc, ca)
      continue
    }
    put(ab, b, bc)
    if (squaredLength(g.position, a, bc) < squaredLength(g.position, ab, c)) {
      put(a, ab, bc)
      put(a, bc, c)
    } else {
      put(a, ab, c)
      put(ab, bc, c)
    }
  }
  return out
}

/** Numbers of all vertices: those between two are their mean, in the order in which they were made. */
function between(numbers: Float32Array, width: number, own: number, g: Growing): Float32Array {
  const out = new Float32Array(g.count * width)
  out.set(numbers.subarray(0, own * width))
  for (let v = own; v < g.count; v++) {
    const a = g.parents[(v - own) * 2]! * width
    const b = g.parents[(v - own) * 2 + 1]! * width
    for (let k = 0; k < width; k++) out[v * width + k] = (out[a + k]! + out[b + k]!) / 2
  }
  return out
}

/** Makes directions unit from a vertex on, and a tangent's sign that of one of its ends. */
function finish(out: Float32Array, width: number, own: number, kind: VertexKind): void {
  if (kind === 'linear') return
  for (let at = own * width; at < out.length; at += width) {
    const l = Math.sqrt(out[at]! * out[at]! + out[at + 1]! * out[at + 1]! + out[at + 2]! * out[at + 2]!)
    if (l > 0) for (let k = 0; k < 3; k++) out[at + k]! /= l
    if (kind === 'tangent') out[at + 3] = out[at + 3]! < 0 ? -1 : 1
  }
}

/** How many triangles a part has at least with edges no longer than that: as many as its area needs. */
export function trianglesFor(area: number, edge: number): number {
  // what equilateral triangles of that edge need, and between 1.2 and 2.8 times as many: edges are halved
  return (2 * 4 * area) / (Math.sqrt(3) * edge * edge)
}

/**
 * A part with no edge longer than `edge`, metres; itself where none is. What vertices carry is interpolated linearly.
 * No copy.
 */
export function tessellate(part: Part, edge: number): Part {
  const own = part.position.length / 3
  const g: Growing = { position: part.position, count: own, parents: new Uint32Array(0) }
  const limit = edge * edge
  let { index } = part
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const marks = new Uint8Array(index.length / 3)
    const edges = longEdges(g.position, index, limit, marks)
    if (edges === 0) break
    // an edge between two triangles is marked by both
    grown(g, own, g.count + edges)
    index = cutOnce(g, index, marks, edges, createMiddles(g, own, edges))
  }
  if (index === part.index) return part
  const { polygons: _, ...rest } = part
  return {
    ...mapVertices(rest, ({ numbers, width }, kind) => {
      const out = between(numbers, width, own, g)
      finish(out, width, own, kind)
      return out
    }),
    index,
  }
}
