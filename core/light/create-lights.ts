/** The lights of a rig in flat arrays, with the tables by which its environment picture is drawn from. */
import { luminanceAt } from '../colour/luminance'
import type { Panel, Rig } from '../scene/rig'
import { shapeNames, shapeNumber } from '../scene/shape-kinds'
import { mapOf } from './environment'
import type { Lights } from './lights'
import { lightShapeOfKind } from './shapes/dispatch'
import { skyOf, sunPanel } from './sky'
import { PANEL } from './slots'
import { turned } from './turned'

/** Their names, in order. */
export const lightNames = (rig: Rig): string[] => [...panelsOf(rig).map(p => p.name), 'environment', 'emission']
/** Panels of a rig, and the sun of its sky. */
const panelsOf = ({ panels, environment: e }: Rig): Rig['panels'] =>
  e.kind === 'sky' && e.sun > 0 && e.elevation > 0 ? [...panels, sunPanel(e)] : panels

/**
 * Factors, three a light, that turn a picture under one set of lights into the picture under another.
 * @returns null where they differ in more than how bright and of what colour they are, or where a dark light is to
 * shine: then it must be rendered
 */
export function factorsBetween(from: Lights, to: Lights): number[] | null {
  const { panels, panelCount } = from
  const colour = new Set([PANEL.radiance, PANEL.radiance + 1, PANEL.radiance + 2, PANEL.power] as number[])
  if (
    panelCount !== to.panelCount ||
    from.map?.id !== to.map?.id ||
    from.cos !== to.cos ||
    from.sin !== to.sin ||
    String(from.backdrop) !== String(to.backdrop)
  )
    return null
  if (panels.some((x, i) => !colour.has(i % PANEL.stride) && x !== to.panels[i])) return null
  const pairs = [
    ...Array.from(
      { length: panelCount * 3 },
      (_, i) => Math.floor(i / 3) * PANEL.stride + PANEL.radiance + (i % 3),
    ).map(w => [panels[w]!, to.panels[w]!] as const),
    ...from.environment.map((x, k) => [x, to.environment[k]!] as const),
  ]
  if (pairs.some(([a, b]) => a === 0 && b !== 0)) return null
  return [...pairs.map(([a, b]) => (a === 0 ? 1 : b / a)), 1, 1, 1]
}

/** Whether factors dim without tinting: then the mixed picture is exact. */
export const areGrey = (factors: readonly number[]): boolean =>
  factors.every((x, i) => Math.abs(x - factors[i - (i % 3)]!) <= 1e-6 * x)

const crossed = (a: readonly number[], b: readonly number[]): number[] => [
  a[1]! * b[2]! - a[2]! * b[1]!,
  a[2]! * b[0]! - a[0]! * b[2]!,
  a[0]! * b[1]! - a[1]! * b[0]!,
]

/** Writes the words of one panel. @param dim factor on its radiance @throws RangeError for a shape that nobody knows */
function preparePanel(
  p: Panel,
  centre: readonly number[],
  u: readonly number[],
  v: readonly number[],
  dim: number,
  panels: Float64Array,
  o: number,
): void {
  const name = p.shape ?? 'rectangle'
  const shape = shapeNumber(name)
  if (shape === undefined)
    throw new RangeError(`there is no light shape ${name}; known are ${shapeNames().join(', ')}`)
  const n = crossed(u, v)
  const cross = Math.hypot(...n)
  const { area, cone = [0, 1], hard = false } = lightShapeOfKind(shape).prepare({ u, v, cross, cone: p.cone })
  const rgb = p.radiance.map(x => (p.blocks ? 0 : x * dim))
  panels.set(centre, o)
  panels.set(u, o + PANEL.u)
  panels.set(v, o + PANEL.v)
  panels.set(
    n.map(x => x / (cross || 1)),
    o + PANEL.nx,
  )
  panels[o + PANEL.area] = area
  panels.set(rgb, o + PANEL.radiance)
  panels[o + PANEL.visible] = p.visible ? 1 : 0
  panels[o + PANEL.power] = luminanceAt(rgb, 0)
  const uu = u[0]! * u[0]! + u[1]! * u[1]! + u[2]! * u[2]!
  const uv = u[0]! * v[0]! + u[1]! * v[1]! + u[2]! * v[2]!
  panels[o + PANEL.uu] = uu
  panels[o + PANEL.radius2] = uu + v[0]! * v[0]! + v[1]! * v[1]! + v[2]! * v[2]! + 2 * Math.abs(uv)
  panels[o + PANEL.shape] = shape
  panels[o + PANEL.soft] = hard ? 0 : (p.soft ?? 0)
  panels[o + PANEL.blocks] = p.blocks ? 1 : 0
  panels[o + PANEL.coneScale] = cone[0]
  panels[o + PANEL.coneOffset] = cone[1]
  if (!(cross > 0)) return
  panels.set(
    crossed(v, n).map(x => x / (cross * cross)),
    o + PANEL.du,
  )
  panels.set(
    crossed(n, u).map(x => x / (cross * cross)),
    o + PANEL.dv,
  )
}

/**
 * Prepares a rig.
 * @param picture linear RGBA floats of the environment image, if the rig has one
 */
export function createLights(
  rig: Rig,
  picture: { width: number; height: number; data: Float32Array } | null,
  allocate: (bytes: number) => ArrayBufferLike = n => new ArrayBuffer(n),
): Lights {
  const turn = (v: readonly number[]) => turned(v, rig.turn)
  const d = rig.dim
  const all = panelsOf(rig)
  const environment = rig.environment
  const panels = new Float64Array(all.length * PANEL.stride)
  all.forEach((p, i) => preparePanel(p, turn(p.centre), turn(p.u), turn(p.v), d, panels, i * PANEL.stride))
  const scale = (
    environment.kind === 'uniform'
      ? environment.radiance
      : [environment.scale, environment.scale, environment.scale]
  ).map(x => x * d)
  const image = environment.kind === 'sky' ? skyOf(environment) : environment.kind === 'image' ? picture : null
  const map = image ? mapOf(image, allocate) : null
  const shift =
    (rig.turn * Math.PI) / 180 + ((environment.kind === 'image' ? environment.turn : 0) * Math.PI) / 180
  return {
    panels,
    panelCount: all.length,
    environment: scale as [number, number, number],
    map,
    cos: Math.cos(shift),
    sin: Math.sin(shift),
    backdrop: rig.backdrop ?? null,
    emitters: null,
    visible: null,
    within: null,
    gather: 'both',
    mapPower: map ? ((Math.PI * Math.PI) / 2) * map.mean * scale[0]! * 2 : 0,
  }
}
