import type { Lights } from '../../core/light/lights'
import { quad } from '../../core/mesh/quad'
import { sphere } from '../../core/mesh/sphere'
import { rigs } from '../../core/scene/rigs'
import type { Benchmark } from '../command'
import {
  colour,
  errorOf,
  GREY,
  LAMP,
  litScene,
  number,
  panel,
  REFERENCE,
  renderPasses,
  rig,
  surface,
  type LitScene,
} from './lit-scene'
import { cpuSeconds } from './rays'

const PASSES = 8
const RUNS = 12
const WARM = 3

const ground = quad('Ground', [-4, 0, 4, 4, 0, 4, 4, 0, -4, -4, 0, -4])
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
const SCENES: LitScene[] = [
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

/**
 * `benchmark efficiency`: one over squared error times time on five scenes, and what is left of it without each of
 * the means by which it is gained.
 */
function benchmarkEfficiency(): unknown {
  return SCENES.map(s => {
    const scene = litScene(s)
    const variants = CHANGES.map(c => ({
      ...c,
      scene: { ...scene, lights: { ...scene.lights, ...c.lights } },
      error: 0,
      seconds: 0,
    }))
    const reference = renderPasses(scene, REFERENCE, 4711)
    // in turns, so that the machine's mood and the engine's compiling meet all of them; the first rounds are the
    // engine's
    for (let run = -WARM; run < RUNS; run++)
      for (const v of variants) {
        const began = cpuSeconds()
        const picture = renderPasses(v.scene, PASSES, run, v.unstratified)
        if (run < 0) continue
        v.seconds += cpuSeconds() - began
        v.error += errorOf(picture, reference) / RUNS
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
