/**
 * Normals of a mesh whose file has none: smooth where faces meet at a small angle, hard where they meet at a large
 * one. Vertices on hard edges become several.
 */
import { firstAlike } from './alike'
import { trianglesAsPolygons, twinsOf, type Polygons } from './edges'
import { areaNormals } from './face-normals'
import type { Part } from './model'
import { pickVertices } from './vertices'

/**
 * Largest angle between the normals of two faces over whose edge a surface is smooth, degrees. A sphere of 12 × 6 has
 * 30, an icosahedron 41.8 (common practice: 30 to 60).
 */
export const CREASE = 40

/** Corners that are one vertex of the surface: each names the first of its group. */
export function smoothGroups(
  { place, next }: Polygons,
  twin: Int32Array,
  hard: (corner: number, twin: number) => boolean,
): Uint32Array {
  const of = Uint32Array.from(place, (_, c) => c)
  const root = (c: number): number => {
    while (of[c] !== c) {
      of[c] = of[of[c]!]!
      c = of[c]!
    }
    return c
  }
  const join = (a: number, b: number) => {
    const x = root(a)
    const y = root(b)
    if (x < y) of[y] = x
    else of[x] = y
  }
  for (let c = 0; c < place.length; c++) {
    const t = twin[c]!
    if (t < c || hard(c, t)) continue
    // the twin runs from where this one ends to where it begins
    join(c, next[t]!)
    join(next[c]!, t)
  }
  for (let c = 0; c < of.length; c++) of[c] = root(c)
  return of
}

const squared = (a: Float32Array, i: number): number =>
  a[i]! * a[i]! + a[i + 1]! * a[i + 1]! + a[i + 2]! * a[i + 2]!

/**
 * Adds the unit normal of a corner's triangle, weighted by the angle there: how polygons are cut changes nothing
 * (Thürmer & Wüthrich 1998, "Computing vertex normals from polygonal facets").
 */
function addNormal(
  position: Float32Array,
  index: Uint32Array,
  face: Float32Array,
  corner: number,
  sum: Float32Array,
  at: number,
): void {
  const t = corner - (corner % 3)
  const a = index[corner]! * 3
  const b = index[t + ((corner + 1) % 3)]! * 3
  const c = index[t + ((corner + 2) % 3)]! * 3
  const area = Math.sqrt(squared(face, t))
  if (!(area > 0)) return
  let dot = 0
  for (let k = 0; k < 3; k++) dot += (position[b + k]! - position[a + k]!) * (position[c + k]! - position[a + k]!)
  const weight = Math.atan2(area, dot) / area
  for (let k = 0; k < 3; k++) sum[at + k]! += weight * face[t + k]!
}

/** A mesh with vertices of its own on both sides of hard edges. */
export interface Creased {
  /** Vertex of the mesh before that each one is. */
  source: Uint32Array
  index: Uint32Array
  /** Unit, one a vertex. */
  normal: Float32Array
}

/**
 * Finds normals. Vertices at one place are one, whatever else tells them apart; those of triangles
 * without area point up.
 * @param crease degrees; see {@link CREASE}
 */
export function creasedNormals(position: Float32Array, index: Uint32Array, crease = CREASE): Creased {
  const first = firstAlike(position.length / 3, [{ numbers: position, width: 3 }])
  const polygons = trianglesAsPolygons(index.map(v => first[v]!))
  const face = areaNormals(position, index)
  const least = Math.cos((crease * Math.PI) / 180)
  const hard = (c: number, t: number): boolean => {
    const a = c - (c % 3)
    const b = t - (t % 3)
    const dot = face[a]! * face[b]! + face[a + 1]! * face[b + 1]! + face[a + 2]! * face[b + 2]!
    const areas = Math.sqrt(squared(face, a) * squared(face, b))
    // what has no area joins nothing
    return !(areas > 0 && dot >= least * areas)
  }
  const group = smoothGroups(polygons, twinsOf(polygons), hard)
  const sum = new Float32Array(index.length * 3)
  for (let c = 0; c < index.length; c++) addNormal(position, index, face, c, sum, group[c]! * 3)
  return splitByGroup(index, position.length / 3, group, sum)
}

/** One vertex for each vertex before and group: the vertex itself for the first group that comes to it. */
function splitByGroup(index: Uint32Array, count: number, group: Uint32Array, sum: Float32Array): Creased {
  const holder = new Int32Array(count).fill(-1)
  /** Further vertices of one before, in a chain. */
  const source: number[] = []
  const groupOf: number[] = []
  const after: number[] = []
  const out = new Uint32Array(index.length)
  const last = new Int32Array(count).fill(-1)
  for (let c = 0; c < index.length; c++) {
    const v = index[c]!
    const g = group[c]!
    if (holder[v]! < 0) holder[v] = g
    if (holder[v] === g) {
      out[c] = v
      continue
    }
    let more = last[v]!
    while (more >= 0 && groupOf[more] !== g) more = after[more]!
    if (more < 0) {
      more = source.push(v) - 1
      groupOf.push(g)
      after.push(last[v]!)
      last[v] = more
    }
    out[c] = count + more
  }
  const normal = new Float32Array((count + source.length) * 3)
  for (let v = 0; v < normal.length / 3; v++) {
    const g = v < count ? holder[v]! : groupOf[v - count]!
    const from = Math.max(0, g) * 3
    const l = g < 0 ? 0 : Math.hypot(sum[from]!, sum[from + 1]!, sum[from + 2]!)
    if (l > 0) for (let k = 0; k < 3; k++) normal[v * 3 + k] = sum[from + k]! / l
    else normal[v * 3 + 1] = 1
  }
  return {
    source: Uint32Array.from({ length: count + source.length }, (_, v) => (v < count ? v : source[v - count]!)),
    index: out,
    normal,
  }
}

/** A part with normals that are found from its triangles; see {@link creasedNormals}. */
export function withCreases(part: Part, crease = CREASE): Part {
  const { source, index, normal } = creasedNormals(part.position, part.index, crease)
  return { ...pickVertices({ ...part, normal: new Float32Array(part.position.length) }, source), index, normal }
}
