/**
 * Parts that shine: their triangles in a binary tree of bounding spheres, from which one is drawn in proportion to
 * what it may give at a point.
 *
 * After Conty Estévez & Kulla, "Importance Sampling of Many Lights with Adaptive Tree Splitting" (2018), with
 * power and distance as importance and no cones of directions: the standard's emission leaves both sides of a
 * surface. What a triangle sends out is estimated at its centre; where a mask lets light out only beside the
 * centres, drawn directions find it, so the estimate costs noise at worst, never truth. Materials that ask for
 * fields are left to drawn directions altogether: their light is known only where a path has arrived with its
 * fields.
 */
import { luminanceAt } from '../colour/luminance'
import { POINT } from '../point/slots'
import type { Shader } from '../network/instantiate'
import { fillPoint } from '../scene/fill-point'
import type { Geometry } from '../scene/geometry'
import { partAt, storedByPart } from '../scene/part-places'
import { beginSurfaceAt } from '../surface/begin'
import { memory as surface } from '../surface/memory'
import { FIRST } from '../trace/instances'
import { loadTriangle, triangle } from '../trace/triangle'
import { memory } from './memory'
import { placesOfParts } from './places'
import { EMITTER } from './slots'

const { basis, emission } = surface
const { facing: towards, shiningPoint: S, shiningRay: ray } = memory

export interface Emitters {
  /** Nodes of the tree, the root first. */
  nodes: Float64Array
  /** Leaf of the triangle at each place that belongs to no copy; −1 where nothing is sent out. */
  leafOf: Int32Array
  /** Leaves of triangles of copies that send something out, by place. */
  leafOfCopy: ReadonlyMap<number, number>
}

export interface Shining {
  shader: Shader
  constants: Float64Array
  fields: readonly unknown[]
  straight?: boolean
  opens?: boolean
}

/** Whether shadow rays may pass a material: as glass that asks for it, or through openings. */
export const letsShadowsPass = (m: Pick<Shining, 'straight' | 'opens'> | undefined): boolean =>
  m?.straight === true || m?.opens === true

/** The last tree, and what was seen of the parts when it was built: materials change often, what shines seldom. */
let last: { geometry: Geometry; seen: number[][]; emitters: Emitters | null } | undefined

/**
 * Finds the triangles that shine and builds their tree, unless the last one still holds.
 * @returns null where nothing shines
 */
export function createEmitters(
  geometry: Geometry,
  materials: readonly Shining[],
  materialOf: Int32Array,
): Emitters | null {
  const wearing = (part: number) => materials[materialOf[part]!]!
  const seen = placesOfParts(geometry).map((places, part) =>
    wearing(part).fields.length > 0 ? [] : Array.from(places, p => powerAt(geometry, p, wearing(part))),
  )
  const same =
    last?.geometry === geometry &&
    seen.every(
      (powers, part) =>
        powers.length === last!.seen[part]!.length && powers.every((x, i) => x === last!.seen[part]![i]),
    )
  if (!same)
    last = {
      geometry,
      seen,
      emitters: collect(
        geometry,
        seen.map(powers => powers.some(x => x > 0)),
        wearing,
      ),
    }
  return last!.emitters
}

function collect(
  geometry: Geometry,
  shines: readonly boolean[],
  wearing: (part: number) => Shining,
): Emitters | null {
  if (!shines.includes(true)) return null
  const places: number[] = []
  const powers: number[] = []
  for (const place of storedByPart(geometry, part => shines[part]!)
    .flatMap(({ places, moved }) => places.map(p => p + moved))
    .sort((a, b) => a - b)) {
    const p = powerAt(geometry, place, wearing(partAt(geometry, place)))
    if (p > 0) {
      places.push(place)
      powers.push(p)
    }
  }
  return buildTree(geometry, Int32Array.from(places), powers)
}

