/**
 * `benchmark lamps`: many lights against few. A rig of five panels and the same cut into five hundred; five hundred
 * panels and five thousand shining triangles beside each other; a screen with one bright window against the window as
 * a quad of its own; boxes over panels against asking all of them; what it takes to move one of five hundred.
 */
import { createLights } from '../../core/light/create-lights'
import { hitPanel } from '../../core/light/meet-panel'
import { lit } from '../../core/light/memory'
import { boxPanels } from '../../core/light/panel-boxes'
import { quad } from '../../core/mesh/quad'
import { sphere } from '../../core/mesh/sphere'
import type { Rig } from '../../core/scene/rig'
import type { Benchmark } from '../command'
import {
  errorOf,
  GREY,
  LAMP,
  litScene,
  number,
  panel,
  plainSurface,
  REFERENCE,
  renderPasses,
  rig,
  surface,
  type LitScene,
} from './lit-scene'
import { cpuSeconds } from './rays'

const PASSES = 8
const RUNS = 10
const WARM = 3
const CUT = 10

const ground = quad('Ground', [-4, 0, 4, 4, 0, 4, 4, 0, -4, -4, 0, -4])
const ball = sphere('Ball', 0.5, 24, 32, [0, 0.5, 0])

type Place = [number, number, number]

/** Five panels above, no two alike. */
const FIVE = [
  panel([-1.6, 2.2, 0.6], 0.5, 6),
  panel([-0.6, 2.6, -1.2], 0.3, 9),
  panel([0.4, 2.4, 1.2], 0.4, 4),
  panel([1.3, 2.8, -0.4], 0.6, 3),
  panel([2.1, 1.9, 0.9], 0.2, 14),
]
/** Each of them as a hundred that touch. */
const FIVE_HUNDRED = FIVE.flatMap(p =>
  Array.from({ length: CUT * CUT }, (_, i) => {
    const at = (k: number) => (2 * (k + 0.5)) / CUT - 1
    const [a, b] = [at(i % CUT), at(Math.floor(i / CUT))]
    return {
      ...p,
      centre: p.centre.map((c, k) => c + a * p.u[k]! + b * p.v[k]!),
      u: p.u.map(x => x / CUT),
      v: p.v.map(x => x / CUT),
    }
  }),
)
/** Lamps of 50 × 52 facets each, 5,000 triangles in all. */
const LAMPS = [sphere('Left', 0.1, 25, 52, [-1, 0.3, 0.6]), sphere('Right', 0.1, 25, 52, [1, 0.3, 0.4])]
/** Shines where u > 0.8 and v > 0.75 alone. */
const SCREEN = plainSurface(
  `<texcoord name="t" type="vector2"/>
   <separate2 name="d" type="multioutput"><input name="in" type="vector2" nodename="t"/></separate2>
   <ifgreater name="a" type="float"><input name="value1" type="float" nodename="d" output="outx"/>
     <input name="value2" type="float" value="0.8"/><input name="in1" type="float" value="20"/></ifgreater>
   <ifgreater name="b" type="float"><input name="value1" type="float" nodename="d" output="outy"/>
     <input name="value2" type="float" value="0.75"/><input name="in1" type="float" nodename="a"/></ifgreater>`,
  number('base_weight', 0) +
    number('specular_weight', 0) +
    '<input name="emission_luminance" type="float" nodename="b"/>',
)
const WINDOW = surface(number('base_weight', 0) + number('specular_weight', 0) + number('emission_luminance', 20))

