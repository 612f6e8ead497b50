/** A panel of a rig as numbers for the render loop. */
import { luminanceAt } from '../colour/luminance'
import type { Panel } from '../scene/rig'
import { shapeNames, shapeNumber } from '../scene/shape-kinds'
import { lightShapeOfKind } from './shapes/dispatch'
import { PANEL } from './slots'
import { turned } from './turned'

const crossed = (a: readonly number[], b: readonly number[]): number[] => [
  a[1]! * b[2]! - a[2]! * b[1]!,
  a[2]! * b[0]! - a[0]! * b[2]!,
  a[0]! * b[1]! - a[1]! * b[0]!,
]

/** What was written last for each panel: of a rig of hundreds one is moved. */
const written = new WeakMap<Panel, { turn: number; dim: number; words: Float64Array }>()

/**
 * Words of one panel, see {@link PANEL}.
 * @param turn degrees about the vertical; dim: factor on its radiance
 * @throws RangeError for a shape that nobody knows
 */
export function wordsOf(p: Panel, turn: number, dim: number): Float64Array {
  const known = written.get(p)
  if (known?.turn === turn && known.dim === dim) return known.words
  const words = write(p, turned(p.centre, turn), turned(p.u, turn), turned(p.v, turn), dim)
  written.set(p, { turn, dim, words })
  return words
}

function write(
  p: Panel,
  centre: readonly number[],
  u: readonly number[],
  v: readonly number[],
  dim: number,
): Float64Array {
  const words = new Float64Array(PANEL.stride)
  const name = p.shape ?? 'rectangle'
  const shape = shapeNumber(name)
  if (shape === undefined)
    throw new RangeError(`there is no light shape ${name}; known are ${shapeNames().join(', ')}`)
  const n = crossed(u, v)
  const cross = Math.hypot(...n)
  const {
    area,
    cone = [0, 1],
    hard = false,
    around,
  } = lightShapeOfKind(shape).prepare({
    u,
    v,
    cross,
    cone: p.cone,
  })
  const rgb = p.radiance.map(x => (p.blocks ? 0 : x * dim))
  words.set(centre, PANEL.x)
  words.set(u, PANEL.u)
  words.set(v, PANEL.v)
  words.set(
    n.map(x => x / (cross || 1)),
    PANEL.nx,
  )
  words[PANEL.area] = area
  words.set(rgb, PANEL.radiance)
  words[PANEL.visible] = p.visible ? 1 : 0
  words[PANEL.power] = luminanceAt(rgb, 0)
  const uu = u[0]! * u[0]! + u[1]! * u[1]! + u[2]! * u[2]!
  const uv = u[0]! * v[0]! + u[1]! * v[1]! + u[2]! * v[2]!
  words[PANEL.uu] = uu
  words[PANEL.radius2] = uu + v[0]! * v[0]! + v[1]! * v[1]! + v[2]! * v[2]! + 2 * Math.abs(uv)
  words[PANEL.shape] = shape
  words[PANEL.soft] = hard ? 0 : (p.soft ?? 0)
  words[PANEL.blocks] = p.blocks ? 1 : 0
  words[PANEL.coneScale] = cone[0]
  words[PANEL.coneOffset] = cone[1]
  words[PANEL.round] = around === undefined ? 0 : 1
  words[PANEL.spread] = ((around ?? 0) * Math.PI) / 180
  if (!(cross > 0)) return words
  words.set(
    crossed(v, n).map(x => x / (cross * cross)),
    PANEL.du,
  )
  words.set(
    crossed(n, u).map(x => x / (cross * cross)),
    PANEL.dv,
  )
  return words
}
