/**
 * A field at a point of the surface: its value and how it grows along the surface, from what is kept at corners of the
 * triangle's lattice.
 *
 * The triangle is cut in halves around the point, always its longest edge that asks for it: edges longer than the
 * radius, and those whose middle is far from the mean of their ends, down to twice what the point stands for. Over what
 * is left the field is a quadratic (six-node triangle; Zienkiewicz, "The Finite Element Method", from memory): edges
 * longer than half of the radius, or with ends far apart, have a value in their middle. A field is as smooth as its
 * radius but for what hides behind something, so this finds what there is; triangles that are small against the radius
 * need what is kept at their vertices alone. Whether an edge is halved and has a middle follows from that edge alone,
 * and comes in gradually: so there is no step between neighbours, nor as the radius changes.
 *
 * Tried: edges of a quarter of the radius everywhere, 4 to 6 times the corners; quarters in place of halves, twice the
 * corners on the lantern, whose bands are narrow.
 */
import { triangle } from '../trace/triangle'
import type { Hierarchy } from '../trace/hierarchy'
import { corner, nameCorner, patch, placeCorner, takePatch, type Ground } from './corner-places'
import { measure, measured } from './measure'
import { place, placeRadius, valueAtRadius } from './radii'
import { createFieldTable, findRecord, keepRecord, type FieldTable } from './table'
import type { FieldUse } from './use'

/** Lengths of edges, in radii: from one on an edge has a middle of its own, from the other on all of it. */
const BENT = { from: 0.5, to: 0.65 }
/** The same for being halved. */
const HALVED = { from: 1, to: 1.2 }
/** The same by how far the ends of an edge are apart; and by how far its middle is from their mean. */
const APART = { from: 0.15, to: 0.3 }
const OFF_MEAN = { from: 0.12, to: 0.24 }
/** The shortest edge that is halved because of what lies at its ends, in radii, and in what a point stands for. */
const SHORTEST = 1 / 32
const PIXEL = 2
/** A point that stands for more than so many radii takes the nearest corner. */
const FAR = 0.5
/** Lattices are no finer: numbers of corners stay whole. */
const DEEPEST = 26

/** A value and how it grows, a metre along x, y and z; NaN where it is not known and was not to be computed. */
export const found = { value: 0.5, x: 0.5, y: 0.5, z: 0.5 }

/** What is kept where a scene brings no table: as much as swatches and single pictures need. */
const own = { table: createFieldTable(2 ** 14), of: null as Hierarchy | null }

/** What is asked for: set by {@link lookUp} for all below. */
let ground: Ground
let table: FieldTable
let field = 0
let out = false
let compute = false
let hashA = 0
let hashB = 0

const mixA = (h: number, x: number): number => {
  const m = Math.imul(h ^ x, 0x9e3779b1)
  return m ^ (m >>> 15)
}
const mixB = (h: number, x: number): number => {
  const m = Math.imul(h ^ x, 0x85ebca6b)
  return m ^ (m >>> 13)
}

/** The field at a corner of the patch, i and j of `parts` on the way to its second and third vertex. */
function valueAt(i: number, j: number, parts: number): number {
  nameCorner(i, j, parts)
  const { between, first, second, weight } = corner
  const most = corner.parts * 4 + between
  const a = mixA(mixA(mixA(mixA(hashA, first), second), weight), most)
  const b = mixB(mixB(mixB(mixB(hashB, first), second), weight), most)
  const at = findRecord(table, a, b)
  if (at >= 0) return valueAtRadius(table.values, at)
  if (!compute) return NaN
  placeCorner(ground)
  measure(ground.hierarchy, field, out, place.tier)
  keepRecord(table, a, b, measured)
  return valueAtRadius(measured, 0)
}

/** From 0 at `from` to 1 at `to`, smoothly. */
function ramp(x: number, from: number, to: number): number {
  if (x <= from) return 0
  if (x >= to) return 1
  const t = (x - from) / (to - from)
  return t * t * (3 - 2 * t)
}

// The triangle that is looked at: its corners in the lattice of the patch, what they have, the point's weights and how
// they grow with u and v.
const I = new Int32Array(3)
const J = new Int32Array(3)
const value = new Float64Array(3)
const weight = new Float64Array(3)
const byU = new Float64Array(3)
const byV = new Float64Array(3)
// Its edges, k opposite to corner k: length in radii; what its middle would have without a value of its own; how much
// that value may count, and how much it is due whatever the length.
const length = new Float64Array(3)
const expected = new Float64Array(3)
const counts = new Float64Array(3)
const due = new Float64Array(3)
// What is found of them: the middle's value, how far it is from the mean of the ends, how much the edge is halved, and
// how much of that is because of values.
const middle = new Float64Array(3)
const surplus = new Float64Array(3)
const halved = new Float64Array(3)
const uneven = new Float64Array(3)

