/**
 * Corners of the lattices on which fields are kept. The lattice of a triangle cuts each of its edges in 2^level. A
 * corner is named by what it is, in lowest terms, so that all triangles and levels that have it mean the same one: a
 * vertex; a place on an edge, by its two vertices; a place within a triangle. Where it stands is worked out from that
 * name alone, so whoever computes it finds the same bits.
 */
import type { Attributes } from '../scene/geometry'
import { memory as scene } from '../scene/memory'
import { turnDirection, turnNormal } from '../scene/turn'
import { NO_TRIANGLE, placeWord, type Hierarchy, type Instances } from '../trace/hierarchy'
import { INSTANCE_LINKS, INSTANCE_WORDS, PART, storedPlace, TO_SCENE } from '../trace/instances'
import { loadTriangle, triangle } from '../trace/triangle'
import type { Site } from './hemisphere'

const { turned } = scene

/** What corners are found from. */
export type Ground = Pick<Attributes, 'index' | 'normal' | 'part'> & { hierarchy: Hierarchy }

/** Where each triangle lies among the packets, and a triangle of each vertex: the first that has it. */
interface Homes {
  placeOf: Int32Array
  homeOf: Int32Array
}

/**
 * How far corners on a border are moved into their triangles, and rays begin off them, for each metre from the origin:
 * far more than what a ray may pass by, far less than any radius. A ray from the border itself would meet the next face
 * or not, and one from 10⁻⁸ beside it missed one of 64.
 */
export const NUDGE = 2.5e-7
/** As a share of the way to the middle of the triangle, at most. */
const NUDGED_AT_MOST = 0.01

const homesOf = new WeakMap<Hierarchy, Homes>()
let homes: Homes | undefined
let ground: Ground | undefined

function findHomes({ index, normal, hierarchy: { order } }: Ground): Homes {
  const placeOf = new Int32Array(index.length / 3)
  for (let place = 0; place < order.length; place++)
    if (order[place] !== NO_TRIANGLE) placeOf[order[place]!] = place
  const homeOf = new Int32Array(normal.length / 3)
  for (let c = index.length - 1; c >= 0; c--) homeOf[index[c]!] = Math.floor(c / 3)
  return { placeOf, homeOf }
}

/** The triangle whose lattice is looked at: its number, its part, the copy that it belongs to, its vertices. */
export const patch = { number: 0, part: 0, instance: -1, v0: 0, v1: 0, v2: 0 }

/**
 * Takes up the lattice of the triangle at a place, and the triangle itself (`trace/triangle.ts`).
 */
export function takePatch(of: Ground, place: number): void {
  if (of !== ground) {
    ground = of
    homes = homesOf.get(of.hierarchy)
    if (!homes) homesOf.set(of.hierarchy, (homes = findHomes(of)))
  }
  const { order, instances } = of.hierarchy
  loadTriangle(of.hierarchy, place)
  const { instance } = triangle
  const number = order[instance < 0 ? place : storedPlace(instances!, instance, place)]!
  patch.number = number
  patch.instance = instance
  patch.part = instance < 0 ? of.part[number]! : instances!.links[instance * INSTANCE_LINKS + PART]!
  patch.v0 = of.index[number * 3]!
  patch.v1 = of.index[number * 3 + 1]!
  patch.v2 = of.index[number * 3 + 2]!
}

/** What a corner is: how many vertices it lies between, then four whole numbers. */
export const corner = { between: 0, first: 0, second: 0, weight: 0, parts: 0 }

/** Names the corner of the patch that is i and j of `parts` on the way to its second and third vertex. */
export function nameCorner(i: number, j: number, parts: number): void {
  while (parts > 1 && ((i | j) & 1) === 0) {
    i >>= 1
    j >>= 1
    parts >>= 1
  }
  const h = parts - i - j
  corner.parts = parts
  corner.weight = 0
  corner.second = 0
  if (h === parts || i === parts || j === parts) {
    corner.between = 1
    corner.first = h > 0 ? patch.v0 : i > 0 ? patch.v1 : patch.v2
  } else if (h === 0 || i === 0 || j === 0) {
    const from = h > 0 ? patch.v0 : patch.v1
    const to = j > 0 ? patch.v2 : patch.v1
    const weight = j > 0 ? j : i
    const turnedRound = from > to
    corner.between = 2
    corner.first = turnedRound ? to : from
    corner.second = turnedRound ? from : to
    corner.weight = turnedRound ? parts - weight : weight
  } else {
    corner.between = 3
    corner.first = patch.number
    corner.second = i
    corner.weight = j
  }
}

/** Where a corner stands. */
export const site: Site = { x: 0.5, y: 0.5, z: 0.5, nx: 0.5, ny: 0.5, nz: 0.5 }
/** The way in which it is moved off a border. */
const inwards = { x: 0.5, y: 0.5, z: 0.5 }

function clear(): void {
  site.x = 0
  site.y = 0
  site.z = 0
  site.nx = 0
  site.ny = 0
  site.nz = 0
  inwards.x = 0
  inwards.y = 0
  inwards.z = 0
}

