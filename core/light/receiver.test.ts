import { afterEach, describe, expect, it } from 'vitest'
import { materialOf, meanColour, mtlx, pbr, sceneOf, sumOfPasses } from '../testing/setup'
import { box } from '../testing/box'
import { rigSchema } from '../scene/rig'
import { quad } from '../mesh/quad'
import { readyLights } from './ready'
import { received, receiveAll, receiveAt } from './receiver'

afterEach(receiveAll)

/** Numbers of 0..1 that fill space evenly (Roberts 2018, from memory). */
const even = (i: number, k: number) => (0.5 + i * [0.8191725134, 0.6710436067, 0.5497004779][k]!) % 1
const onSphere = (a: number, b: number): [number, number, number] => {
  const z = 2 * a - 1
  const s = Math.sqrt(1 - z * z)
  return [s * Math.cos(2 * Math.PI * b), s * Math.sin(2 * Math.PI * b), z]
}

describe('what receives light', () => {
  it('is never less than the cosine to any point of the sphere, on one side and on both', () => {
    for (let i = 0; i < 400; i++) {
      const way = onSphere(even(i, 0), even(i, 1)).map(x => 3 * x)
      const r = 2.5 * even(i, 2)
      for (const sides of [1, 2]) {
        receiveAt(0, 0, 1, sides)
        const most = received(way[0]!, way[1]!, way[2]!, 9, r * r)
        expect(most).toBeGreaterThan(0)
        expect(most).toBeLessThanOrEqual(1)
        for (let j = 0; j < 50; j++) {
          const p = onSphere(even(j, 0), even(j, 2)).map((x, k) => way[k]! + r * x)
          const cosine = p[2]! / Math.hypot(...p)
          expect(most).toBeGreaterThanOrEqual((sides === 2 ? Math.abs(cosine) : cosine) - 1e-12)
        }
      }
    }
  })
  it('is next to nothing behind an opaque surface, the cosine in front of it, and 1 where nothing is known', () => {
    receiveAt(0, 0, 1, 1)
    expect(received(0, 0, -5, 25, 0.01)).toBeLessThan(0.05)
    expect(received(4, 0, 3, 25, 0)).toBeGreaterThan(0.6)
    expect(received(4, 0, 3, 25, 0)).toBeLessThan(0.7)
    receiveAt(0, 0, 1, 2)
    expect(received(0, 0, -5, 25, 0.01)).toBe(1)
    receiveAll()
    expect(received(0, 0, -5, 25, 0.01)).toBe(1)
  })
})

describe('lights that are weighed by it', () => {
  /** A panel before a wall and one behind it, as bright as that; what the camera sees of the wall. */
  const seen = (inputs: Record<string, string | number>, gather: 'both' | 'lights' | 'directions') => {
    const rig = rigSchema.parse({
      name: 'two',
      environment: { kind: 'uniform', radiance: [0, 0, 0] },
      panels: [
        { name: 'front', centre: [0, 3, 0], u: [0.5, 0, 0], v: [0, 0, 0.5], radiance: [4, 4, 4] },
        { name: 'back', centre: [0, -3, 0], u: [0.5, 0, 0], v: [0, 0, -0.5], radiance: [4, 4, 4] },
      ],
    })
    const wall = quad('wall', [-4, 0, 4, 4, 0, 4, 4, 0, -4, -4, 0, -4])
    const material = materialOf(mtlx(pbr(inputs)), 's')
    const camera = { name: 'c', position: [0, 2, 0.001], target: [0, 0, 0], fov: 10 }
    const scene = sceneOf({ parts: [wall] }, [material], rig, camera as never, 8, 8)
    scene.lights.gather = gather
    return meanColour(sumOfPasses(scene, 8, 8, 0, 256), 256)[1]!
  }
  it('give what drawn directions alone give, opaque and thin', () => {
    for (const inputs of [
      { base_color: '0.8, 0.8, 0.8', specular_weight: 0 },
      { base_color: '0.8, 0.8, 0.8', specular_weight: 0, geometry_thin_walled: 'true', subsurface_weight: 1 },
    ] as Record<string, string | number>[]) {
      const directions = seen(inputs, 'directions')
      expect(directions).toBeGreaterThan(0)
      expect(Math.abs(seen(inputs, 'both') / directions - 1)).toBeLessThan(0.03)
      expect(Math.abs(seen(inputs, 'lights') / directions - 1)).toBeLessThan(0.03)
    }
  })
  it('a shining cube beside a wall gives as much by its tree as by directions', () => {
    const light = box('light', [0.5, 0.6, 0], [0.4, 0.4, 0.4])
    const wall = quad('wall', [-4, 0, 4, 4, 0, 4, 4, 0, -4, -4, 0, -4])
    const shines = materialOf(
      mtlx(pbr({ base_color: '0, 0, 0', specular_weight: 0, emission_luminance: 1000 })),
      's',
    )
    const grey = materialOf(mtlx(pbr({ base_color: '0.5, 0.5, 0.5', specular_weight: 0 })), 's')
    const dark = rigSchema.parse({ name: 'd', environment: { kind: 'uniform', radiance: [0, 0, 0] } })
    const camera = { name: 'c', position: [-0.4, 2, 0.001], target: [-0.4, 0, 0], fov: 10 }
    const of = (gather: 'both' | 'directions') => {
      const scene = sceneOf({ parts: [wall, light] }, [grey, shines], dark, camera as never, 8, 8)
      scene.lights.gather = gather
      return meanColour(sumOfPasses(scene, 8, 8, 0, 512), 512)[1]!
    }
    const directions = of('directions')
    expect(directions).toBeGreaterThan(0)
    expect(Math.abs(of('both') / directions - 1)).toBeLessThan(0.03)
  })
  it('what parts see of what shines does not depend on what was asked before', () => {
    // one to the left of what it shines at, one to the right, which is hidden
    const light = box('light', [-3, 0.6, 0], [0.4, 0.4, 0.4])
    const hidden = box('light', [3, 0.6, 0], [0.4, 0.4, 0.4])
    const shade = quad('shade', [1, 0, 1, 1, 0, -1, 1, 2, -1, 1, 2, 1])
    const wall = quad('wall', [-0.5, 0, 0.5, 0.5, 0, 0.5, 0.5, 0, -0.5, -0.5, 0, -0.5])
    const shines = materialOf(mtlx(pbr({ base_color: '0, 0, 0', emission_luminance: 1000 })), 's')
    const grey = materialOf(mtlx(pbr({ base_color: '0.5, 0.5, 0.5' })), 's')
    const dark = rigSchema.parse({ name: 'd', environment: { kind: 'uniform', radiance: [0, 0, 0] } })
    const camera = { name: 'c', position: [0, 2, 1], target: [0, 0, 0], fov: 10 }
    const seen = () => {
      const s = sceneOf(
        { parts: [wall, shade, light, hidden] },
        [grey, grey, shines, shines],
        dark,
        camera as never,
        8,
        8,
      )
      return [...readyLights(s.geometry, s.lights, s.materials, s.materialOf).visible!]
    }
    receiveAt(1, 0, 0, 1)
    const before = seen()
    receiveAt(-1, 0, 0, 1)
    expect(seen()).toEqual(before)
    expect(before.some(x => x > 0 && x < 1)).toBe(true)
  })
})
