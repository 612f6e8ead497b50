/** The lights of a rig in flat arrays, with the tables by which its environment picture is drawn from. */
import type { Rig } from '../scene/rig'
import { choosePanels } from './choices'
import { mapOf } from './environment'
import { lightLayers } from './light-layers'
import { environmentLight, type Lights } from './lights'
import { boxPanels } from './panel-boxes'
import { wordsOf } from './panel-words'
import { skyOf, sunPanel } from './sky'
import { isColour, PANEL } from './slots'

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

/**
 * Prepares a rig.
 * @param picture linear RGBA floats of the environment image, if the rig has one
 */
export function createLights(
  rig: Rig,
  picture: { width: number; height: number; data: Float32Array } | null,
  allocate: (bytes: number) => ArrayBufferLike = n => new ArrayBuffer(n),
): Lights {
  const d = rig.dim
  const all = panelsOf(rig)
  const environment = rig.environment
  const panels = new Float64Array(all.length * PANEL.stride)
  all.forEach((p, i) => panels.set(wordsOf(p, rig.turn, d), i * PANEL.stride))
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
