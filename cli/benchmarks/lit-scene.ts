/** Small scenes of lights, how they are rendered in turns, and how far a picture is from its reference. */
import type { Element } from '../../core/network/document'
import { readyLights } from '../../core/light/ready'
import { createLights } from '../../core/light/create-lights'
import type { Part } from '../../core/mesh/model'
import { rigSchema, type Rig } from '../../core/scene/rig'
import { luminanceAt } from '../../core/colour/luminance'
import { plain } from './scene'
import { TILE } from '../../core/render/film'
import type { RenderScene } from '../../core/world/render-scene'
import { createTracer } from '../../core/render/tracer'
import { renderTile } from '../../core/render/integrate'
import { hash2 } from '../../core/render/hash'
import { cameraFrame } from '../../core/scene/camera'
import { compileMaterial } from '../../core/world/compile-material'
import { createGeometry } from '../../core/scene/geometry'
import { instantiateMaterials } from '../../core/world/world'

export const WIDTH = 48
export const HEIGHT = 32
/** Passes of the picture that others are held against. */
export const REFERENCE = 1500
/**
 * Luminance below which a pixel counts as if it were this bright, and the largest square that one pixel may bring:
 * one that was lucky must not decide.
 */
const DARK = 0.02
const MOST = 25

/** A surface with these inputs, fed by some nodes. */
export const plainSurface = (nodes: string, inputs: string) =>
  plain(`${nodes}<open_pbr_surface name="s" type="surfaceshader">${inputs}</open_pbr_surface>`)
export const surface = (inputs: string) => plainSurface('', inputs)
export const number = (name: string, value: number) => `<input name="${name}" type="float" value="${value}"/>`
export const colour = (name: string, value: string) => `<input name="${name}" type="color3" value="${value}"/>`
export const GREY = surface(colour('base_color', '0.5, 0.5, 0.5') + number('specular_roughness', 0.6))
export const LAMP = surface(
  number('base_weight', 0) +
    number('specular_weight', 0) +
    number('emission_luminance', 8) +
    colour('emission_color', '1, 0.8, 0.6'),
)
export const rig = (panels: object[], environment = 0.02): Rig =>
  rigSchema.parse({
    name: 'r',
    environment: { kind: 'uniform', radiance: [environment, environment, environment] },
    panels,
  })
export const panel = (centre: number[], half: number, radiance: number) => ({
  name: 'p',
  centre,
  u: [half, 0, 0],
  v: [0, 0, half],
  radiance: [radiance, radiance, radiance],
})
const at = [0, 1.2, 3.6] as [number, number, number]
const target = [0, 0.4, 0] as [number, number, number]

/** What is rendered: parts, each with a material, under a rig. */
export interface LitScene {
  name: string
  parts: readonly Part[]
  documents: readonly Element[]
  rig: Rig
}

/** Compiles a scene, and finds what is found of its lights before rendering. */
export function litScene(s: LitScene): RenderScene {
  const geometry = createGeometry({ parts: [...s.parts] })
  const programs = s.documents.map(d => compileMaterial(d, 'm', true))
  const materialOf = Int32Array.from(s.documents.keys())
  const lights = createLights(s.rig, null)
  const priorityOf = new Int32Array(materialOf.length)
  const bounces = { maxOpaque: 8, maxSpecular: 24 }
  const maps = programs.map(() => [])
  const materials = instantiateMaterials({ geometry, lights, programs, maps, materialOf, priorityOf, ...bounces })
  return {
    geometry,
    lights: readyLights(geometry, lights, materials, materialOf),
    materials,
    materialOf,
    priorityOf,
    camera: cameraFrame({ name: 'c', position: at, target, fov: 32 }, WIDTH, HEIGHT),
    ...bounces,
  }
}

const tracer = createTracer()
const tile = new Float64Array(TILE * TILE * 3)
const PIXELS = WIDTH * HEIGHT

/** Luminance of the mean of some passes. */
export function renderPasses(scene: RenderScene, passes: number, run: number, unstratified = false): Float64Array {
  const mean = new Float64Array(PIXELS)
  for (let pass = 0; pass < passes; pass++)
    for (let y0 = 0; y0 < HEIGHT; y0 += TILE)
      for (let x0 = 0; x0 < WIDTH; x0 += TILE) {
        // a pass of another number and seed each time has no part in any stratification
        renderTile(
          tracer,
          scene,
          x0,
          y0,
          TILE,
          TILE,
          WIDTH,
          HEIGHT,
          unstratified ? hash2(run, pass) >>> 0 : pass,
          unstratified ? hash2(run * 977 + 5, pass) : run,
          tile,
          null,
        )
        for (let i = 0; i < TILE * TILE; i++)
          mean[(y0 + (i >> 4)) * WIDTH + x0 + (i & 15)]! += luminanceAt(tile, i * 3) / passes
      }
  return mean
}

/**
 * Mean square of the relative error; against a reference, so that light which a way of gathering never finds
 * counts as the error that it is.
 */
export function errorOf(picture: Float64Array, reference: Float64Array): number {
  let e = 0
  for (let i = 0; i < PIXELS; i++)
    e += Math.min(MOST, ((picture[i]! - reference[i]!) / (reference[i]! + DARK)) ** 2) / PIXELS
  return e
}