/** Luminance sent out at the middle of the triangle at a place, times its area; m². */
function powerAt(geometry: Geometry, place: number, material: Shining): number {
  loadTriangle(geometry.hierarchy, place)
  const l = Math.hypot(triangle.nx, triangle.ny, triangle.nz)
  if (!(l > 0)) return 0
  towards[0] = -triangle.nx / l
  towards[1] = -triangle.ny / l
  towards[2] = -triangle.nz / l
  ray.triangle[0] = place
  ray.u[0] = ray.v[0] = 1 / 3
  fillPoint(geometry, ray, 0, towards, 0, S)
  S.fill(0, POINT.fields)
  basis.fill(1 / 3)
  beginSurfaceAt(S)
  material.shader.light(S, material.constants, material.shader.images)
  return (l / 2) * Math.max(0, luminanceAt(emission, 4))
}

/**
 * Tree by halves along the longest side of the centres' box: as balanced as the triangles allow, and the same on
 * every thread.
 */
function buildTree(geometry: Geometry, places: Int32Array, powers: readonly number[]): Emitters | null {
  const n = places.length
  if (n === 0) return null
  const { order, instances } = geometry.hierarchy
  const nodes = new Float64Array((2 * n - 1) * EMITTER.stride)
  const leafOf = new Int32Array(instances === null ? order.length : instances.links[FIRST]!).fill(-1)
  const leafOfCopy = new Map<number, number>()
  const ids = Array.from({ length: n }, (_, i) => i)
  const centres = new Float64Array(n * 3)
  const corners = new Float64Array(n * 9)
  for (let i = 0; i < n; i++) {
    loadTriangle(geometry.hierarchy, places[i]!)
    const { ax, ay, az, e1x, e1y, e1z, e2x, e2y, e2z } = triangle
    corners.set([ax, ay, az, ax + e1x, ay + e1y, az + e1z, ax + e2x, ay + e2y, az + e2z], i * 9)
    for (let k = 0; k < 3; k++) for (let v = 0; v < 3; v++) centres[i * 3 + k]! += corners[i * 9 + v * 3 + k]! / 3
  }
  let used = 1
  // first, count, node, node above
  const stack = [[0, n, 0, -1]]
  while (stack.length) {
    const [first, count, node, above] = stack.pop() as [number, number, number, number]
    const o = node * EMITTER.stride
    const low = [Infinity, Infinity, Infinity]
    const high = [-Infinity, -Infinity, -Infinity]
    const low3 = low.slice()
    const high3 = high.slice()
    let power = 0
    for (let j = first; j < first + count; j++) {
      const i = ids[j]!
      power += powers[i]!
      for (let k = 0; k < 3; k++) {
        low3[k] = Math.min(low3[k]!, centres[i * 3 + k]!)
        high3[k] = Math.max(high3[k]!, centres[i * 3 + k]!)
        for (let v = 0; v < 3; v++) {
          const x = corners[i * 9 + v * 3 + k]!
          low[k] = Math.min(low[k]!, x)
          high[k] = Math.max(high[k]!, x)
        }
      }
    }
    for (let k = 0; k < 3; k++) {
      nodes[o + k] = (low[k]! + high[k]!) / 2
      nodes[o + EMITTER.radius2]! += (high[k]! - low[k]!) ** 2 / 4
    }
    nodes[o + EMITTER.power] = power
    nodes[o + EMITTER.parent] = above
    if (count === 1) {
      nodes[o + EMITTER.child] = -1
      nodes[o + EMITTER.place] = places[ids[first]!]!
      const place = places[ids[first]!]!
      if (place < leafOf.length) leafOf[place] = node
      else leafOfCopy.set(place, node)
      continue
    }
    const axis = [0, 1, 2].reduce((a, k) => (high3[k]! - low3[k]! > high3[a]! - low3[a]! ? k : a), 0)
    const half = count >> 1
    const sorted = ids
      .slice(first, first + count)
      .sort((a, b) => centres[a * 3 + axis]! - centres[b * 3 + axis]! || a - b)
    for (let j = 0; j < count; j++) ids[first + j] = sorted[j]!
    nodes[o + EMITTER.child] = used
    stack.push([first + half, count - half, used + 1, node], [first, half, used, node])
    used += 2
  }
  return { nodes, leafOf, leafOfCopy }
}

/** Leaf of the triangle at a place; −1 where nothing is sent out. */
export const leafAt = (e: Emitters, place: number): number =>
  place < e.leafOf.length ? e.leafOf[place]! : (e.leafOfCopy.get(place) ?? -1)
