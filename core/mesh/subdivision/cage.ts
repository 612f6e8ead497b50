/** What is subdivided: polygons over places in space, the sharpness of edges and vertices, and what corners carry. */
import { firstAlike } from '../alike'
import { BORDER, CROWDED, twinsOf, type Polygons } from '../edges'
import type { Part } from '../model'

/** Sharpness from which on an edge or a vertex stays sharp for good. */
export const ALWAYS = 10

/** Numbers that each corner of a face carries, for itself: coordinates part at seams. */
export interface CornerArray {
  numbers: Float32Array
  width: number
}

export interface Cage extends Polygons {
  /** First corner of each face, and the end of the last. */
  starts: Uint32Array
  /** Three a place. */
  position: Float64Array
  /** Of the edge from each corner to the next, the same on both of its sides. Borders are always sharp. */
  edgeSharpness: Float32Array
  /** Of each place. */
  vertexSharpness: Float32Array
  carried: CornerArray[]
  /** Number of the edge of each corner, and how many edges there are. */
  edge: Uint32Array
  edges: number
  twin: Int32Array
}

/** Largest sine between two triangles that were one flat face. */
const FLAT = 1e-3

/**
 * Faces of a part: its polygons, or its triangles. Two triangles one after the other that were cut from a flat
 * quadrilateral, which is all that some formats leave of one, are taken for it.
 */
export function facesOf({ polygons, index, position }: Part): { sizes: Uint32Array; corners: Uint32Array } {
  if (polygons) return polygons
  const sizes: number[] = []
  const corners = new Uint32Array(index.length)
  let to = 0
  for (let t = 0; t < index.length; t += 3) {
    const whole = isCutQuad(position, index, t)
    sizes.push(whole ? 4 : 3)
    for (let k = 0; k < 3; k++) corners[to++] = index[t + k]!
    if (!whole) continue
    corners[to++] = index[t + 5]!
    t += 3
  }
  return { sizes: Uint32Array.from(sizes), corners: corners.subarray(0, to) }
}

/** Whether triangles a b c and a c d at `t` make a flat convex face. */
function isCutQuad(position: Float32Array, index: Uint32Array, t: number): boolean {
  if (t + 6 > index.length || index[t + 3] !== index[t] || index[t + 4] !== index[t + 2]) return false
  const corner = [index[t]!, index[t + 1]!, index[t + 2]!, index[t + 5]!]
  const at = (c: number, k: number) => position[corner[c % 4]! * 3 + k]!
  let before: number[] | undefined
  for (let c = 0; c < 4; c++) {
    const u = [0, 1, 2].map(k => at(c + 1, k) - at(c, k))
    const v = [0, 1, 2].map(k => at(c + 2, k) - at(c + 1, k))
    const n = [0, 1, 2].map(k => u[(k + 1) % 3]! * v[(k + 2) % 3]! - u[(k + 2) % 3]! * v[(k + 1) % 3]!)
    const l = Math.hypot(...n)
    if (!(l > 1e-6 * Math.hypot(...u) * Math.hypot(...v))) return false
    const unit = n.map(x => x / l)
    if (before && unit.some((x, k) => Math.abs(x - before![k]!) > FLAT)) return false
    before = unit
  }
  return true
}

/** Numbers of edges: one for all corners that run along it. */
export function numberEdges({ place, next }: Polygons, twin: Int32Array): { edge: Uint32Array; edges: number } {
  const edge = new Uint32Array(place.length)
  const crowded = new Map<string, number>()
  let edges = 0
  for (let c = 0; c < place.length; c++) {
    const t = twin[c]!
    if (t >= 0 && t < c) edge[c] = edge[t]!
    else if (t === CROWDED) {
      const [a, b] = [place[c]!, place[next[c]!]!]
      const key = a < b ? `${a} ${b}` : `${b} ${a}`
      const known = crowded.get(key)
      edge[c] = known ?? edges
      if (known === undefined) crowded.set(key, edges++)
    } else edge[c] = edges++
  }
  return { edge, edges }
}

/** Normals of faces by Newell's method, not unit. */
export function faceNormals({ starts, place, next, position }: Cage): Float64Array {
  const out = new Float64Array((starts.length - 1) * 3)
  for (let f = 0; f + 1 < starts.length; f++)
    for (let c = starts[f]!; c < starts[f + 1]!; c++) {
      const a = place[c]! * 3
      const b = place[next[c]!]! * 3
      for (let k = 0; k < 3; k++) {
        const [i, j] = [(k + 1) % 3, (k + 2) % 3]
        out[f * 3 + k]! += (position[a + i]! - position[b + i]!) * (position[a + j]! + position[b + j]!)
      }
    }
  return out
}

/** Makes the edges of faces that meet at more than an angle sharp. @param crease degrees */
export function sharpenBy(cage: Cage, crease: number): void {
  const normal = faceNormals(cage)
  const faceOf = new Uint32Array(cage.place.length)
  for (let f = 0; f + 1 < cage.starts.length; f++) faceOf.fill(f, cage.starts[f], cage.starts[f + 1])
  const least = Math.cos((crease * Math.PI) / 180)
  const at = (f: number) => normal.subarray(f * 3, f * 3 + 3)
  for (let c = 0; c < cage.place.length; c++) {
    const t = cage.twin[c]!
    if (t < c) continue
    const a = at(faceOf[c]!)
    const b = at(faceOf[t]!)
    const dot = a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!
    if (dot >= least * Math.hypot(a[0]!, a[1]!, a[2]!) * Math.hypot(b[0]!, b[1]!, b[2]!)) continue
    cage.edgeSharpness[c] = ALWAYS
    cage.edgeSharpness[t] = ALWAYS
  }
}

/** A part as a cage; vertices at one place are one. */
export function cageOf(part: Part): Cage {
  const { sizes, corners } = facesOf(part)
  const first = firstAlike(part.position.length / 3, [{ numbers: part.position, width: 3 }])
  const starts = new Uint32Array(sizes.length + 1)
  sizes.forEach((n, f) => (starts[f + 1] = starts[f]! + n))
  const place = corners.map(v => first[v]!)
  const next = Uint32Array.from(corners, (_, c) => c + 1)
  for (let f = 0; f < sizes.length; f++) next[starts[f + 1]! - 1] = starts[f]!
  const twin = twinsOf({ place, next })
  const carried = [part.uv, ...(part.uvMore ?? [])]
    .map(numbers => ({ numbers, width: 2 }))
    .concat(part.colour ? [{ numbers: part.colour, width: 4 }] : [])
    .filter(a => a.numbers.length)
    .map(({ numbers, width }) => ({
      width,
      numbers: Float32Array.from(
        { length: corners.length * width },
        (_, i) => numbers[corners[Math.floor(i / width)]! * width + (i % width)]!,
      ),
    }))
  const vertices = part.position.length / 3
  return {
    place,
    next,
    starts,
    position: Float64Array.from(part.position),
    twin,
    ...numberEdges({ place, next }, twin),
    edgeSharpness: Float32Array.from(twin, t => (t === BORDER || t === CROWDED ? ALWAYS : 0)),
    vertexSharpness: new Float32Array(vertices),
    carried,
  }
}
