import { describe, expect, it } from 'vitest'
import { rigSchema } from '../scene/rig'
import { sphere } from '../mesh/sphere'
import { box } from '../testing/box'
import { materialOf, meanColour, mtlx, pbr, sceneOf, sumOfPasses, uniform } from '../testing/setup'
import { scatterPhase } from './media'

const camera = {
  name: 'c',
  position: [0, 0, 6] as [number, number, number],
  target: [0, 0, 0] as [number, number, number],
  fov: 12,
}
const mean = (scene: ReturnType<typeof sceneOf>, passes = 64) =>
  meanColour(sumOfPasses(scene, 8, 8, 0, passes), passes)
const one = (inputs: Record<string, string | number>) => materialOf(mtlx(pbr(inputs)), 's')
const ball = { parts: [sphere('ball', 1, 32, 64)] }

describe('media', () => {
  it('a phase function has the mean cosine that it was asked for (Henyey & Greenstein 1941)', () => {
    for (const g of [-0.7, -0.2, 0, 0.4, 0.9]) {
      let sum = 0
      const N = 4000
      const u = new Float64Array(2)
      const d = new Float64Array(3)
      for (let i = 0; i < N; i++) {
        u[0] = (i + 0.5) / N
        u[1] = (i * 0.618034) % 1
        d.set([0.36, 0.48, 0.8])
        scatterPhase(d, 0, g, u)
        sum += d[0]! * 0.36 + d[1]! * 0.48 + d[2]! * 0.8
      }
      expect(sum / N).toBeCloseTo(g, 2.5)
    }
  })
  it.each([
    [
      'clear dispersive glass',
      { transmission_weight: 1, specular_roughness: 0, transmission_dispersion_scale: 1 },
      0.02,
    ],
    [
      'rough dispersive glass',
      { transmission_weight: 1, specular_roughness: 0.15, transmission_dispersion_scale: 1 },
      0.03,
    ],
    [
      'glass that scatters and does not absorb',
      {
        transmission_weight: 1,
        specular_roughness: 0,
        transmission_color: '0.5, 0.5, 0.5',
        transmission_depth: 1,
        transmission_scatter: '0.6931472, 0.6931472, 0.6931472',
      },
      0.01,
    ],
    [
      'forward scattering',
      {
        transmission_weight: 1,
        specular_roughness: 0,
        transmission_color: '0.1, 0.1, 0.1',
        transmission_depth: 1,
        transmission_scatter: '2.302585, 2.302585, 2.302585',
        transmission_scatter_anisotropy: 0.8,
      },
      0.01,
    ],
    [
      'white scattering below the surface',
      {
        specular_weight: 0,
        subsurface_weight: 1,
        subsurface_color: '1, 1, 1',
        subsurface_radius: 0.3,
        subsurface_radius_scale: '1, 1, 1',
      },
      0.02,
    ],
    [
      'the same under a glossy face',
      {
        subsurface_weight: 1,
        subsurface_color: '1, 1, 1',
        subsurface_radius: 0.3,
        subsurface_radius_scale: '1, 0.5, 0.25',
      },
      0.02,
    ],
    [
      'a sheet of glass with a film',
      {
        transmission_weight: 1,
        specular_roughness: 0.1,
        geometry_thin_walled: 'true',
        thin_film_weight: 1,
        thin_film_thickness: 0.3,
      },
      0.01,
    ],
  ] as [string, Record<string, string | number>, number][])(
    '%s disappears in uniform light',
    (_, inputs, tolerance) => {
      mean(sceneOf(ball, [one(inputs)], uniform(0.7), camera, 8, 8), 256).forEach(x =>
        expect(Math.abs(x / 0.7 - 1)).toBeLessThan(tolerance),
      )
    },
  )
  it.each([
    ['white below the surface, dense', { subsurface_radius: 0.02, subsurface_scatter_anisotropy: 0 }, 0.005],
    ['the same, forward scattering', { subsurface_radius: 0.02, subsurface_scatter_anisotropy: 0.8 }, 0.005],
  ] as [string, Record<string, number>, number][])(
    'a finite body loses nothing in long walks: %s',
    (_, inputs, tolerance) => {
      const white = one({
        specular_weight: 0,
        subsurface_weight: 1,
        subsurface_color: '1, 1, 1',
        subsurface_radius_scale: '1, 1, 1',
        ...inputs,
      })
      // whatever walks in a white body in uniform light comes out again: it is not seen
      mean(sceneOf(ball, [white], uniform(1), camera, 8, 8), 48).forEach(x =>
        expect(Math.abs(x - 1)).toBeLessThan(tolerance),
      )
    },
  )
  it('dense milk that absorbs nothing disappears in uniform light', () => {
    const milk = one({
      transmission_weight: 1,
      specular_roughness: 0,
      specular_ior: 1.33,
      transmission_color: '0.5, 0.5, 0.5',
      transmission_depth: 0.02,
      transmission_scatter: '0.6931472, 0.6931472, 0.6931472',
    })
    mean(sceneOf(ball, [milk], uniform(1), camera, 8, 8), 48).forEach(x =>
      expect(Math.abs(x - 1)).toBeLessThan(0.005),
    )
  })
  it('a half-space of white matter gives all back but for one in a hundred', () => {
    const white = one({
      specular_weight: 0,
      subsurface_weight: 1,
      subsurface_color: '1, 1, 1',
      subsurface_radius: 1e-4,
      subsurface_radius_scale: '1, 1, 1',
    })
    mean(
      sceneOf({ parts: [box('slab', [0, 0, -5], [40, 40, 10])] }, [white], uniform(1), camera, 8, 8),
      6,
    ).forEach(x => expect(1 - x).toBeLessThan(0.01))
  })
  it('what is asked of the colour below the surface is what a large ball shows', () => {
    // short mean free paths: every place is a half-space
    const scene = sceneOf(
      ball,
      [
        one({
          specular_weight: 0,
          subsurface_weight: 1,
          subsurface_color: '0.8, 0.5, 0.2',
          subsurface_radius: 0.002,
          subsurface_radius_scale: '1, 1, 1',
        }),
      ],
      uniform(1),
      camera,
      8,
      8,
    )
    mean(scene, 96).forEach((x, k) => expect(Math.abs(x - [0.8, 0.5, 0.2][k]!)).toBeLessThan(0.025))
  })
  it('a ball within a ball of the same glass is not there', () => {
    const rig = rigSchema.parse({
      name: 'r',
      environment: { kind: 'uniform', radiance: [0.2, 0.2, 0.2] },
      panels: [{ name: 'p', centre: [-4, 3, 2], u: [1, 0, 1], v: [0.8, 0.9, -0.8], radiance: [4, 4, 4] }],
    })
    const glass = one({
      transmission_weight: 1,
      specular_roughness: 0,
      transmission_color: '0.6, 0.3, 0.2',
      transmission_depth: 1,
    })
    const alone = mean(sceneOf(ball, [glass], rig, camera, 8, 8), 256)
    const nested = mean(
      sceneOf(
        { parts: [sphere('ball', 1, 32, 64), sphere('inner', 0.6, 32, 64)] },
        [glass, glass],
        rig,
        camera,
        8,
        8,
      ),
      256,
    )
    alone.forEach((x, k) => expect(Math.abs(nested[k]! - x)).toBeLessThan(0.03 * x))
  })
  it('of two glasses in each other the one of the higher priority counts, whichever is entered first', () => {
    const clear = one({ transmission_weight: 1, specular_roughness: 0, specular_ior: 1.5 })
    const black = one({
      transmission_weight: 1,
      specular_roughness: 0,
      specular_ior: 1.5,
      transmission_color: '0.001, 0.001, 0.001',
      transmission_depth: 0.1,
    })
    const parts = { parts: [sphere('ball', 1, 32, 64), sphere('inner', 0.6, 32, 64)] }
    const scene = sceneOf(parts, [clear, black], uniform(1), camera, 8, 8)
    const inner = mean(scene)
    const hidden = mean({ ...scene, priorityOf: Int32Array.of(1, 0) })
    expect(inner[1]).toBeLessThan(0.8)
    hidden.forEach(x => expect(Math.abs(x - 1)).toBeLessThan(0.01))
  })
  it('a camera within an absorbing ball sees through what lies before it (Beer–Lambert)', () => {
    // index 1: straight out, one radius away; half is left after one
    const scene = sceneOf(
      ball,
      [
        one({
          transmission_weight: 1,
          specular_roughness: 0,
          specular_ior: 1,
          transmission_color: '0.5, 0.25, 0.5',
          transmission_depth: 1,
        }),
      ],
      uniform(1),
      { name: 'c', position: [0, 0, 0], target: [0, 0, -1], fov: 10 },
      8,
      8,
    )
    mean(scene).forEach((x, k) => expect(Math.abs(x - [0.5, 0.25, 0.5][k]!)).toBeLessThan(0.01))
  })
  it('an opening shows what lies behind it', () => {
    const scene = sceneOf(
      ball,
      [one({ base_color: '0, 0, 0', specular_weight: 0, geometry_opacity: 0.25 })],
      uniform(1),
      camera,
      8,
      8,
    )
    // two faces, each lets three quarters pass
    mean(scene).forEach(x => expect(Math.abs(x - 0.5625)).toBeLessThan(0.02))
  })
  it('dispersion lies within its single wavelengths: spread colours add up to the light that came', () => {
    // a slanted look through a prism-like edge of the ball at a small white panel before black: the mean of the
    // spectrum is the glass without dispersion, to first order
    const rig = rigSchema.parse({
      name: 'r',
      environment: { kind: 'uniform', radiance: [0, 0, 0] },
      panels: [{ name: 'p', centre: [0, 0, -6], u: [3, 0, 0], v: [0, 3, 0], radiance: [1, 1, 1] }],
    })
    const plain = mean(
      sceneOf(ball, [one({ transmission_weight: 1, specular_roughness: 0 })], rig, camera, 8, 8),
      128,
    )
    const spread = mean(
      sceneOf(
        ball,
        [
          one({
            transmission_weight: 1,
            specular_roughness: 0,
            transmission_dispersion_scale: 1,
            transmission_dispersion_abbe_number: 40,
          }),
        ],
        rig,
        camera,
        8,
        8,
      ),
      128,
    )
    plain.forEach((x, k) => expect(Math.abs(spread[k]! - x)).toBeLessThan(0.05 * x + 0.005))
  })
})
