/** Triangles that do not shine evenly. */
import { describe, expect, it } from 'vitest'
import type { Part } from '../mesh/model'
import { quad } from '../mesh/quad'
import { rigSchema } from '../scene/rig'
import { materialOf, meanColour, mtlx, sceneOf, sumOfPasses } from '../testing/setup'
import { above, floor, white } from '../testing/white-floor'
import { underPolygon } from '../testing/under-polygon'
import type { RenderScene } from '../world/render-scene'
import { cellAt, createCells, cutIntoCells } from './cells'
import { readyLights } from './ready'

let state = 11
const random = () => (state = (state * 48271) % 2147483647) / 2147483647

describe('cells of a triangle', () => {
  const cells = createCells()
  const powers: number[] = []
  // one corner shines, the rest hardly
  const bright = (u: number, v: number) => (u > 0.6 && v < 0.2 ? 50 : u + v < 0.5 ? 0 : 1)
  const first = cutIntoCells(cells, 7, 8, bright, (cell, luminance, share) => (powers[cell] = luminance * share))
  it('cover it once, larger where it shines evenly', () => {
    expect(first).toBe(0)
    expect(cells.share.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 12)
    expect(cells.place.every(p => p === 7)).toBe(true)
    expect(cells.place.length).toBeLessThan(500)
    // as much as 400 places, spread evenly, say; the darkest count for a fiftieth of the mean
    let mean = 0
    for (let i = 0; i < 90_000; i++) {
      const r = Math.sqrt(random())
      const q = random()
      mean += bright(r * (1 - q), r * q) / 90_000
    }
    expect(Math.abs(powers.reduce((a, b) => a + b, 0) / mean - 1)).toBeLessThan(0.05)
  })
  it('are found by the weights of a hit: the one whose corners hold it', () => {
    for (let i = 0; i < 5000; i++) {
      const r = Math.sqrt(random())
      const q = random()
      const [u, v] = [r * (1 - q), r * q]
      const [au, av, bu, bv, cu, cv] = cells.corners.slice(cellAt(cells, first, u, v) * 6).map(Number) as number[]
      const area = (bu! - au!) * (cv! - av!) - (cu! - au!) * (bv! - av!)
      const a = ((bu! - u) * (cv! - v) - (cu! - u) * (bv! - v)) / area
      const b = ((cu! - u) * (av! - v) - (au! - u) * (cv! - v)) / area
      expect(Math.min(a, b, 1 - a - b)).toBeGreaterThan(-1e-9)
    }
  })
  it('of one that shines evenly, or not at all, are none', () => {
    expect(
      cutIntoCells(
        createCells(),
        0,
        6,
        () => 3,
        () => {},
      ),
    ).toBe(-1)
    expect(
      cutIntoCells(
        createCells(),
        0,
        6,
        () => 0,
        () => {},
      ),
    ).toBe(-1)
  })
})

describe('a screen with one bright window', () => {
  const dark = rigSchema.parse({ name: 'r', environment: { kind: 'uniform', radiance: [0, 0, 0] } })
  const L = 20
  const surface = (luminance: string) =>
    `<open_pbr_surface name="s" type="surfaceshader"><input name="base_weight" type="float" value="0"/>
     <input name="specular_weight" type="float" value="0"/>
     <input name="emission_luminance" type="float" ${luminance}/></open_pbr_surface>`
  /** Shines where u > 0.8 and v > 0.75 alone. */
  const screen = materialOf(
    mtlx(`<texcoord name="t" type="vector2"/>
      <separate2 name="d" type="multioutput"><input name="in" type="vector2" nodename="t"/></separate2>
      <ifgreater name="a" type="float"><input name="value1" type="float" nodename="d" output="outx"/>
        <input name="value2" type="float" value="0.8"/><input name="in1" type="float" value="${L}"/></ifgreater>
      <ifgreater name="b" type="float"><input name="value1" type="float" nodename="d" output="outy"/>
        <input name="value2" type="float" value="0.75"/><input name="in1" type="float" nodename="a"/></ifgreater>
      ${surface('nodename="b"')}`),
    's',
  )
  const lamp = materialOf(mtlx(surface(`value="${L}"`)), 's')
  // a square of two metres above, and its window as a quad of its own
  const whole = quad('whole', [-1, 1, 1, 1, 1, 1, 1, 1, -1, -1, 1, -1])
  const window = quad('window', [0.6, 1, -0.5, 1, 1, -0.5, 1, 1, -1, 0.6, 1, -1])
  const scene = (part: Part, material: typeof lamp): RenderScene => {
    const s = sceneOf({ parts: [floor, part] }, [white, material], dark, above, 8, 8)
    return { ...s, lights: readyLights(s.geometry, s.lights, s.materials, s.materialOf) }
  }
  const exact =
    L *
    underPolygon([
      [0.6, 1, -0.5],
      [1, 1, -0.5],
      [1, 1, -1],
      [0.6, 1, -1],
    ])
  it.each(['both', 'lights', 'directions'] as const)(
    'lights a floor as Lambert’s closed form says, by %s',
    gather => {
      const s = scene(whole, screen)
      expect(s.lights.emitters!.cells.place.length).toBeGreaterThan(10)
      s.lights.gather = gather
      const passes = gather === 'directions' ? 600 : 200
      const mean = meanColour(sumOfPasses(s, 8, 8, 0, passes), passes)[1]!
      expect(Math.abs(mean / exact - 1)).toBeLessThan(gather === 'directions' ? 0.1 : 0.01)
    },
  )
  it('has noise of no more than one and a half of that of the window as a quad of its own', () => {
    /** Deviation of one sample, by passes one by one. */
    const noise = (s: RenderScene): number => {
      let sum = 0
      let squares = 0
      const n = 200
      for (let pass = 0; pass < n; pass++) {
        const picture = sumOfPasses(s, 8, 8, pass, pass + 1, 5)
        for (let i = 0; i < 64; i++) {
          sum += picture[i * 3 + 1]!
          squares += picture[i * 3 + 1]! ** 2
        }
      }
      return Math.sqrt(squares / n / 64 - (sum / n / 64) ** 2)
    }
    const own = noise(scene(window, lamp))
    const cut = noise(scene(whole, screen))
    expect(cut / own).toBeLessThan(1.5)
    expect(own).toBeGreaterThan(0)
  })
})
