import type { Model } from '../mesh/model'
import { withTangents } from '../mesh/tangents'
import { after, boxesOf, inverse, STILL } from '../mesh/transform'
import { MORE_SETS } from '../point/slots'
import { buildHierarchy } from '../trace/build'
import type { BuildShare } from '../trace/build-share'
import type { Allocate, Hierarchy } from '../trace/hierarchy'
import { joinInstances, type Copy } from '../trace/instances'

/** Length of a tangent in whole numbers. */
export const TANGENT_LENGTH = 32767

/** Stands for a part that was not displaced. */
export const NO_REST = -(2 ** 31)

/** What triangles carry for shading, in flat arrays. */
export interface Attributes {
  /** Three vertices a triangle, original order. */
  index: Uint32Array
  normal: Float32Array
  /** Two a vertex; 0, 0 where a part has no coordinates. */
  uv: Float32Array
  /**
   * Tangents, four a vertex, of length 32767, and 0 where a vertex has none; the fourth is 1 or −1, see
   * `Part.tangent`. Empty where no part has any.
   */
  tangent: Int16Array
  /** Further sets of coordinates, like `uv`: as many as the part with the most has. */
  uvMore: Float32Array[]
  /** From the scene's space to each part's own, 3 × 4, row by row; empty where they are all the same. */
  spaces: Float64Array
  /**
   * Position and normal of vertices before they were displaced, three numbers each, and for each part how far on from
   * a vertex's own number these are; `NO_REST` of parts that were not. All empty where none was.
   */
  restPosition: Float32Array
  restNormal: Float32Array
  restBy: Int32Array
  /** Vertex colours, four a vertex; empty where no part has any. */
  colour: Float32Array
  /** Part of each triangle, original order; of a mesh that is there as copies, the first of them. */
  part: Uint32Array
}

/**
 * Triangles of a model, ready for tracing and shading. With a shared allocator, workers use the same memory.
 */
export interface Geometry extends Attributes {
  hierarchy: Hierarchy
  partNames: string[]
  /** Bounds of each part: six numbers, min then max. */
  partBounds: Float64Array
}

/** Ways from the scene's space to those of the parts. */
function spacesOf(parts: Model['parts'], allocate: Allocate): Float64Array {
  const frames = parts.map(p => (p.copy ? after(p.copy.transform, parts[p.copy.of]!.frame ?? STILL) : p.frame))
  const moved = frames.some(f => f)
  const spaces = new Float64Array(allocate(moved ? parts.length * 96 : 8), 0, moved ? parts.length * 12 : 0)
  if (moved) frames.forEach((f, i) => spaces.set((f && inverse(f)) ?? STILL, i * 12))
  return spaces
}

/** Parts joined: what they carry, positions, and the first corner of each. */
export interface Joined {
  attributes: Attributes
  /** Three a vertex, of the first `positions` parts. */
  position: Float32Array
  starts: number[]
}

/**
 * Joins the attributes of parts.
 * @param parts of a model, all of them, with tangents
 * @param stored numbers of those whose triangles are joined, in their order
 * @param positions how many of these have their positions joined as well
 */
