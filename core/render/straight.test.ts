import { describe, expect, it } from 'vitest'
import { rigSchema } from '../scene/rig'
import { lightVisibility } from '../light/visibility'
import { box } from '../testing/box'
import { fresnelDielectric } from '../optics/fresnel'
import { passesStraight } from '../world/compile-material'
import { materialOf, meanColour, mtlx, pbr, sceneOf, sumOfPasses, uniform } from '../testing/setup'

const one = (inputs: Record<string, string | number>) => materialOf(mtlx(pbr(inputs)), 's')
const dark = one({ base_color: '0.05, 0.05, 0.05', specular_weight: 0 })
const glass = (more: Record<string, string | number> = {}) =>
  one({ transmission_weight: 1, specular_roughness: 0, ...more })
const parts = { parts: [box('floor', [0, -0.1, 0], [8, 0.2, 8]), box('plate', [0, 1, 0], [8, 0.1, 8])] }
/** Looks at the floor from below the plate. */
const camera = {
  name: 'c',
  position: [0.3, 0.8, 0] as [number, number, number],
  target: [0, 0, 0] as [number, number, number],
  fov: 4,
}
/** A lamp seen from the floor at an angle to the vertical. */
const lamp = (degrees: number, half: number) => {
  const t = (degrees * Math.PI) / 180
  const d = [Math.sin(t), Math.cos(t)] as const
  return rigSchema.parse({
    name: 'l',
    environment: { kind: 'uniform', radiance: [0, 0, 0] },
    panels: [
      {
        name: 'p',
        centre: [6 * d[0], 6 * d[1], 0],
        u: [half * d[1], -half * d[0], 0],
        v: [0, 0, half],
        radiance: [50, 50, 50],
      },
    ],
  })
}
const floor = (material: ReturnType<typeof one>, rig: ReturnType<typeof uniform>, passes: number) =>
  meanColour(sumOfPasses(sceneOf(parts, [dark, material], rig, camera, 4, 4), 4, 4, 0, passes), passes)
const open = (rig: ReturnType<typeof uniform>) =>
  meanColour(sumOfPasses(sceneOf({ parts: [parts.parts[0]!] }, [dark], rig, camera, 4, 4), 4, 4, 0, 64), 64)

