import { readyLights } from '../../core/light/ready'
import { createLights } from '../../core/light/create-lights'
import type { Lights } from '../../core/light/lights'
import { rigSchema, type Rig } from '../../core/scene/rig'
import { rigs } from '../../core/scene/rigs'
import { quad } from '../../core/mesh/quad'
import { sphere } from '../../core/mesh/sphere'
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
import { cpuSeconds } from './rays'
import type { Benchmark } from '../command'

const WIDTH = 48
const HEIGHT = 32
const PASSES = 8
const RUNS = 12
const WARM = 3
const REFERENCE = 1500
/**
 * Luminance below which a pixel counts as if it were this bright, and the largest square that one pixel may bring:
 * one that was lucky must not decide.
 */
const DARK = 0.02
const MOST = 25

const ground = quad('Ground', [-4, 0, 4, 4, 0, 4, 4, 0, -4, -4, 0, -4])
const surface = (inputs: string) =>
  plain(`<open_pbr_surface name="s" type="surfaceshader">${inputs}</open_pbr_surface>`)
const number = (name: string, value: number) => `<input name="${name}" type="float" value="${value}"/>`
const colour = (name: string, value: string) => `<input name="${name}" type="color3" value="${value}"/>`
const GREY = surface(colour('base_color', '0.5, 0.5, 0.5') + number('specular_roughness', 0.6))
const GLASS = surface(number('transmission_weight', 1) + number('specular_roughness', 0))
const METAL = surface(
  number('base_metalness', 1) + colour('base_color', '0.8, 0.7, 0.5') + number('specular_roughness', 0.5),
)
const PAINT = surface(
  colour('base_color', '0.05, 0.3, 0.2') +
    number('specular_roughness', 0.4) +
    number('coat_weight', 1) +
    number('coat_roughness', 0.05),
)
const LAMP = surface(
  number('base_weight', 0) +
    number('specular_weight', 0) +
    number('emission_luminance', 8) +
    colour('emission_color', '1, 0.8, 0.6'),
)
const rig = (panels: object[], environment = 0.02): Rig =>
  rigSchema.parse({
    name: 'r',
    environment: { kind: 'uniform', radiance: [environment, environment, environment] },
    panels,
  })
const panel = (centre: number[], half: number, radiance: number) => ({
  name: 'p',
  centre,
  u: [half, 0, 0],
  v: [0, 0, half],
  radiance: [radiance, radiance, radiance],
})
const at = [0, 1.2, 3.6] as [number, number, number]
const target = [0, 0.4, 0] as [number, number, number]

const SCENES = [
  {
    name: 'glass before a panel',
    parts: [sphere('Ball', 0.5, 48, 64, [0, 0.5, 0]), ground],
    documents: [GLASS, GREY],
    rig: rig([{ ...panel([0, 1.2, -2], 1, 3), u: [1, 0, 0], v: [0, 1, 0] }, panel([1.5, 3, 1], 0.4, 12)]),
  },
  {
    name: 'small light on a rough disc',
    parts: [quad('Disc', [-1, 0.01, 1, 1, 0.01, 1, 1, 0.01, -1, -1, 0.01, -1]), ground],
    documents: [METAL, GREY],
    rig: rig([panel([0.6, 2, 0.3], 0.03, 900)]),
  },
  {
    name: 'interior corner',
    parts: [
      quad('Floor', [-2, 0, 2, 2, 0, 2, 2, 0, -2, -2, 0, -2]),
      quad('Left', [-2, 0, 2, -2, 0, -2, -2, 3, -2, -2, 3, 2]),
      quad('Back', [-2, 0, -2, 2, 0, -2, 2, 3, -2, -2, 3, -2]),
    ],
    documents: [GREY, GREY, GREY],
    rig: rig([panel([0.8, 2.6, 0.8], 0.3, 10)], 0),
  },
  {
    name: 'layered paint under a hard sun',
    parts: [sphere('Ball', 0.5, 48, 64, [0, 0.5, 0]), ground],
    documents: [PAINT, GREY],
    rig: rigs(1)[3]!,
  },
  {
    name: 'emissive part in a glass shell',
    parts: [sphere('Lamp', 0.15, 16, 24, [0, 0.5, 0]), sphere('Shell', 0.4, 48, 64, [0, 0.5, 0]), ground],
    documents: [LAMP, GLASS, GREY],
    rig: rig([panel([1.5, 3, 1], 0.4, 6)]),
  },
]

type Change = { name: string; lights?: Partial<Lights>; unstratified?: boolean }
const CHANGES: Change[] = [
  { name: 'as it is' },
  { name: 'no drawn lights', lights: { gather: 'directions' } },
  { name: 'drawn lights alone', lights: { gather: 'lights' } },
  { name: 'lights chosen without what is seen of them', lights: { visible: null } },
  { name: 'not stratified', unstratified: true },
]

const tracer = createTracer()
const tile = new Float64Array(TILE * TILE * 3)
const PIXELS = WIDTH * HEIGHT

/** Luminance of the mean of some passes. */
function render(scene: RenderScene, passes: number, run: number, unstratified = false): Float64Array {
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
function error(picture: Float64Array, reference: Float64Array): number {
  let e = 0
  for (let i = 0; i < PIXELS; i++)
    e += Math.min(MOST, ((picture[i]! - reference[i]!) / (reference[i]! + DARK)) ** 2) / PIXELS
  return e
}

/**
 * `benchmark efficiency`: one over squared error times time on five scenes, and what is left of it without each of
 * the means by which it is gained.
 */
function benchmarkEfficiency(): unknown {
  return SCENES.map(s => {
    const geometry = createGeometry({ parts: s.parts })
    const programs = s.documents.map(d => compileMaterial(d, 'm', true))
    const materialOf = Int32Array.from(s.documents.keys())
    const lights = createLights(s.rig, null)
    const materials = instantiateMaterials({
      geometry,
      lights,
      programs,
      maps: programs.map(() => []),
      materialOf,
      priorityOf: new Int32Array(materialOf.length),
      maxOpaque: 8,
      maxSpecular: 24,
    })
    const scene: RenderScene = {
      geometry,
      lights: readyLights(geometry, lights, materials, materialOf),
      materials,
      materialOf,
      priorityOf: new Int32Array(materialOf.length),
      camera: cameraFrame({ name: 'c', position: at, target, fov: 32 }, WIDTH, HEIGHT),
      maxOpaque: 8,
      maxSpecular: 24,
    }
    const variants = CHANGES.map(c => ({
      ...c,
      scene: { ...scene, lights: { ...scene.lights, ...c.lights } },
      error: 0,
      seconds: 0,
    }))
    const reference = render(scene, REFERENCE, 4711)
    // in turns, so that the machine's mood and the engine's compiling meet all of them; the first rounds are the
    // engine's
    for (let run = -WARM; run < RUNS; run++)
      for (const v of variants) {
        const began = cpuSeconds()
        const picture = render(v.scene, PASSES, run, v.unstratified)
        if (run < 0) continue
        v.seconds += cpuSeconds() - began
        v.error += error(picture, reference) / RUNS
      }
    const efficiency = (v: { error: number; seconds: number }) => 1 / (v.error * v.seconds)
    const whole = variants[0]!
    return {
      scene: s.name,
      error: +whole.error.toPrecision(3),
      seconds: +whole.seconds.toFixed(2),
      left: Object.fromEntries(
        variants.slice(1).map(v => [v.name, +(efficiency(v) / efficiency(whole)).toFixed(3)]),
      ),
    }
  })
}

export const benchmark: Benchmark = {
  options: '',
  run: () => benchmarkEfficiency(),
}
