/**
 * Cuts the triangles of a part so that no edge is longer than asked for. Into how many pieces an edge is cut depends on
 * its two ends alone, and its new vertices are the same numbers from both sides, so what was water-tight stays so:
 * across seams of coordinates, hard edges and the borders of parts.
 *
 * A triangle becomes rows of triangles along its two more finely cut edges, each row with as many pieces as are left
 * of the third. Tried: halving all edges that are too long until none is left, which cuts fans of long thin triangles
 * (the bottom of a turned body) into ten times as many: 893,568 and not 91,000 on a lantern's housing.
 */
import type { Part } from './model'
import { mapVertices, type VertexKind } from './vertices'

/** Pieces that an edge of that squared length is cut into. */
const piecesOf = (squared: number, edge: number): number =>
  Math.max(1, Math.ceil(Math.sqrt(squared) / edge - 1e-9))

function squaredLength(position: Float32Array, a: number, b: number): number {
  const x = position[a * 3]! - position[b * 3]!
  const y = position[a * 3 + 1]! - position[b * 3 + 1]!
  const z = position[a * 3 + 2]! - position[b * 3 + 2]!
  return x * x + y * y + z * z
}

/**
 * How a triangle is cut into rows. The base is its least cut edge; rows run from it to the corner across.
 */
const plan = {
  /** Corner that the base begins at: 0, 1 or 2. */
  turn: 0,
  /** Pieces of the base, of the edge from its end to the corner across, and of that from there to its beginning. */
  base: 0,
  right: 0,
  left: 0,
  rows: 0,
}

/** Makes the plan of a triangle whose edges are cut into so many pieces. */
function planRows(n0: number, n1: number, n2: number): void {
  plan.turn = n0 <= n1 && n0 <= n2 ? 0 : n1 <= n2 ? 1 : 2
  plan.base = plan.turn === 0 ? n0 : plan.turn === 1 ? n1 : n2
  plan.right = plan.turn === 0 ? n1 : plan.turn === 1 ? n2 : n0
  plan.left = plan.turn === 0 ? n2 : plan.turn === 1 ? n0 : n1
  plan.rows = Math.max(plan.right, plan.left)
}

/** Pieces of a row; none at the corner. */
const piecesOfRow = (row: number): number =>
  row === plan.rows ? 0 : Math.max(1, Math.round(plan.base * (1 - row / plan.rows)))

/** Which vertex of a side a row ends at, counted from the base. */
const endOfRow = (row: number, side: number): number => Math.floor((row * side) / plan.rows)

/** Triangles and inner vertices of the plan. */
const counted = { triangles: 0, inside: 0 }
function countPlan(): void {
  counted.triangles = 0
  counted.inside = 0
  for (let row = 0; row < plan.rows; row++) {
    const pieces = piecesOfRow(row)
    if (row > 0) counted.inside += pieces - 1
    // a zip of both rows, less one for a side that does not go on
    counted.triangles += pieces + piecesOfRow(row + 1)
    if (endOfRow(row, plan.left) === endOfRow(row + 1, plan.left)) counted.triangles--
    if (endOfRow(row, plan.right) === endOfRow(row + 1, plan.right)) counted.triangles--
  }
}

/** How many triangles a part has at most with no edge longer than that. */
export function trianglesFor({ position, index }: Pick<Part, 'position' | 'index'>, edge: number): number {
  let count = 0
  for (let t = 0; t < index.length; t += 3) {
    const n0 = piecesOf(squaredLength(position, index[t]!, index[t + 1]!), edge)
    const n1 = piecesOf(squaredLength(position, index[t + 1]!, index[t + 2]!), edge)
    const n2 = piecesOf(squaredLength(position, index[t + 2]!, index[t]!), edge)
    // rows get shorter from one to the next: the mean is half of the base
    count += Math.max(n0, n1, n2) * (Math.min(n0, n1, n2) + 1)
  }
  return count
}

/** Edges of a mesh, each once, by its two vertices. */
interface Edges {
  /** Of each corner, the edge to the next one. */
  of: Uint32Array
  low: Uint32Array
  high: Uint32Array
  pieces: Uint32Array
  /** First new vertex on each; they run from `low` to `high`. */
  first: Uint32Array
}

