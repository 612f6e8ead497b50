/**
 * Parts that shine: their triangles in a tree (`tree.ts`), from which one is drawn in proportion to what it may give
 * at a point. The standard's emission leaves both sides of a surface, so cones are those of both.
 *
 * What a triangle sends out is estimated around its centre, pictures as the mean over it; where they are few, those
 * that do not shine evenly are cut into cells (`cells.ts`). What the estimate misses drawn directions find, so it costs
 * noise at worst, never truth. Materials that ask for fields are left to drawn directions altogether: their light is
 * known only where a path has arrived with its fields.
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
import { cellAt, createCells, cutIntoCells, WHOLE, type Cells } from './cells'
import { MOST_SHINING } from './choices'
import { memory } from './memory'
import { MOST_PLACES, placesOfParts } from './places'
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
  /**
   * Leaf of the triangle at each place that belongs to no copy; −1 where nothing is sent out, −2 − its first step for
   * one that is cut into cells.
   */
  leafOf: Int32Array
  /** The same of triangles of copies that send something out, by place. */
  leafOfCopy: ReadonlyMap<number, number>
  cells: Cells
}

/** What stands for the first step of a triangle that is cut. */
const CUT = -2

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
    wearing(part).fields.length > 0 ? [] : seenOf(geometry, places, wearing(part)),
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
  const places = storedByPart(geometry, part => shines[part]!)
    .flatMap(({ places, moved }) => places.map(p => p + moved))
    .sort((a, b) => a - b)
  return plant(geometry, places, wearing)
}

/** Area of the triangle at a place, m². */
function areaOf(geometry: Geometry, place: number): number {
  loadTriangle(geometry.hierarchy, place)
  return Math.hypot(triangle.nx, triangle.ny, triangle.nz) / 2
}

/**
 * What a part is seen to send out at a few places: enough to tell whether it shines, and whether that changed. Few
 * triangles are asked at several places of each, by the additive recurrence of the plastic number (common practice).
 */
function seenOf(geometry: Geometry, places: Int32Array, material: Shining): number[] {
  const each = Math.max(1, Math.floor(MOST_PLACES / places.length))
  return Array.from(places).flatMap(place => {
    const area = areaOf(geometry, place)
    return Array.from({ length: each }, (_, i) => {
      const a = (0.5 + i * 0.7548776662466927) % 1
      const b = (0.5 + i * 0.5698402909980532) % 1
      const r = Math.sqrt(a)
      const [u, v] = each === 1 ? [1 / 3, 1 / 3] : [r * (1 - b), r * b]
      return area * luminanceOf(geometry, place, material, u, v, area / each)
    })
  })
}

/** Luminance sent out around a place of a triangle, barycentric, seen from its front; the mean over an area, m². */
function luminanceOf(
  geometry: Geometry,
  place: number,
  material: Shining,
  u: number,
  v: number,
  area: number,
): number {
  loadTriangle(geometry.hierarchy, place)
  const l = Math.hypot(triangle.nx, triangle.ny, triangle.nz)
  if (!(l > 0)) return 0
  towards[0] = -triangle.nx / l
  towards[1] = -triangle.ny / l
  towards[2] = -triangle.nz / l
  ray.triangle[0] = place
  ray.u[0] = u
  ray.v[0] = v
  fillPoint(geometry, ray, 0, towards, 0, S)
  S.fill(0, POINT.fields)
  S[POINT.footprint] = Math.sqrt(area) / 2
  basis.fill(1 / 3)
  beginSurfaceAt(S)
  material.shader.light(S, material.constants, material.shader.images)
  return Math.max(0, luminanceAt(emission, 4))
}

/** Cells of all triangles together that are looked at whether they shine evenly or not. */
const MOST_CELLS = 2048

/**
 * Builds the tree over those triangles at some places that shine, cut into cells where they do not shine evenly.
 * @returns null where none does
 */
