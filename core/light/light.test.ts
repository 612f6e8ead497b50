import { describe, expect, it } from 'vitest'
import type { Model } from '../mesh/model'
import { quad } from '../mesh/quad'
import { cameraFrame } from '../scene/camera'
import { createGeometry } from '../scene/geometry'
import { materialOf, meanColour, mtlx, pbr, sceneOf, sumOfPasses } from '../testing/setup'
import { acescgToRec709 } from '../colour/rgb'
import { lightsFor } from '../world/lights-for'
import { faultyPixels, environmentRadiance } from './environment'
import { createLights } from './create-lights'
import { PANEL } from './slots'
import { sampleLight, weighLights } from './draw-light'
import { lit } from './memory'
import { rigsAround } from '../scene/rigs'
import { rigSchema } from '../scene/rig'

const WIDTH = 32
const HEIGHT = 16
/** A dark sky with a bright window and, elsewhere, values that no light has. */
function sky(): { width: number; height: number; data: Float32Array } {
  const data = new Float32Array(WIDTH * HEIGHT * 4)
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++)
      data.set(x >= 10 && x < 14 && y >= 3 && y < 6 ? [40, 30, 20, 1] : [0.1, 0.1, 0.2, 1], (y * WIDTH + x) * 4)
  data.set([-5, NaN, Infinity, 1], 0)
  return { width: WIDTH, height: HEIGHT, data }
}
const rig = (turn = 0) => rigSchema.parse({ name: 'sky', environment: { kind: 'image', asset: 'sky' }, turn })

describe('an environment picture', () => {
  it('is drawn with the density that looking it up states', () => {
    const lights = createLights(rig(37), sky())
    const S = new Float64Array(32)
    const u = new Float64Array(3)
    let s = 5
    const random = () => (s = (s * 48271) % 2147483647) / 2147483647
    for (let i = 0; i < 400; i++) {
      u[0] = random()
      u[1] = random()
      u[2] = random()
      weighLights(lights, S)
      if (!sampleLight(lights, null as never, S, u)) continue
      const drawn = { ...lit }
      environmentRadiance(lights, Float64Array.from([drawn.x, drawn.y, drawn.z]), 0)
      expect(lit.pdf / drawn.pdf).toBeCloseTo(1, 9)
      for (const k of ['r', 'g', 'b'] as const) expect(lit[k] / drawn[k]).toBeCloseTo(1, 9)
    }
  })
  it('says how many of its pixels carry no light, and takes ACEScg to Rec.709', () => {
    expect(faultyPixels(sky())).toBe(1)
    expect(faultyPixels({ data: Float32Array.of(0, 0, 0, 1, 1, -1e-6, 0, 1, 1, 1, NaN, 1, 2, 3, 4, 1) })).toBe(2)
    const grey = {
      width: 2,
      height: 1,
      data: Float32Array.of(0.5, 0.5, 0.5, 1, 0.2, 0.6, 0.3, 1),
      space: 'acescg' as const,
    }
    const { map } = lightsFor(rig(), () => grey)
    for (let k = 0; k < 3; k++) {
      expect(map!.rgb[k]).toBeCloseTo(0.5, 5)
      expect(map!.rgb[3 + k]).toBeCloseTo(Math.max(0, acescgToRec709([0.2, 0.6, 0.3])[k]!), 5)
    }
  })
  it.each([0, 90])('lights a floor by the integral of radiance and cosine, turned by %d°', turn => {
    const lights = createLights(rig(turn), sky())
    const picture = sky()
    // E = Σ L cos θ dω over the upper half; a turn about the vertical changes nothing
    const E = [0, 0, 0]
    for (let y = 0; y < HEIGHT / 2; y++)
      for (let x = 0; x < WIDTH; x++) {
        const a = (Math.PI * y) / HEIGHT
        const b = (Math.PI * (y + 1)) / HEIGHT
        const w = (((Math.sin(b) ** 2 - Math.sin(a) ** 2) / 2) * 2 * Math.PI) / WIDTH
        for (let k = 0; k < 3; k++) {
          const L = picture.data[(y * WIDTH + x) * 4 + k]!
          E[k]! += (L > 0 && L < 1e9 ? L : 0) * w
        }
      }
    const floor: Model = { parts: [quad('f', [-5, 0, 5, 5, 0, 5, 5, 0, -5, -5, 0, -5])] }
    const scene = {
      geometry: createGeometry(floor),
      lights,
      materials: [materialOf(mtlx(pbr({ base_color: '0.5, 0.5, 0.5', specular_weight: 0 })), 's')],
      materialOf: Int32Array.from([0]),
      priorityOf: Int32Array.from([0]),
      camera: cameraFrame({ name: '', position: [0.3, 2, 0.2], target: [0, 0, 0], fov: 10 }, 8, 8),
      maxOpaque: 4,
      maxSpecular: 4,
    }
    const got = meanColour(sumOfPasses(scene, 8, 8, 0, 256), 256)
    got.forEach((x, k) => expect(Math.abs(x / ((0.5 * E[k]!) / Math.PI) - 1)).toBeLessThan(0.02))
  })
})