const on = (name: string, lights: Rig, parts: LitScene['parts'], documents: LitScene['documents']): LitScene => ({
  name,
  parts: [ground, ball, ...parts],
  documents: [GREY, GREY, ...documents],
  rig: lights,
})
const SCENES = [
  on('five panels', rig(FIVE), [], []),
  on('five panels, each cut into a hundred', rig(FIVE_HUNDRED), [], []),
  on('500 panels and 5,000 shining triangles', rig(FIVE_HUNDRED), LAMPS, [LAMP, LAMP]),
  on('a window', rig([]), [quad('Window', [0.6, 2, -0.5, 1, 2, -0.5, 1, 2, -1, 0.6, 2, -1])], [WINDOW]),
  on('a screen that shines there', rig([]), [quad('Screen', [-1, 2, 1, 1, 2, 1, 1, 2, -1, -1, 2, -1])], [SCREEN]),
]

/** Processor seconds of `times` calls, the best of a few turns. */
function best(times: number, what: () => void): number {
  let least = Infinity
  for (let turn = 0; turn < 5; turn++) {
    const began = cpuSeconds()
    for (let i = 0; i < times; i++) what()
    least = Math.min(least, cpuSeconds() - began)
  }
  return least
}

/** Nanoseconds of a ray by boxes, and by asking all panels. */
function boxes(count: number): object {
  const lights = createLights(rig(FIVE_HUNDRED.filter((_, i) => i % Math.floor(500 / count) === 0)), null)
  const boxed = { ...lights, boxes: boxPanels(lights.panels, lights.panelCount) }
  const all = { ...lights, boxes: null }
  const from = Float64Array.of(0.1, 0.2, 0.3)
  const way = new Float64Array(3)
  const RAYS = 20_000
  const cast = (l: typeof lights): number => {
    let i = 0
    return (
      (best(RAYS, () => {
        const z = (2 * (i + 0.5)) / RAYS - 1
        const r = Math.sqrt(1 - z * z)
        way[0] = r * Math.cos(i * 2.399963)
        way[1] = r * Math.sin(i * 2.399963)
        way[2] = z
        i = (i + 1) % RAYS
        lit.distance = Infinity
        hitPanel(l, from, way, 0, false)
      }) /
        RAYS) *
      1e9
    )
  }
  for (let turn = 0; turn < 3; turn++) {
    cast(boxed)
    cast(all)
  }
  return { panels: lights.panelCount, boxes: Math.round(cast(boxed)), all: Math.round(cast(all)) }
}

function benchmarkLamps(): unknown {
  const scenes = SCENES.map(s => {
    const scene = litScene(s)
    return { name: s.name, scene, reference: renderPasses(scene, REFERENCE, 4711), error: 0, seconds: 0 }
  })
  for (let run = -WARM; run < RUNS; run++)
    for (const s of scenes) {
      const began = cpuSeconds()
      const picture = renderPasses(s.scene, PASSES, run)
      if (run < 0) continue
      s.seconds += cpuSeconds() - began
      s.error += errorOf(picture, s.reference) / RUNS
    }
  const [five, cut, , window, screen] = scenes as [(typeof scenes)[0], (typeof scenes)[0], ...typeof scenes]
  const rounded = (x: number) => +x.toPrecision(3)
  const many = rig(FIVE_HUNDRED)
  let nudge = 0
  return {
    scenes: scenes.map(s => ({ scene: s.name, error: rounded(s.error), seconds: rounded(s.seconds) })),
    cutIntoHundreds: {
      noise: rounded(Math.sqrt(cut.error / five.error)),
      time: rounded(cut.seconds / five.seconds),
    },
    screenOverWindow: {
      noise: rounded(Math.sqrt(screen!.error / window!.error)),
      time: rounded(screen!.seconds / window!.seconds),
    },
    nanosecondsOfARay: [4, 5, 6, 8, 16, 50, 500].map(boxes),
    moveOneOf500InMs: rounded(
      (best(20, () => {
        const panels = many.panels.map((p, i) => (i === 0 ? { ...p, centre: [nudge++ * 1e-4, 2, 0] as Place } : p))
        createLights({ ...many, panels }, null)
      }) /
        20) *
        1e3,
    ),
  }
}

export const benchmark: Benchmark = {
  options: '',
  run: () => benchmarkLamps(),
}