function plant(
  geometry: Geometry,
  places: readonly number[],
  wearing: (part: number) => Shining,
): Emitters | null {
  const light: number[] = []
  const power: number[] = []
  const cells = createCells()
  const firstStep = new Map<number, number>()
  const levels = Math.floor(Math.log2(MOST_CELLS / places.length))
  for (const place of places) {
    const material = wearing(partAt(geometry, place))
    const area = areaOf(geometry, place)
    if (!(area > 0)) continue
    const around = (u: number, v: number, share: number) =>
      luminanceOf(geometry, place, material, u, v, area * share)
    const first =
      levels < 1
        ? -1
        : cutIntoCells(cells, place, levels, around, (cell, luminance, share) => {
            light.push(-1 - cell)
            power.push(luminance * share * area)
          })
    if (first >= 0) {
      firstStep.set(place, first)
      continue
    }
    const whole = area * around(1 / 3, 1 / 3, 1)
    if (whole > 0) {
      light.push(place)
      power.push(whole)
    }
  }
  if (light.length === 0) return null
  const tree = buildTree(leavesOf(geometry, light, power, cells), light.length)
  const cut = cutTree(tree, MOST_SHINING)
  const cutOf = new Int32Array(tree.nodes.length / NODE.stride).fill(-1)
  cut.forEach((node, k) => (cutOf[node] = k))
  const { order, instances } = geometry.hierarchy
  const leafOf = new Int32Array(instances === null ? order.length : instances.links[FIRST]!).fill(-1)
  const leafOfCopy = new Map<number, number>()
  const keep = (place: number, leaf: number): void => {
    if (place < leafOf.length) leafOf[place] = leaf
    else leafOfCopy.set(place, leaf)
  }
  leavesBelow(tree, 0, (number, leaf) => {
    if (number >= 0) keep(number, leaf)
    else cells.leaf[-1 - number] = leaf
  })
  firstStep.forEach((first, place) => keep(place, CUT - first))
  return { tree, cut, cutOf, leafOf, leafOfCopy, cells }
}

/** What the tree is built over: triangles by their place, cells by −1 − their number. */
function leavesOf(geometry: Geometry, light: readonly number[], power: readonly number[], cells: Cells): Leaves {
  const n = light.length
  const leaves: Leaves = {
    light: Int32Array.from(light),
    boxes: new Float64Array(n * 6),
    power: Float64Array.from(power),
    axis: new Float64Array(n * 3),
    spread: new Float64Array(n),
    bothSides: true,
    // of a triangle that is turned any way half its area is seen, from either side
    shown: 0.5,
  }
  light.forEach((number, i) => {
    const cell = -1 - number
    loadTriangle(geometry.hierarchy, number >= 0 ? number : cells.place[cell]!)
    const { ax, ay, az, e1x, e1y, e1z, e2x, e2y, e2z, nx, ny, nz } = triangle
    for (let corner = 0; corner < 3; corner++) {
      const c = number >= 0 ? WHOLE : cells.corners
      const at = (number >= 0 ? 0 : cell * 6) + corner * 2
      const u = c[at]!
      const v = c[at + 1]!
      widenBox(leaves.boxes, i * 6, corner === 0, ax + u * e1x + v * e2x)
      widenBox(leaves.boxes, i * 6 + 1, corner === 0, ay + u * e1y + v * e2y)
      widenBox(leaves.boxes, i * 6 + 2, corner === 0, az + u * e1z + v * e2z)
    }
    const l = Math.hypot(nx, ny, nz) || 1
    leaves.axis.set([nx / l, ny / l, nz / l], i * 3)
  })
  return leaves
}

/** Widens one axis of a box by a corner; the first one begins it. */
function widenBox(boxes: Float64Array, at: number, first: boolean, x: number): void {
  boxes[at] = first ? x : Math.min(boxes[at]!, x)
  boxes[at + 3] = first ? x : Math.max(boxes[at + 3]!, x)
}

/** Leaf of the triangle at a place, or of its cell at barycentric u, v; −1 where nothing is sent out. */
export function leafAt(e: Emitters, place: number, u: number, v: number): number {
  const leaf = place < e.leafOf.length ? e.leafOf[place]! : (e.leafOfCopy.get(place) ?? -1)
  return leaf > CUT ? leaf : e.cells.leaf[cellAt(e.cells, CUT - leaf, u, v)]!
}

/** Node of the cut above a leaf. */
export function cutAbove({ tree, cutOf }: Emitters, leaf: number): number {
  let node = leaf
  while (cutOf[node]! < 0) node = tree.nodes[node * NODE.stride + NODE.parent]!
  return node
}

/** What a leaf stands for: the place of a triangle, or −1 − the number of a cell. */
export const lightOf = ({ tree }: Emitters, leaf: number): number => tree.nodes[leaf * NODE.stride + NODE.leaf]!
