/**
 * How much of each light the parts of a model see: lights are drawn in proportion to what they would give, times
 * this, so that no draws go to a lamp inside a closed glass or to a panel behind a wall. Found once for a rig by
 * shadow rays from points spread over each part; other glass is a wall for drawn lights. Lights that were never
 * seen keep a small part of the draws together: what the few rays missed must not become noise that never ends.
 * Parts that light passes straight are no walls. Any shares give the same picture in the end; only its noise
 * differs.
 */
import type { Geometry } from '../scene/geometry'
import { partAt } from '../scene/part-places'
import type { RayBatch } from '../trace/ray-batch'
import { castAny, castClosest, createRayBatch } from '../trace/cast'
import { loadTriangle, triangle } from '../trace/triangle'
import { descended, drawLeaf } from './descend'
import { choiceCount, environmentChoice, type Lights } from './lights'
import { drawnEmitter, lit, memory } from './memory'
import { MOST_PLACES, placesOfParts } from './places'
import { receiveAll } from './receiver'
import { sampleTriangle } from './sample-emitters'
import { lightShapeOfKind } from './shapes/dispatch'
import { PANEL } from './slots'

const { single, toLight } = memory

/** Points of a part that are asked. */
const POINTS = MOST_PLACES
/** Faces that a ray passes straight. */
const FACES = 32

/** Which side of a part's triangles is asked: the one that faces the light, or the inside of the part. */
export type Side = 'facing' | 'inside'

const point = new Float64Array(3)
const draw = new Float64Array(3)

/**
 * Shares of each choice as seen by each part: {@link choiceCount} numbers a part. The environment is 1: it is on
 * every side. 0 where none of the rays arrived.
 * @param passes whether light passes a part straight
 * @returns null where no light is drawn at all
 */
export function lightVisibility(
  geometry: Geometry,
  lights: Lights,
  passes: (part: number) => boolean = () => false,
): Float64Array | null {
  const count = choiceCount(lights)
  const table = new Float64Array(geometry.partNames.length * count).fill(1)
  if (lights.panelCount === 0 && lights.emitters === null) return null
  placesOfParts(geometry).forEach((places, part) => {
    for (let choice = 0; choice < count; choice++)
      if (choice !== environmentChoice(lights))
        table[part * count + choice] = shareSeen(geometry, lights, choice, places, 'facing', passes)
  })
  return table
}

/**
 * Shares of each choice that are seen from right inside of a part, {@link choiceCount} numbers: 0 for what only
 * comes in through faces that are no way for drawn lights, as the environment does. Null where light passes the part
 * straight: then all may be seen; empty where none is.
 */
export function seenFromWithin(
  geometry: Geometry,
  lights: Lights,
  part: number,
  passes: (part: number) => boolean,
): Float64Array | null {
  if (passes(part)) return null
  const places = placesOfParts(geometry)[part]!
  const shares = Float64Array.from({ length: choiceCount(lights) }, (_, choice) =>
    choice !== environmentChoice(lights) ? shareSeen(geometry, lights, choice, places, 'inside', passes) : 0,
  )
  return shares.some(x => x > 0) ? shares : shares.slice(0, 0)
}