describe('a ball', () => {
  const floor: Model = { parts: [quad('f', [-5, 0, 5, 5, 0, 5, 5, 0, -5, -5, 0, -5])] }
  const r = 0.8
  const scene = (gather: 'both' | 'directions' | 'lights', cone?: [number, number]) => {
    const s = sceneOf(
      floor,
      [materialOf(mtlx(pbr({ base_color: '0.5, 0.5, 0.5', specular_weight: 0 })), 's')],
      rigSchema.parse({
        name: 'b',
        environment: { kind: 'uniform', radiance: [0, 0, 0] },
        panels: [
          {
            name: 'ball',
            centre: [0, 2, 0],
            u: [r, 0, 0],
            v: [0, 0, r],
            radiance: [3, 3, 3],
            shape: 'ball',
            ...(cone ? { cone } : {}),
          },
        ],
      }),
      { name: '', position: [0.3, 0.7, 0.2], target: [0, 0, 0], fov: 2 },
      4,
      4,
    )
    return { ...s, lights: { ...s.lights, gather } }
  }
  it('lights a floor below it by πL(r/d)² (spherical source, closed form), however light is gathered', () => {
    for (const gather of ['both', 'directions', 'lights'] as const) {
      const passes = gather === 'directions' ? 4000 : 400
      const got = meanColour(sumOfPasses(scene(gather), 4, 4, 0, passes), passes)
      got.forEach(x => expect(Math.abs(x / (0.5 * 3 * (r / 2) ** 2) - 1)).toBeLessThan(0.02))
    }
  })
  it('within a cone looks down u × v, and lights nothing above or beside it', () => {
    const got = meanColour(sumOfPasses(scene('both', [20, 30]), 4, 4, 0, 64), 64)
    const up = scene('both', [20, 30])
    // u × v of this ball looks down, −y
    expect(Math.abs(got[0]! / (0.5 * 3 * (r / 2) ** 2) - 1)).toBeLessThan(0.05)
    up.lights.panels[PANEL.ny] = 1
    expect(meanColour(sumOfPasses(up, 4, 4, 0, 16), 16)[0]).toBe(0)
  })
})

describe('rigs', () => {
  it('surround a model wherever it stands', () => {
    const all = rigsAround([10, 0, 0, 12, 4, 2])
    expect(all.map(r => r.name)).toContain('Three panels')
    for (const p of all[0]!.panels)
      expect(Math.hypot(p.centre[0] - 11, p.centre[1] - 2, p.centre[2] - 1)).toBeGreaterThan(4)
  })
  it('refuse negative radiance', () =>
    expect(
      rigSchema.safeParse({ name: 'x', environment: { kind: 'uniform', radiance: [-1, 0, 0] } }).success,
    ).toBe(false))
})
