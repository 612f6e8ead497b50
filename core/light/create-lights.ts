/** The lights of a rig in flat arrays, with the tables by which its environment picture is drawn from. */
import { luminanceAt } from '../colour/luminance'
import type { Panel, Rig } from '../scene/rig'
import { shapeNames, shapeNumber } from '../scene/shape-kinds'
import { choosePanels } from './choices'
import { mapOf } from './environment'
import { lightLayers } from './light-layers'
import { environmentLight, type Lights } from './lights'
import { boxPanels } from './panel-boxes'
import { lightShapeOfKind } from './shapes/dispatch'
import { skyOf, sunPanel } from './sky'
import { isColour, PANEL } from './slots'
import { turned } from './turned'

/** Panels of a rig, and the sun of its sky. */
const panelsOf = ({ panels, environment: e }: Rig): Rig['panels'] =>
  e.kind === 'sky' && e.sun > 0 && e.elevation > 0 ? [...panels, sunPanel(e)] : panels

/** How a picture under a rig is kept apart, see {@link lightLayers}. */
export const layersOfRig = (rig: Rig): ReturnType<typeof lightLayers> => lightLayers(panelsOf(rig))
/** Names of its layers, in order. */
export const layerNames = (rig: Rig): string[] => layersOfRig(rig).names

/**
 * Factors, three a layer, that turn a picture under one set of lights into the picture under another.
 * @returns null where they differ in more than how bright and of what colour they are, where lights of one layer
 * change by different factors, or where a dark light is to shine: then it must be rendered
 */
export function factorsBetween(from: Lights, to: Lights): number[] | null {
  const { panels, panelCount, layerOf, layerCount } = from
  if (
    panelCount !== to.panelCount ||
    from.map?.id !== to.map?.id ||
    from.cos !== to.cos ||
    from.sin !== to.sin ||
    String(from.backdrop) !== String(to.backdrop) ||
    String(layerOf) !== String(to.layerOf)
  )
    return null
  for (let w = 0; w < panels.length; w++)
    if (panels[w] !== to.panels[w] && !isColour(w % PANEL.stride)) return null
  const factors: (number | undefined)[] = new Array(layerCount * 3)
  /** @returns whether the layer of a light may change by what turns a into b */
  const changes = (light: number, k: number, a: number, b: number): boolean => {
    if (a === 0) return b === 0
    const at = layerOf[light]! * 3 + k
    const before = (factors[at] ??= b / a)
    return Math.abs(before - b / a) <= 1e-9 * before
  }
  for (let i = 0; i < panelCount; i++)
    for (let k = 0; k < 3; k++) {
      const w = i * PANEL.stride + PANEL.radiance + k
      if (!changes(i, k, panels[w]!, to.panels[w]!)) return null
    }
  for (let k = 0; k < 3; k++)
    if (!changes(environmentLight(from), k, from.environment[k]!, to.environment[k]!)) return null
  return Array.from(factors, x => x ?? 1)
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
  panels[o + PANEL.round] = around === undefined ? 0 : 1
  panels[o + PANEL.spread] = ((around ?? 0) * Math.PI) / 180
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
  const layers = lightLayers(all)
  return {
    panels,
    panelCount: all.length,
    boxes: boxPanels(panels, all.length),
    choices: choosePanels(panels, all.length),
    layerOf: layers.of,
    layerCount: layers.names.length,
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