function edgesOf(position: Float32Array, index: Uint32Array, edge: number): { edges: Edges; vertices: number } {
  let size = 1024
  while (size < index.length * 2) size *= 2
  const table = new Int32Array(size).fill(-1)
  const of = new Uint32Array(index.length)
  const low = new Uint32Array(index.length)
  const high = new Uint32Array(index.length)
  let count = 0
  for (let c = 0; c < index.length; c++) {
    const v = index[c]!
    const w = index[c % 3 === 2 ? c - 2 : c + 1]!
    const a = v < w ? v : w
    const b = v < w ? w : v
    let at = (Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b)) >>> 0
    at = (at ^ (at >>> 15)) & (size - 1)
    let e = table[at]!
    while (e >= 0 && !(low[e] === a && high[e] === b)) {
      at = (at + 1) & (size - 1)
      e = table[at]!
    }
    if (e < 0) {
      e = count++
      table[at] = e
      low[e] = a
      high[e] = b
    }
    of[c] = e
  }
  const pieces = new Uint32Array(count)
  const first = new Uint32Array(count)
  let vertices = position.length / 3
  for (let e = 0; e < count; e++) {
    pieces[e] = piecesOf(squaredLength(position, low[e]!, high[e]!), edge)
    first[e] = vertices
    vertices += pieces[e]! - 1
  }
  return { edges: { of, low: low.subarray(0, count), high: high.subarray(0, count), pieces, first }, vertices }
}

/** Which triangle each inner vertex lies in, and its weights of the triangle's corners. */
interface Inner {
  first: number
  corner: Uint32Array
  weight: Float64Array
}

/** Whether the place of one vertex comes before that of another: by x, then y, then z. */
function comesFirst(position: Float32Array, a: number, b: number): boolean {
  for (let k = 0; k < 3; k++) {
    const d = position[a * 3 + k]! - position[b * 3 + k]!
    if (d !== 0) return d < 0
  }
  return true
}

/** Lays the inner vertices of all triangles: evenly between the ends of their rows. */
function layInside(index: Uint32Array, edges: Edges, own: number): { inner: Inner; triangles: number } {
  let triangles = 0
  let inside = 0
  for (let t = 0; t < index.length; t += 3) {
    planAt(edges, t)
    countPlan()
    triangles += counted.triangles
    inside += counted.inside
  }
  const inner: Inner = { first: own, corner: new Uint32Array(inside), weight: new Float64Array(inside * 3) }
  let made = 0
  for (let t = 0; t < index.length; t += 3) {
    planAt(edges, t)
    const { turn, left, right, rows } = plan
    for (let row = 1; row < rows; row++) {
      const pieces = piecesOfRow(row)
      const l = endOfRow(row, left) / left
      const r = endOfRow(row, right) / right
      for (let i = 1; i < pieces; i++) {
        const s = i / pieces
        inner.corner[made] = t
        inner.weight[made * 3 + turn] = (1 - s) * (1 - l)
        inner.weight[made * 3 + ((turn + 1) % 3)] = s * (1 - r)
        inner.weight[made * 3 + ((turn + 2) % 3)] = (1 - s) * l + s * r
        made++
      }
    }
  }
  return { inner, triangles }
}

/** Makes the plan of the triangle whose corners are at `t`. */
function planAt({ of, pieces }: Edges, t: number): void {
  planRows(pieces[of[t]!]!, pieces[of[t + 1]!]!, pieces[of[t + 2]!]!)
}

/**
 * Triangles between the rows.
 * @param position of all vertices
 * @param own number of the first inner vertex
 */