export function joinParts(
  parts: Model['parts'],
  stored: readonly number[],
  positions: number,
  allocate: Allocate,
): Joined {
  let vertices = 0
  let corners = 0
  for (const i of stored) {
    vertices += parts[i]!.position.length / 3
    corners += parts[i]!.index.length
  }
  const position = new Float32Array(stored.slice(0, positions).reduce((n, i) => n + parts[i]!.position.length, 0))
  const normal = new Float32Array(allocate(Math.max(4, vertices * 12)))
  const uv = new Float32Array(allocate(Math.max(4, vertices * 8)))
  const index = new Uint32Array(allocate(Math.max(4, corners * 4)))
  const part = new Uint32Array(allocate(Math.max(4, Math.ceil(corners / 3) * 4)))
  const coloured = stored.some(i => parts[i]!.colour)
  const colour = new Float32Array(allocate(coloured ? vertices * 16 : 4), 0, coloured ? vertices * 4 : 0).fill(1)
  const tangents = stored.some(i => parts[i]!.tangent)
  const tangent = new Int16Array(allocate(tangents ? vertices * 8 : 4), 0, tangents ? vertices * 4 : 0)
  const sets = Math.max(0, ...stored.map(i => parts[i]!.uvMore?.length ?? 0))
  const uvMore = Array.from(
    { length: Math.min(MORE_SETS, sets) },
    () => new Float32Array(allocate(Math.max(4, vertices * 8))),
  )
  const displaced = stored.filter(i => parts[i]!.rest)
  const resting = displaced.reduce((n, i) => n + parts[i]!.position.length / 3, 0)
  const restPosition = new Float32Array(allocate(resting ? resting * 12 : 4), 0, resting * 3)
  const restNormal = new Float32Array(allocate(resting ? resting * 12 : 4), 0, resting * 3)
  const restBy = new Int32Array(allocate(resting ? parts.length * 4 : 4), 0, resting ? parts.length : 0).fill(
    NO_REST,
  )
  const starts: number[] = []
  let v = 0
  let c = 0
  let r = 0
  stored.forEach((number, k) => {
    const p = parts[number]!
    if (k < positions) position.set(p.position, v * 3)
    normal.set(p.normal, v * 3)
    if (p.uv.length) uv.set(p.uv, v * 2)
    if (p.colour) colour.set(p.colour, v * 4)
    uvMore.forEach((set, k) => set.set(p.uvMore?.[k] ?? [], v * 2))
    const own = p.tangent
    if (own)
      for (let i = 0; i < own.length; i++)
        tangent[v * 4 + i] = i % 4 === 3 ? own[i]! : Math.round(own[i]! * TANGENT_LENGTH)
    if (p.rest) {
      restBy[number] = r - v
      restPosition.set(p.rest.position, r * 3)
      restNormal.set(p.rest.normal, r * 3)
      r += p.position.length / 3
    }
    for (let i = 0; i < p.index.length; i++) index[c + i] = p.index[i]! + v
    part.fill(number, c / 3, (c + p.index.length) / 3)
    starts.push(c)
    v += p.position.length / 3
    c += p.index.length
  })
  const spaces = spacesOf(parts, allocate)
  return {
    attributes: { index, normal, uv, tangent, uvMore, spaces, restPosition, restNormal, restBy, colour, part },
    position,
    starts,
  }
}

/**
 * Joins the parts of a model and builds the hierarchy. Meshes that are there as copies are kept once.
 * @param hidden names of parts to leave out
 * @param call asks other threads to help; see {@link buildHierarchy}
 */
export function createGeometry(
  model: Model,
  hidden: ReadonlySet<string> = new Set(),
  allocate: Allocate = n => new ArrayBuffer(n),
  call?: (share: BuildShare) => void,
): Geometry {
  const parts = model.parts.map(withTangents)
  const copied = new Set(parts.flatMap(p => (p.copy ? [p.copy.of] : [])))
  const shown = parts.map(p => !hidden.has(p.name))
  const bodyOf = parts.map((p, i) => (p.copy ? p.copy.of : copied.has(i) ? i : -1))
  const bodies = [...new Set(bodyOf.filter((of, i) => of >= 0 && shown[i]))]
  // what is there once comes first: its hierarchy numbers triangles from the start
  const stored = [...parts.flatMap((_, i) => (bodyOf[i]! < 0 && shown[i] ? [i] : [])), ...bodies]
  const once = stored.length - bodies.length
  const { attributes, position, starts } = joinParts(parts, stored, once, allocate)
  const loose = attributes.index.subarray(0, starts[once] ?? attributes.index.length)
  return {
    hierarchy: bodies.length ? joined() : buildHierarchy(position, loose, allocate, call),
    ...attributes,
    partNames: parts.map(p => p.name),
    partBounds: Float64Array.from(boxesOf(model).flat()),
  }

  function joined(): Hierarchy {
    const numberOf = new Map(bodies.map((b, k) => [b, k]))
    const copies = parts.flatMap((p, i): Copy[] =>
      bodyOf[i]! >= 0 && shown[i]
        ? [{ body: numberOf.get(bodyOf[i]!)!, transform: p.copy?.transform ?? STILL, part: i }]
        : [],
    )
    return joinInstances(
      loose.length ? buildHierarchy(position, loose, undefined, call) : undefined,
      bodies.map((b, k) => ({
        hierarchy: buildHierarchy(parts[b]!.position, parts[b]!.index, undefined, call),
        triangle: starts[once + k]! / 3,
      })),
      copies,
      allocate,
    )
  }
}

/** Memory that a geometry takes, bytes. */
export function bytesOfGeometry(g: Geometry): number {
  const { nodes, packets, order } = g.hierarchy
  return [
    nodes,
    packets,
    order,
    g.index,
    g.normal,
    g.uv,
    g.tangent,
    ...g.uvMore,
    g.spaces,
    g.restPosition,
    g.restNormal,
    g.restBy,
    g.colour,
    g.part,
  ].reduce((n, a) => n + a.byteLength, 0)
}