/** Adds a vertex to the site with a weight, in the space of its mesh. */
function addVertex({ index, normal: N, hierarchy: { packets } }: Ground, v: number, weight: number): void {
  const home = homes!.homeOf[v]!
  const o = placeWord(homes!.placeOf[home]!)
  const which = index[home * 3] === v ? 0 : index[home * 3 + 1] === v ? 1 : 2
  const c = o + which * 12
  const x = packets[c]!
  const y = packets[c + 4]!
  const z = packets[c + 8]!
  const mx = (packets[o]! + packets[o + 12]! + packets[o + 24]!) / 3 - x
  const my = (packets[o + 4]! + packets[o + 16]! + packets[o + 28]!) / 3 - y
  const mz = (packets[o + 8]! + packets[o + 20]! + packets[o + 32]!) / 3 - z
  const e1x = packets[o + 12]! - packets[o]!
  const e1y = packets[o + 16]! - packets[o + 4]!
  const e1z = packets[o + 20]! - packets[o + 8]!
  const e2x = packets[o + 24]! - packets[o]!
  const e2y = packets[o + 28]! - packets[o + 4]!
  const e2z = packets[o + 32]! - packets[o + 8]!
  const gx = e1y * e2z - e1z * e2y
  const gy = e1z * e2x - e1x * e2z
  const gz = e1x * e2y - e1y * e2x
  let nx: number = N[v * 3]!
  let ny: number = N[v * 3 + 1]!
  let nz: number = N[v * 3 + 2]!
  const stored = nx * nx + ny * ny + nz * nz > 1e-12
  if (!stored) {
    nx = gx
    ny = gy
    nz = gz
  }
  const way = weight * (nx * gx + ny * gy + nz * gz < 0 ? -1 : 1)
  const l = way / Math.sqrt(nx * nx + ny * ny + nz * nz)
  site.x += weight * x
  site.y += weight * y
  site.z += weight * z
  if (l === l) {
    site.nx += l * nx
    site.ny += l * ny
    site.nz += l * nz
  }
  const reach = Math.sqrt(mx * mx + my * my + mz * mz)
  const nudge = Math.min(NUDGE * (1 + Math.abs(x) + Math.abs(y) + Math.abs(z)), NUDGED_AT_MOST * reach)
  const s = reach > 0 ? (weight * nudge) / reach : 0
  inwards.x += s * mx
  inwards.y += s * my
  inwards.z += s * mz
}

/** Moves the site from a copy's space to the scene's. */
function toScene(of: Instances, instance: number): void {
  const m = of.words
  const o = instance * INSTANCE_WORDS + TO_SCENE
  const { x, y, z } = site
  site.x = m[o]! * x + m[o + 1]! * y + m[o + 2]! * z + m[o + 3]!
  site.y = m[o + 4]! * x + m[o + 5]! * y + m[o + 6]! * z + m[o + 7]!
  site.z = m[o + 8]! * x + m[o + 9]! * y + m[o + 10]! * z + m[o + 11]!
  const mirrored =
    m[o]! * (m[o + 5]! * m[o + 10]! - m[o + 6]! * m[o + 9]!) -
      m[o + 1]! * (m[o + 4]! * m[o + 10]! - m[o + 6]! * m[o + 8]!) +
      m[o + 2]! * (m[o + 4]! * m[o + 9]! - m[o + 5]! * m[o + 8]!) <
    0
  turnNormal(of, instance, site.nx, site.ny, site.nz)
  const way = mirrored ? -1 : 1
  site.nx = way * turned[0]!
  site.ny = way * turned[1]!
  site.nz = way * turned[2]!
  turnDirection(of, instance, inwards.x, inwards.y, inwards.z)
  inwards.x = turned[0]!
  inwards.y = turned[1]!
  inwards.z = turned[2]!
}

/** Finds the {@link site} of the corner that was named last, on the patch. */
export function placeCorner(of: Ground): void {
  const { between, first, second, weight, parts } = corner
  clear()
  if (between === 1) addVertex(of, first, 1)
  else if (between === 2) {
    addVertex(of, first, (parts - weight) / parts)
    addVertex(of, second, weight / parts)
  } else {
    addVertex(of, patch.v0, (parts - second - weight) / parts)
    addVertex(of, patch.v1, second / parts)
    addVertex(of, patch.v2, weight / parts)
    inwards.x = 0
    inwards.y = 0
    inwards.z = 0
  }
  if (patch.instance >= 0) toScene(of.hierarchy.instances!, patch.instance)
  site.x += inwards.x
  site.y += inwards.y
  site.z += inwards.z
  const l = Math.sqrt(site.nx * site.nx + site.ny * site.ny + site.nz * site.nz)
  if (l > 0) {
    site.nx /= l
    site.ny /= l
    site.nz /= l
  } else {
    const { nx, ny, nz } = triangle
    const area = Math.sqrt(nx * nx + ny * ny + nz * nz)
    site.nx = nx / area
    site.ny = ny / area
    site.nz = nz / area
  }
}