function zipRows(
  index: Uint32Array,
  edges: Edges,
  position: Float32Array,
  own: number,
  triangles: number,
): Uint32Array {
  const out = new Uint32Array(triangles * 3)
  let to = 0
  let made = own
  /** Vertex of an edge, counted from the one that its corner begins at. */
  const onEdge = (t: number, k: number, i: number): number => {
    const e = edges.of[t + k]!
    const n = edges.pieces[e]!
    if (i === 0) return index[t + k]!
    if (i === n) return index[t + ((k + 1) % 3)]!
    return edges.first[e]! + (edges.low[e] === index[t + k] ? i - 1 : n - 1 - i)
  }
  /** Vertex of a row. @param first inner one of that row */
  const onRow = (t: number, row: number, pieces: number, i: number, first: number): number => {
    if (row === 0) return onEdge(t, plan.turn, i)
    if (i === 0) return onEdge(t, (plan.turn + 2) % 3, plan.left - endOfRow(row, plan.left))
    if (i === pieces) return onEdge(t, (plan.turn + 1) % 3, endOfRow(row, plan.right))
    return first + i - 1
  }
  for (let t = 0; t < index.length; t += 3) {
    planAt(edges, t)
    let start = made
    for (let row = 0; row < plan.rows; row++) {
      const pieces = piecesOfRow(row)
      const above = piecesOfRow(row + 1)
      const next = row === 0 ? made : start + pieces - 1
      let a = onRow(t, row, pieces, 0, start)
      let b = onRow(t, row + 1, above, 0, next)
      for (let i = 0, j = 0; i < pieces || j < above;) {
        const right = i < pieces ? onRow(t, row, pieces, i + 1, start) : a
        const up = j < above ? onRow(t, row + 1, above, j + 1, next) : b
        // by the shorter of two diagonals
        const lower =
          j === above || (i < pieces && squaredLength(position, right, b) <= squaredLength(position, a, up))
        const c = lower ? right : up
        if (a !== b && b !== c && c !== a) {
          out[to++] = a
          out[to++] = c
          out[to++] = b
        }
        if (lower) {
          i++
          a = c
        } else {
          j++
          b = c
        }
      }
      start = next
      made = next + Math.max(0, above - 1)
    }
  }
  return out.subarray(0, to)
}

/** Numbers of all vertices: those there were, those on edges, those inside triangles. */
function interpolated(
  numbers: Float32Array,
  width: number,
  { position, index }: Part,
  { low, high, pieces, first }: Edges,
  { first: inside, corner, weight }: Inner,
): Float32Array {
  const out = new Float32Array((inside + corner.length) * width)
  out.set(numbers)
  for (let e = 0; e < low.length; e++) {
    const n = pieces[e]!
    if (n === 1) continue
    // from the same end whichever side asks, so that both get the same number
    const forward = comesFirst(position, low[e]!, high[e]!)
    const a = (forward ? low[e]! : high[e]!) * width
    const b = (forward ? high[e]! : low[e]!) * width
    for (let i = 1; i < n; i++) {
      const at = (first[e]! + (forward ? i : n - i) - 1) * width
      const s = i / n
      for (let k = 0; k < width; k++) out[at + k] = numbers[a + k]! + s * (numbers[b + k]! - numbers[a + k]!)
    }
  }
  for (let i = 0; i < corner.length; i++) {
    const t = corner[i]!
    const a = index[t]! * width
    const b = index[t + 1]! * width
    const c = index[t + 2]! * width
    const u = weight[i * 3]!
    const v = weight[i * 3 + 1]!
    const w = weight[i * 3 + 2]!
    const at = (inside + i) * width
    for (let k = 0; k < width; k++) out[at + k] = u * numbers[a + k]! + v * numbers[b + k]! + w * numbers[c + k]!
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

/**
 * A part whose edges are cut into pieces no longer than `edge`, metres, and none inside its triangles longer than 1.5
 * times that; itself where no edge is longer. What vertices carry is interpolated linearly. No copy.
 */
export function tessellate(part: Part, edge: number): Part {
  const own = part.position.length / 3
  const { edges, vertices } = edgesOf(part.position, part.index, edge)
  if (vertices === own) return part
  const { inner, triangles } = layInside(part.index, edges, vertices)
  const position = interpolated(part.position, 3, part, edges, inner)
  const { polygons: _, ...rest } = part
  return {
    ...mapVertices(rest, ({ numbers, width }, kind) => {
      const out = numbers === part.position ? position : interpolated(numbers, width, part, edges, inner)
      finish(out, width, own, kind)
      return out
    }),
    index: zipRows(part.index, edges, position, vertices, triangles),
  }
}