/** The patch's edges in radii: squares of the first and the second, and their product. */
const metric = { uu: 0.5, uv: 0.5, vv: 0.5 }
/** The shortest edge that is halved because of values, radii. */
let finest = 0.5

/** Takes up the lattice's triangle around a place of the patch. */
function begin(u: number, v: number, parts: number): void {
  const x = Math.max(0, u) * parts
  const y = Math.max(0, v) * parts
  let i = Math.min(parts - 1, Math.floor(x))
  let j = Math.min(parts - 1, Math.floor(y))
  // rounding may put a place on the last edge beyond it
  if (i + j >= parts) {
    if (x - i < y - j) i = parts - 1 - j
    else j = parts - 1 - i
  }
  const fx = x - i
  const fy = y - j
  const upper = fx + fy > 1 && i + j + 2 <= parts
  I[0] = upper ? i + 1 : i
  J[0] = upper ? j + 1 : j
  I[1] = upper ? i : i + 1
  J[1] = upper ? j + 1 : j
  I[2] = upper ? i + 1 : i
  J[2] = upper ? j : j + 1
  weight[0] = upper ? fx + fy - 1 : 1 - fx - fy
  weight[1] = upper ? 1 - fx : fx
  weight[2] = upper ? 1 - fy : fy
  const way = upper ? -parts : parts
  byU[0] = -way
  byU[1] = way
  byU[2] = 0
  byV[0] = -way
  byV[1] = 0
  byV[2] = way
}

/** The corners after and before corner k: the ends of edge k. */
const after = (k: number): number => (k === 2 ? 0 : k + 1)
const before = (k: number): number => (k === 0 ? 2 : k - 1)

/** Length of edge k, radii. */
function lengthOf(k: number, parts: number): number {
  const p = after(k)
  const q = before(k)
  const du = (I[q]! - I[p]!) / parts
  const dv = (J[q]! - J[p]!) / parts
  return Math.sqrt(Math.max(0, du * du * metric.uu + 2 * du * dv * metric.uv + dv * dv * metric.vv))
}

/** Which of three numbers is the greatest. */
const greatest = (of: Float64Array): number =>
  of[0]! >= of[1]! && of[0]! >= of[2]! ? 0 : of[1]! >= of[2]! ? 1 : 2

/**
 * Cuts the triangle in the middle of edge k and goes on to the half that has the point; corners and weights alone.
 * @returns the end of the edge that the other half keeps, in whose place the middle now stands
 */
function cut(k: number): number {
  const a = after(k)
  const b = before(k)
  const q = weight[a]! >= weight[b]! ? b : a
  const p = q === b ? a : b
  I[q] = I[p]! + I[q]!
  J[q] = J[p]! + J[q]!
  I[k]! *= 2
  J[k]! *= 2
  I[p]! *= 2
  J[p]! *= 2
  weight[p]! -= weight[q]!
  weight[q]! *= 2
  byU[p]! -= byU[q]!
  byU[q]! *= 2
  byV[p]! -= byV[q]!
  byV[q]! *= 2
  return q
}

/** Finds what there is of edge k, whose length is known. */
function lookAlong(k: number, parts: number): void {
  const p = after(k)
  const q = before(k)
  const long = length[k]!
  const fine = ramp(long, finest, 1.5 * finest)
  const apart = Math.max(due[k]!, ramp(Math.abs(value[p]! - value[q]!), APART.from, APART.to))
  const bent = counts[k]! * Math.max(ramp(long, BENT.from, BENT.to), fine * apart)
  const mean = (value[p]! + value[q]!) / 2
  middle[k] = expected[k]!
  if (bent > 0) middle[k]! += bent * (valueAt(I[p]! + I[q]!, J[p]! + J[q]!, 2 * parts) - expected[k]!)
  surplus[k] = middle[k]! - mean
  uneven[k] = fine * ramp(Math.abs(surplus[k]!), OFF_MEAN.from, OFF_MEAN.to)
  halved[k] = bent * Math.max(ramp(long, HALVED.from, HALVED.to), uneven[k]!)
}

/** Goes on to the half of the triangle that has the point, cut in the middle of edge k. */
function halve(k: number, parts: number): void {
  const q = cut(k)
  const p = 3 - k - q
  // what the quadratic has on the cut, and on the half of the edge that stays
  expected[p] = value[k]! / 2 + (value[p]! + value[q]!) / 4 + (surplus[p]! + surplus[q]!) / 2 + surplus[k]! / 4
  expected[k] = (3 * value[p]! + 6 * middle[k]! - value[q]!) / 8
  counts[k] = halved[k]!
  counts[p] = halved[k]!
  due[k] = uneven[k]!
  due[p] = uneven[k]!
  value[q] = middle[k]!
  length[k]! /= 2
  length[p] = lengthOf(p, 2 * parts)
  lookAlong(k, 2 * parts)
  lookAlong(p, 2 * parts)
}