/** Share of the rays from points of triangles to points of a light that arrive. */
function shareSeen(
  geometry: Geometry,
  lights: Lights,
  choice: number,
  places: Int32Array,
  from: Side,
  passes: (part: number) => boolean,
): number {
  const batch = createRayBatch(POINTS)
  // whatever was asked before: what a part sees is a matter of the scene alone
  receiveAll()
  let rays = 0
  // a part of few triangles is asked at several points of each
  for (let i = 0, points = Math.min(POINTS, places.length * 4); i < points; i++) {
    loadTriangle(geometry.hierarchy, places[Math.floor(((i + 0.5) / points) * places.length)]!)
    const { ax, ay, az, e1x, e1y, e1z, e2x, e2y, e2z, nx, ny, nz } = triangle
    // additive recurrences of the plastic number and of √2, √3: patterns that no grid of triangles shares
    // (common practice)
    draw[0] = (i * 0.7548776662466927) % 1
    draw[1] = (i * 0.5698402909980532) % 1
    draw[2] = (i * 0.4142135623730951) % 1
    const u = (i * 0.7320508075688772) % 1
    const v = (i * 0.2360679774997898) % 1
    const a = u + v > 1 ? 1 - u : u
    const b = u + v > 1 ? 1 - v : v
    point[0] = ax + a * e1x + b * e2x
    point[1] = ay + a * e1y + b * e2y
    point[2] = az + a * e1z + b * e2z
    if (!aim(lights, geometry, choice, point, draw)) continue
    // from the side that faces it: closed shells are lit from outside, sheets from both
    const faces = nx * toLight[0]! + ny * toLight[1]! + nz * toLight[2]! > 0
    const side =
      ((from === 'facing' && faces ? 1 : -1) / (Math.hypot(nx, ny, nz) || 1)) *
      1e-6 *
      (1 + Math.abs(point[0]!) + Math.abs(point[1]!) + Math.abs(point[2]!))
    batch.origin[rays * 3] = point[0]! + side * nx
    batch.origin[rays * 3 + 1] = point[1]! + side * ny
    batch.origin[rays * 3 + 2] = point[2]! + side * nz
    batch.direction.set(toLight, rays * 3)
    batch.distance[rays++] = lit.distance * (1 - 1e-5) - 1e-5
  }
  castAny(geometry.hierarchy, batch, rays)
  let seen = 0
  for (let i = 0; i < rays; i++) if (batch.triangle[i]! < 0 || arrives(geometry, batch, i, passes)) seen++
  return rays > 0 ? seen / rays : 0
}

/** Whether a ray that met something meets only parts that light passes straight. */
function arrives(geometry: Geometry, batch: RayBatch, i: number, passes: (part: number) => boolean): boolean {
  if (!passes(partAt(geometry, batch.triangle[i]!))) return false
  let left = batch.distance[i]!
  for (let k = 0; k < 3; k++) {
    single.origin[k] = batch.origin[i * 3 + k]!
    single.direction[k] = batch.direction[i * 3 + k]!
  }
  for (let face = 0; face < FACES; face++) {
    single.distance[0] = left
    castClosest(geometry.hierarchy, single, 1)
    const place = single.triangle[0]!
    if (place < 0) return true
    if (!passes(partAt(geometry, place))) return false
    const way = single.distance[0]! * (1 + 1e-6) + 1e-9
    for (let k = 0; k < 3; k++) single.origin[k]! += way * single.direction[k]!
    left -= way
    if (!(left > 0)) return true
  }
  return false
}

/** Aims at a point of a choice's lights. @returns false where that side does not shine */
function aim(
  lights: Lights,
  geometry: Geometry,
  choice: number,
  point: Float64Array,
  draw: Float64Array,
): boolean {
  const { choices, emitters, panels } = lights
  const count = choices.of.length
  if (choice > count) {
    if (!drawLeaf(emitters!.tree, emitters!.cut[choice - count - 1]!, null, point, 0, draw)) return false
    if (!sampleTriangle(geometry, emitters!.cells, descended.leaf, point, draw)) return false
    toLight[0] = drawnEmitter.x
    toLight[1] = drawnEmitter.y
    toLight[2] = drawnEmitter.z
    lit.distance = drawnEmitter.distance
    return true
  }
  let panel = choices.of[choice]!
  if (panel < 0) {
    if (!drawLeaf(choices.tree!, -1 - panel, panels, point, 0, draw)) return false
    panel = descended.leaf
  }
  const o = panel * PANEL.stride
  return lightShapeOfKind(panels[o + PANEL.shape]!).aim(panels, o, point, draw)
}
