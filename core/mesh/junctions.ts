/**
 * Vertices that lie on an edge of another triangle, where a mesh looks closed and is not: the edge is cut there, so
 * that both sides have the same vertices.
 */
import { firstAlike } from './alike'
import { BORDER, trianglesAsPolygons, twinsOf } from './edges'
import type { Part } from './model'
import { mapVertices } from './vertices'

/** How far beside an edge a vertex may lie, in lengths of the edge. */
const BESIDE = 1e-5

/** A vertex that lies on an edge: which, and how far along from the edge's first end. */
interface Junction {
  vertex: number
  along: number
}

/** Vertices of borders, those of least x first, each place once. */
function borderVertices(
  position: Float32Array,
  index: Uint32Array,
  twin: Int32Array,
  next: Uint32Array,
): number[] {
  const on = new Set<number>()
  for (let c = 0; c < index.length; c++)
    if (twin[c] === BORDER) {
      on.add(index[c]!)
      on.add(index[next[c]!]!)
    }
  return [...on].sort((a, b) => position[a * 3]! - position[b * 3]!)
}

/** Those that lie on the edge from a to b, the nearest to a first. */
function junctionsOn(position: Float32Array, a: number, b: number, sorted: readonly number[]): Junction[] {
  const from = [0, 1, 2].map(k => position[a * 3 + k]!)
  const way = from.map((x, k) => position[b * 3 + k]! - x)
  const squared = way.reduce((s, x) => s + x * x, 0)
  if (!(squared > 0)) return []
  const slack = BESIDE * Math.sqrt(squared)
  const least = Math.min(from[0]!, from[0]! + way[0]!) - slack
  const most = Math.max(from[0]!, from[0]! + way[0]!) + slack
  let low = 0
  let high = sorted.length
  while (low < high) {
    const middle = (low + high) >> 1
    if (position[sorted[middle]! * 3]! < least) low = middle + 1
    else high = middle
  }
  const found: Junction[] = []
  for (let i = low; i < sorted.length && position[sorted[i]! * 3]! <= most; i++) {
    const v = sorted[i]!
    const d = from.map((x, k) => position[v * 3 + k]! - x)
    const along = d.reduce((s, x, k) => s + x * way[k]!, 0) / squared
    if (!(along > BESIDE && along < 1 - BESIDE)) continue
    if (d.reduce((s, x, k) => s + (x - along * way[k]!) ** 2, 0) > slack * slack) continue
    if (!found.some(j => Math.abs(j.along - along) < BESIDE)) found.push({ vertex: v, along })
  }
  return found.sort((p, q) => p.along - q.along)
}

/** New vertices: each lies between two, at the place of a third. */
interface Inserted {
  a: number
  b: number
  along: number
  at: number
}

/**
 * A part whose borders have no vertex of another triangle between their ends; itself where there is none. What
 * vertices carry is interpolated along the edge.
 */
export function mendJunctions(part: Part): Part {
  const { position, index } = part
  const first = firstAlike(position.length / 3, [{ numbers: position, width: 3 }])
  const polygons = trianglesAsPolygons(index.map(v => first[v]!))
  const twin = twinsOf(polygons)
  const sorted = borderVertices(position, index, twin, polygons.next)
  if (!sorted.length) return part
  const own = position.length / 3
  const inserted: Inserted[] = []
  const out: number[] = []
  let mended = false
  for (let t = 0; t < index.length; t += 3) {
    let triangles = [[index[t]!, index[t + 1]!, index[t + 2]!]]
    for (let k = 0; k < 3; k++) {
      if (twin[t + k] !== BORDER) continue
      const [a, b] = [index[t + k]!, index[t + ((k + 1) % 3)]!]
      let before = a
      for (const { vertex, along } of junctionsOn(position, a, b, sorted)) {
        const middle = own + inserted.push({ a, b, along, at: vertex }) - 1
        triangles = triangles.flatMap(v => cutEdge(v, before, b, middle))
        before = middle
        mended = true
      }
    }
    out.push(...triangles.flat())
  }
  if (!mended) return part
  const { polygons: _, ...rest } = part
  const whole = mapVertices(rest, ({ numbers, width }) => interpolated(numbers, width, own, inserted))
  inserted.forEach(({ at }, i) => whole.position.set(position.subarray(at * 3, at * 3 + 3), (own + i) * 3))
  return { ...whole, index: Uint32Array.from(out) }
}

/** A triangle, cut in two where it has the edge from a to b. */
function cutEdge(v: readonly number[], a: number, b: number, middle: number): number[][] {
  const k = v.findIndex((x, i) => x === a && v[(i + 1) % 3] === b)
  if (k < 0) return [[...v]]
  const c = v[(k + 2) % 3]!
  return [
    [a, middle, c],
    [middle, b, c],
  ]
}

function interpolated(
  numbers: Float32Array,
  width: number,
  own: number,
  inserted: readonly Inserted[],
): Float32Array {
  const out = new Float32Array((own + inserted.length) * width)
  out.set(numbers)
  inserted.forEach(({ a, b, along }, i) => {
    for (let k = 0; k < width; k++)
      out[(own + i) * width + k] = (1 - along) * numbers[a * width + k]! + along * numbers[b * width + k]!
  })
  return out
}