/** One side of a field over the patch, at u and v, into `found`; the growth of it is along u and v, in x and y. */
function onPatch(u: number, v: number, radius: number, footprint: number): void {
  const { e1x, e1y, e1z, e2x, e2y, e2z } = triangle
  const per = 1 / (radius * radius)
  metric.uu = per * (e1x * e1x + e1y * e1y + e1z * e1z)
  metric.uv = per * (e1x * e2x + e1y * e2y + e1z * e2z)
  metric.vv = per * (e2x * e2x + e2y * e2y + e2z * e2z)
  finest = Math.max(SHORTEST, (PIXEL * footprint) / radius)
  // levels on which all edges are halved for good are passed over
  const shortest = Math.sqrt(Math.max(0, Math.min(metric.uu, metric.vv, metric.uu + metric.vv - 2 * metric.uv)))
  const level = shortest >= HALVED.to ? Math.min(DEEPEST, 1 + Math.floor(Math.log2(shortest / HALVED.to))) : 0
  let parts = 2 ** level
  begin(u, v, parts)
  for (let k = 0; k < 3; k++) length[k] = lengthOf(k, parts)
  // narrow triangles have edges left that are
  let depth = level
  for (let k = greatest(length); length[k]! >= HALVED.to && depth < DEEPEST; k = greatest(length), depth++) {
    const p = 3 - k - cut(k)
    parts *= 2
    length[k]! /= 2
    length[p] = lengthOf(p, parts)
  }
  if (footprint > FAR * radius) {
    const k = greatest(weight)
    found.value = valueAt(I[k]!, J[k]!, parts)
    found.x = 0
    found.y = 0
    return
  }
  for (let k = 0; k < 3; k++) value[k] = valueAt(I[k]!, J[k]!, parts)
  for (let k = 0; k < 3; k++) {
    expected[k] = (value[after(k)]! + value[before(k)]!) / 2
    counts[k] = 1
    due[k] = 0
    lookAlong(k, parts)
  }
  for (; depth < DEEPEST; depth++) {
    let k = -1
    for (let c = 0; c < 3; c++) if (halved[c]! > 0 && (k < 0 || length[c]! > length[k]!)) k = c
    if (k < 0) break
    halve(k, parts)
    parts *= 2
  }
  let f = 0
  let fu = 0
  let fv = 0
  for (let k = 0; k < 3; k++) {
    const p = after(k)
    const q = before(k)
    const s = 4 * surplus[k]!
    f += weight[k]! * value[k]! + s * weight[p]! * weight[q]!
    fu += byU[k]! * value[k]! + s * (byU[p]! * weight[q]! + weight[p]! * byU[q]!)
    fv += byV[k]! * value[k]! + s * (byV[p]! * weight[q]! + weight[p]! * byV[q]!)
  }
  found.value = f
  found.x = fu
  found.y = fv
}

/**
 * A field around a point, into {@link found}.
 * @param at place of the triangle among the packets
 * @param u barycentric, of its second corner; v of its third
 * @param use the field, and how much what rays into the solid and out of it tell counts
 * @param radius metres, above 0
 * @param footprint radius of what the point stands for, metres
 * @param kept the scene's table; null for the thread's own
 * @param make whether what is not known is computed; else the value is NaN
 */
export function lookUp(
  of: Ground,
  at: number,
  u: number,
  v: number,
  use: FieldUse,
  radius: number,
  footprint: number,
  kept: FieldTable | null,
  make: boolean,
): void {
  if (kept === null && own.of !== of.hierarchy) {
    own.of = of.hierarchy
    own.table.words.fill(0)
  }
  ground = of
  table = kept ?? own.table
  field = use.field
  compute = make
  takePatch(of, at)
  placeRadius(radius)
  let f = 0
  let fu = 0
  let fv = 0
  for (let side = 0; side < 2; side++) {
    const w = side === 0 ? use.inside : use.outside
    if (w === 0) continue
    out = side === 1
    const what = (field * 2 + side) * 64 + place.tier
    hashA = mixA(mixA(0x2545f491, what), patch.part)
    hashB = mixB(mixB(0x1b873593, what), patch.part)
    onPatch(u, v, radius, footprint)
    f += w * found.value
    fu += w * found.x
    fv += w * found.y
  }
  // growth along the surface, by the vectors that are dual to the two edges
  const { e1x, e1y, e1z, e2x, e2y, e2z, nx, ny, nz } = triangle
  const area = nx * nx + ny * ny + nz * nz
  const s = area > 0 ? 1 / area : 0
  found.value = f
  found.x = s * (fu * (e2y * nz - e2z * ny) + fv * (ny * e1z - nz * e1y))
  found.y = s * (fu * (e2z * nx - e2x * nz) + fv * (nz * e1x - nx * e1z))
  found.z = s * (fu * (e2x * ny - e2y * nx) + fv * (nx * e1y - ny * e1x))
}