describe('shadow rays that pass glass straight', () => {
  it.each([0, 40, 60])(
    'light under a plate at %f° is what (1 − F)² and Beer–Lambert leave of it (Born & Wolf §1.5), ' +
      'from a lamp that no path finds',
    degrees => {
      // F² of it goes to and fro and is left out; the floor is dark, so that it does not light the plate from
      // below
      const F = fresnelDielectric(Math.cos((degrees * Math.PI) / 180), 1.5)
      const colour = [0.5, 0.8, 0.9]
      const rig = lamp(degrees, 0.01)
      const bare = open(rig)
      // straight rays cross the plate on the way they came
      const way = 0.1 / Math.cos((degrees * Math.PI) / 180)
      const m = { ...glass({ transmission_color: colour.join(', '), transmission_depth: 0.1 }), straight: true }
      floor(m, rig, 64).forEach((x, k) =>
        expect(Math.abs(x / bare[k]! - (1 - F) ** 2 * colour[k]! ** (way / 0.1))).toBeLessThan(0.012),
      )
    },
  )
  it('asks what it passes for the shape around it: a plate tinted by its own thinness', () => {
    // the ball integral of a slab in closed form: from a face of a plate of half the radius's thickness rays inwards
    // leave it after a / cos, so that H·r = 8/3 · ((1 − a) − a³ (1/a² − 1) / 2) with a = 1/2
    const a = 0.5
    const thin = (8 / 3) * (1 - a - (a ** 3 * (1 / a ** 2 - 1)) / 2)
    const tinted = materialOf(
      mtlx(`<wl_curvature name="k" type="float"><input name="radius" type="float" value="0.2"/></wl_curvature>
        <convert name="c" type="color3"><input name="in" type="float" nodename="k"/></convert>
        <open_pbr_surface name="s" type="surfaceshader"><input name="transmission_weight" type="float" value="1"/>
          <input name="specular_roughness" type="float" value="0"/>
          <input name="transmission_color" type="color3" nodename="c"/></open_pbr_surface>`),
      's',
    )
    const rig = lamp(0, 0.01)
    const wanted = floor(
      { ...glass({ transmission_color: `${thin}, ${thin}, ${thin}` }), straight: true },
      rig,
      64,
    )
    floor({ ...tinted, straight: true }, rig, 256).forEach((x, k) =>
      expect(Math.abs(x / wanted[k]! - 1)).toBeLessThan(0.02),
    )
  })
  it('brings the same light as paths that find a large lamp through the plate, and none twice', () => {
    // a lamp so large that what paths find of it scatters by 1.3 % in the end
    const rig = lamp(30, 5)
    const straight = floor({ ...glass(), straight: true }, rig, 256)
    const found = floor(glass(), rig, 6000)
    found.forEach((x, k) => expect(Math.abs(straight[k]! / x - 1)).toBeLessThan(0.03))
  })
  it.each([
    ['rough', { specular_roughness: 0.2 }],
    ['thin', { geometry_thin_walled: 'true' }],
    ['thin and half open', { geometry_thin_walled: 'true', geometry_opacity: 0.5 }],
  ] as [string, Record<string, string>][])('the same through a plate that is %s', (_, inputs) => {
    const rig = lamp(0, 5)
    const straight = floor({ ...glass(inputs), straight: true }, rig, 256)
    const found = floor(glass(inputs), rig, 4000)
    found.forEach((x, k) => expect(Math.abs(straight[k]! / x - 1)).toBeLessThan(0.05))
  })
  it('leaves light alone that cannot be drawn: a uniform environment', () => {
    const straight = floor({ ...glass(), straight: true }, uniform(1), 400)
    const found = floor(glass(), uniform(1), 400)
    found.forEach((x, k) => expect(Math.abs(straight[k]! / x - 1)).toBeLessThan(0.01))
  })
  it('what the camera sees through the plate stays as it is; an opaque thing behind it still casts its shadow', () => {
    const unseen = lamp(30, 1)
    const rig = { ...unseen, panels: unseen.panels.map(p => ({ ...p, visible: true })) }
    const through = {
      name: 'c',
      position: [0, 0.5, 0] as [number, number, number],
      target: [3, 5.196, 0] as [number, number, number],
      fov: 3,
    }
    const [a, b] = [true, false].map(straight =>
      meanColour(
        sumOfPasses(sceneOf(parts, [dark, { ...glass(), straight }], rig, through, 4, 4), 4, 4, 0, 64),
        64,
      ),
    )
    a!.forEach((x, k) => expect(Math.abs(x / b![k]! - 1)).toBeLessThan(0.001))
    const covered = { parts: [...parts.parts, box('lid', [0, 2, 0], [8, 0.1, 8])] }
    expect(
      meanColour(
        sumOfPasses(
          sceneOf(covered, [dark, { ...glass(), straight: true }, dark], lamp(0, 0.01), camera, 4, 4),
          4,
          4,
          0,
          16,
        ),
        16,
      )[1],
    ).toBeLessThan(1e-4)
  })
  it('parts behind the glass see the lamps, so that draws go to them', () => {
    const { geometry, lights } = sceneOf(parts, [dark], lamp(30, 0.5), camera, 4, 4)
    expect(lights.layerCount).toBe(3)
    expect(lightVisibility(geometry, lights)![0]).toBeLessThan(0.02)
    expect(lightVisibility(geometry, lights, part => part === 1)![0]).toBeGreaterThan(0.1)
  })
  it('is asked for by an attribute of the material', () => {
    const document = (attribute: string) =>
      mtlx(
        `${pbr({ transmission_weight: 1 })}<surfacematerial name="m" type="material"${attribute}>
          <input name="surfaceshader" type="surfaceshader" nodename="s"/></surfacematerial>`,
      )
    expect(passesStraight(document(' wl_straight_shadows="true"'), 'm')).toBe(true)
    expect(passesStraight(document(''), 'm')).toBe(false)
  })
})
