/**
 * Parts that shine: their triangles in a tree (`tree.ts`), from which one is drawn in proportion to what it may give
 * at a point. The standard's emission leaves both sides of a surface, so cones are those of both.
 *
 * What a triangle sends out is estimated at its centre; where a mask lets light out only beside the
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
import { MOST_SHINING } from './choices'
import { memory } from './memory'
import { placesOfParts } from './places'
import { NODE } from './slots'
import { buildTree, cutTree, leavesBelow, type Leaves, type LightTree } from './tree'

const { basis, emission } = surface
const { facing: towards, shiningPoint: S, shiningRay: ray } = memory

export interface Emitters {
  tree: LightTree
  /** Nodes at which the tree is cut: what a point chooses among. */
  cut: Int32Array
  /** By node: its number in the cut, −1 for those that are not in it. */
  cutOf: Int32Array
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
  return plant(geometry, Int32Array.from(places), powers)
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

function plant(geometry: Geometry, places: Int32Array, powers: readonly number[]): Emitters | null {
  const n = places.length
  if (n === 0) return null
  const leaves: Leaves = {
    light: places,
    boxes: new Float64Array(n * 6),
    power: Float64Array.from(powers),
    axis: new Float64Array(n * 3),
    spread: new Float64Array(n),
    bothSides: true,
    // of a triangle that is turned any way half its area is seen, from either side
    shown: 0.5,
  }
  places.forEach((place, i) => {
    loadTriangle(geometry.hierarchy, place)
    const { ax, ay, az, e1x, e1y, e1z, e2x, e2y, e2z, nx, ny, nz } = triangle
    boxOf(leaves.boxes, i * 6, ax, ax + e1x, ax + e2x)
    boxOf(leaves.boxes, i * 6 + 1, ay, ay + e1y, ay + e2y)
    boxOf(leaves.boxes, i * 6 + 2, az, az + e1z, az + e2z)
    const l = Math.hypot(nx, ny, nz) || 1
    leaves.axis.set([nx / l, ny / l, nz / l], i * 3)
  })
  const tree = buildTree(leaves, n)
  const cut = cutTree(tree, MOST_SHINING)
  const cutOf = new Int32Array(tree.nodes.length / NODE.stride).fill(-1)
  cut.forEach((node, k) => (cutOf[node] = k))
  const { order, instances } = geometry.hierarchy
  const leafOf = new Int32Array(instances === null ? order.length : instances.links[FIRST]!).fill(-1)
  const leafOfCopy = new Map<number, number>()
  leavesBelow(tree, 0, (place, leaf) => {
    if (place < leafOf.length) leafOf[place] = leaf
    else leafOfCopy.set(place, leaf)
  })
  return { tree, cut, cutOf, leafOf, leafOfCopy }
}

/** Writes one axis of a triangle's box. */
function boxOf(boxes: Float64Array, at: number, a: number, b: number, c: number): void {
  boxes[at] = Math.min(a, b, c)
  boxes[at + 3] = Math.max(a, b, c)
}

/** Leaf of the triangle at a place; −1 where nothing is sent out. */
export const leafAt = (e: Emitters, place: number): number =>
  place < e.leafOf.length ? e.leafOf[place]! : (e.leafOfCopy.get(place) ?? -1)

/** Node of the cut above a leaf. */
export function cutAbove({ tree, cutOf }: Emitters, leaf: number): number {
  let node = leaf
  while (cutOf[node]! < 0) node = tree.nodes[node * NODE.stride + NODE.parent]!
  return node
}
