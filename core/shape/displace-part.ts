/**
 * Displacement of a part at its vertices, which it is given more of first (`mesh/tessellate.ts`). The network is
 * evaluated at each vertex as a shading point of the undisplaced part, averaged over half of the way to the vertices
 * around it. Vertices at one place move together, by the mean of what each asks for, so that hard edges and seams of
 * coordinates stay closed.
 */
import { memory } from '../expression/memory'
import { firstAlike } from '../mesh/alike'
import { smoothNormals, type Part } from '../mesh/model'
import { mendJunctions } from '../mesh/junctions'
import { withTangents } from '../mesh/tangents'
import { tessellate } from '../mesh/tessellate'
import type { Shader } from '../network/instantiate'
import { POINT, POINT_STRIDE } from '../point/slots'
import { fillInTriangle } from '../scene/fill-point'
import { joinParts, type Attributes } from '../scene/geometry'
import { takeTriangle } from '../trace/triangle'

const { result } = memory
const S = new Float64Array(POINT_STRIDE)
/** A direction of view: straight down onto the vertex. */
const down = new Float64Array(3)

/** Half of the mean length of the edges at each vertex. */
function reaches({ position, index }: Part): Float64Array {
  const sum = new Float64Array(position.length / 3)
  const count = new Uint32Array(sum.length)
  for (let c = 0; c < index.length; c++) {
    const a = index[c]!
    const b = index[c % 3 === 2 ? c - 2 : c + 1]!
    const x = position[a * 3]! - position[b * 3]!
    const y = position[a * 3 + 1]! - position[b * 3 + 1]!
    const z = position[a * 3 + 2]! - position[b * 3 + 2]!
    const l = Math.sqrt(x * x + y * y + z * z)
    sum[a]! += l
    sum[b]! += l
    count[a]!++
    count[b]!++
  }
  for (let v = 0; v < sum.length; v++) if (count[v]) sum[v]! /= 2 * count[v]!
  return sum
}

/** Makes S the point at a corner of a triangle. @param corner 0, 1 or 2 */
function fillCorner(part: Part, attributes: Attributes, number: number, corner: number, footprint: number): void {
  const { index, normal } = part
  takeTriangle(part.position, index[number * 3]!, index[number * 3 + 1]!, index[number * 3 + 2]!)
  const v = index[number * 3 + corner]!
  for (let k = 0; k < 3; k++) down[k] = -normal[v * 3 + k]!
  fillInTriangle(attributes, null, number, corner === 1 ? 1 : 0, corner === 2 ? 1 : 0, down, 0, S)
  S[POINT.footprint] = footprint
}

/** How far the network moves the vertex that S is, added to the offsets from index `at` on. */
function addOffset(offset: Float64Array, at: number): void {
  for (let k = 0; k < 3; k++)
    offset[at + k]! +=
      result[0]! * S[POINT.tangent + k]! + result[1]! * S[POINT.bitangent + k]! + result[2]! * S[POINT.normal + k]!
}

/** How a part's vertices are to move. */
export interface Moving {
  part: Part
  /** First vertex at the place of each. */
  place: Uint32Array
  /** Three numbers a vertex, metres. */
  offset: Float64Array
}

/**
 * How each vertex moves; those at one place alike.
 * @param part with tangents
 * @param number of the part within its model
 * @param shader gives how far a point moves along tangent, bitangent and normal, metres
 */
export function offsetsOf(part: Part, number: number, shader: Shader, C: Float64Array): Moving {
  const count = part.position.length / 3
  const { attributes } = joinParts([part], [0], 0, n => new ArrayBuffer(n))
  const reach = reaches(part)
  const place = firstAlike(count, [{ numbers: part.position, width: 3 }])
  const offset = new Float64Array(count * 3)
  const asked = new Uint32Array(count)
  const done = new Uint8Array(count)
  for (let c = 0; c < part.index.length; c++) {
    const v = part.index[c]!
    if (done[v]) continue
    done[v] = 1
    fillCorner(part, attributes, (c - (c % 3)) / 3, c % 3, reach[v]!)
    S[POINT.part] = number
    shader.value(S, C, shader.images)
    // what is not a number moves nothing
    if (!(result[0]! - result[0]! === 0 && result[1]! - result[1]! === 0 && result[2]! - result[2]! === 0))
      continue
    addOffset(offset, place[v]! * 3)
    asked[place[v]!]!++
  }
  // the first vertex at a place comes before the others
  for (let v = 0; v < count; v++)
    for (let k = 0; k < 3; k++)
      offset[v * 3 + k] = offset[place[v]! * 3 + k]! / (place[v] === v ? Math.max(1, asked[v]!) : 1)
  return { part, place, offset }
}

/** Which vertex each one shares its normal with: the first at its place, where that has the same one. */
function alikeAt({ normal }: Part, place: Uint32Array): Uint32Array {
  const out = new Uint32Array(place.length)
  for (let v = 0; v < place.length; v++) {
    const p = place[v]!
    const same =
      normal[v * 3] === normal[p * 3] &&
      normal[v * 3 + 1] === normal[p * 3 + 1] &&
      normal[v * 3 + 2] === normal[p * 3 + 2]
    out[v] = same ? p : v
  }
  return out
}

/** Normals of a part, its own turned as those of its triangles turn when it moves. */
function turnedNormals(part: Part, place: Uint32Array, position: Float32Array): Float32Array {
  const alike = alikeAt(part, place)
  const index = new Uint32Array(part.index.length)
  for (let c = 0; c < index.length; c++) index[c] = alike[part.index[c]!]!
  const before = smoothNormals(part.position, index)
  const now = smoothNormals(position, index)
  const out = part.normal.slice()
  for (let v = 0; v < alike.length; v++) {
    const o = v * 3
    const from = alike[v]! * 3
    // a file's normals may point against the winding
    const facing = out[o]! * before[from]! + out[o + 1]! * before[from + 1]! + out[o + 2]! * before[from + 2]!
    const side = facing < 0 ? -1 : 1
    let l = 0
    for (let k = 0; k < 3; k++) {
      out[o + k]! += side * (now[from + k]! - before[from + k]!)
      l += out[o + k]! ** 2
    }
    l = Math.sqrt(l)
    for (let k = 0; k < 3; k++) out[o + k] = l > 1e-6 ? out[o + k]! / l : side * now[from + k]!
  }
  return out
}

/**
 * A part with the vertices that a displacement moves, and tangents; no copy.
 * @param edge longest edge of its triangles, metres; those that it has where it is left out
 */
export function cutPart(original: Part, edge: number | undefined): Part {
  const before = known.get(original) ?? []
  const found = before.find(c => c.edge === edge)
  if (found) return found.part
  const whole = withTangents(original)
  const part = edge === undefined ? whole : tessellate(mendJunctions(whole), edge)
  known.set(original, [{ edge, part }, ...before].slice(0, KEPT))
  return part
}

/** How parts were cut last, finely and coarsely: while an amount is dragged, that stays. */
const known = new WeakMap<Part, { edge: number | undefined; part: Part }[]>()
const KEPT = 2

/** A part whose vertices are moved. It keeps where they were. */
export function movedPart({ part, place, offset }: Moving): Part {
  const position = new Float32Array(part.position.length)
  for (let i = 0; i < position.length; i++) position[i] = part.position[i]! + offset[i]!
  const { polygons: _, ...rest } = part
  return {
    ...rest,
    position,
    normal: turnedNormals(part, place, position),
    rest: { position: part.position, normal: part.normal },
  }
}
