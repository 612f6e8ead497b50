/**
 * Handles of a rig's panels over the picture: each panel is a dot on a ball about the model, as the camera sees
 * it; dots go round the rim to the far side.
 */
import type { Panel } from '../../core/scene/rig'
import { turned } from '../../core/light/turned'
import { cameraFrame, type Camera } from '../../core/scene/camera'
import { placed, placeOf } from './place-panel'

type Vector = [number, number, number]

/** Where a dot lies: right and up of the ball's middle, in radii, and whether it is on the side of the camera. */
export interface Dot {
  x: number
  y: number
  near: boolean
}

/** Panels without a group that all have handles; of more, and of groups, only the one in hand has. */
const MOST_HANDLES = 24

/** Numbers of the panels that have handles. @param shown number of the one whose fields are open */
export function handled(panels: readonly Panel[], shown: number | null): number[] {
  const few = panels.filter(p => p.group === undefined).length <= MOST_HANDLES
  return [...panels.keys()].filter(i => i === shown || (few && panels[i]!.group === undefined))
}

/** Unit vectors to the right, up and towards the camera. */
function axes(c: Camera): [Vector, Vector, Vector] {
  const f = cameraFrame(c, 1, 1)
  const unit = (o: number, sign: number): Vector => {
    const v = [f[o]!, f[o + 1]!, f[o + 2]!]
    const l = Math.hypot(...v) * sign
    return v.map(k => k / l) as Vector
  }
  return [unit(3, 1), unit(6, 1), unit(9, -1)]
}
const dot = (a: readonly number[], b: readonly number[]) => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!

/** Dot of a panel. @param middle of the model */
export function dotOf(p: Panel, turn: number, middle: readonly number[], camera: Camera): Dot {
  const from = turned(p.centre, turn).map((x, k) => x - middle[k]!)
  const l = Math.hypot(...from) || 1
  const [right, up, near] = axes(camera)
  return { x: dot(from, right) / l, y: dot(from, up) / l, near: dot(from, near) >= 0 }
}

/** A dot moved by some radii. Beyond the rim it comes back on the other side. */
export function moved(d: Dot, dx: number, dy: number): Dot {
  const x = d.x + dx
  const y = d.y + dy
  const r = Math.hypot(x, y)
  if (r <= 1) return { x, y, near: d.near }
  const back = Math.max(0, 2 - r) / r
  return { x: x * back, y: y * back, near: !d.near }
}

/** The panel put where its dot is, as far from the middle as it was, facing it. */
export function putAt(p: Panel, d: Dot, turn: number, middle: readonly number[], camera: Camera): Panel {
  const [right, up, near] = axes(camera)
  const z = Math.sqrt(Math.max(0, 1 - d.x * d.x - d.y * d.y)) * (d.near ? 1 : -1)
  return towards(
    p,
    [0, 1, 2].map(k => right[k]! * d.x + up[k]! * d.y + near[k]! * z),
    turn,
    middle,
  )
}

/** The panel in a direction from the middle of the model, as far away as it was, facing it. */
function towards(p: Panel, direction: readonly number[], turn: number, middle: readonly number[]): Panel {
  const own = turned(middle, -turn)
  const d = turned(direction, -turn)
  const l = Math.hypot(...d) || 1
  const degrees = 180 / Math.PI
  return placed(
    p,
    {
      ...placeOf(p, own),
      azimuth: Math.atan2(d[0], d[2]) * degrees,
      elevation: Math.asin(Math.max(-1, Math.min(1, d[1] / l))) * degrees,
    },
    own,
  )
}

/**
 * The panel put so that a camera sees its middle mirrored at a point of a surface.
 * @param point on the surface; normal: unit, of the surface there; from: the way of the camera's ray, unit
 */
export function mirroredAt(
  p: Panel,
  point: readonly number[],
  normal: readonly number[],
  from: readonly number[],
  turn: number,
  middle: readonly number[],
): Panel {
  const along = dot(from, normal)
  const way = from.map((x, k) => x - 2 * along * normal[k]!)
  const offset = point.map((x, k) => x - middle[k]!)
  const distance = placeOf(p, turned(middle, -turn)).distance
  // |offset + t · way| = distance; a point outside that ball lets the panel stand where the ray comes nearest
  const b = dot(offset, way)
  const rest = b * b - dot(offset, offset) + distance * distance
  const t = Math.max(0, -b + Math.sqrt(Math.max(0, rest)))
  return towards(
    p,
    offset.map((x, k) => x + t * way[k]!),
    turn,
    middle,
  )
}
