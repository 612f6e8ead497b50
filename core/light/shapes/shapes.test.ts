import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { dispatchText } from '../../../scripts/write-dispatch.mjs'
import { quad } from '../../mesh/quad'
import { rigSchema } from '../../scene/rig'
import { materialOf, meanColour, pbr, mtlx, sceneOf, sumOfPasses } from '../../testing/setup'
import { lit, memory } from '../memory'
import { registerShape } from '../shape'
import { aimFlat, densityFlat, hitFlat, sampleFlat, setRadiance, weighFlat } from './flat'

const { met } = memory
const text = (file: string) => readFileSync(new URL(file, import.meta.url), 'utf8')

it('the switches are those of the list', async () =>
  expect(text('./dispatch.ts')).toBe(await dispatchText('shapes', text('../../scene/shape-kinds.ts'))))

it('a shape that is registered from outside lights a floor as Lambert’s closed form says', () => {
  /** Where the hole of a ring ends, in half edges. */
  const HOLE = 0.5
  registerShape('ring', {
    prepare: ({ cross }) => ({ area: Math.PI * (1 - HOLE * HOLE) * cross }),
    weigh: weighFlat,
    sample(p, o, S) {
      const r = Math.sqrt(HOLE * HOLE + lit.u * (1 - HOLE * HOLE))
      const a = r * Math.cos(2 * Math.PI * lit.v)
      const b = r * Math.sin(2 * Math.PI * lit.v)
      if (!sampleFlat(p, o, S, a, b)) return false
      setRadiance(p, o, 1)
      return true
    },
    density: densityFlat,
    hit(p, o, origin, direction, at) {
      const before = lit.distance
      if (!hitFlat(p, o, origin, direction, at, true)) return false
      if (Math.hypot(met[0]!, met[1]!) >= HOLE) return true
      lit.distance = before
      return false
    },
    fade: () => 1,
    aim: aimFlat,
  })
  const L = 2
  const rig = rigSchema.parse({
    name: 'r',
    environment: { kind: 'uniform', radiance: [0, 0, 0] },
    panels: [
      { name: 'ring', centre: [0, 1, 0], u: [0.5, 0, 0], v: [0, 0, 0.5], radiance: [L, L, L], shape: 'ring' },
    ],
  })
  const floor = quad('floor', [-0.01, 0, 0.01, 0.01, 0, 0.01, 0.01, 0, -0.01, -0.01, 0, -0.01])
  const camera = {
    name: 'c',
    position: [0, 0.5, 0.02] as [number, number, number],
    target: [0, 0, 0] as [number, number, number],
    fov: 0.5,
  }
  const material = materialOf(mtlx(pbr({ base_color: '0.5, 0.5, 0.5', specular_weight: 0 })), 's')
  const scene = sceneOf({ parts: [floor] }, [material], rig, camera, 8, 8)
  const mean = meanColour(sumOfPasses(scene, 8, 8, 0, 64), 64)[1]!
  // E = π·L·(sin²θ₁ − sin²θ₂): a disc on axis, less the disc of its hole (Lambert; closed form); outgoing ρ·E/π
  const sin2 = (r: number) => (r * r) / (1 + r * r)
  expect(mean).toBeCloseTo(0.5 * L * (sin2(0.5) - sin2(0.5 * HOLE)), 2)
})

it('a shape that nobody knows is refused by name', () =>
  expect(() =>
    rigSchema.parse({
      name: 'r',
      environment: { kind: 'uniform', radiance: [0, 0, 0] },
      panels: [{ name: 'x', centre: [0, 1, 0], u: [1, 0, 0], v: [0, 0, 1], radiance: [1, 1, 1], shape: 'torus' }],
    }),
  ).toThrow(/no light shape torus; known are rectangle, disc, ball, sun/))

describe('a sun', () => {
  const half = (2 * Math.PI) / 180
  const to = [0.48, 0.8, 0.36]
  const L = 40
  const rig = (more: object = {}) =>
    rigSchema.parse({
      name: 'r',
      environment: { kind: 'uniform', radiance: [0, 0, 0] },
      panels: [
        {
          name: 'sun',
          centre: to,
          u: [Math.tan(half), 0, 0],
          v: [0, Math.tan(half), 0],
          radiance: [L, L, L],
          shape: 'sun',
          visible: true,
          ...more,
        },
      ],
    })
  const white = materialOf(mtlx(pbr({ base_color: '1, 1, 1', specular_weight: 0 })), 's')
  /** Radiance of a white floor at a height, seen from close above. */
  function floorAt(y: number): number {
    const floor = quad('floor', [-0.01, y, 0.01, 0.01, y, 0.01, 0.01, y, -0.01, -0.01, y, -0.01])
    const camera = {
      name: 'c',
      position: [0, y + 0.5, 0.02] as [number, number, number],
      target: [0, y, 0] as [number, number, number],
      fov: 0.5,
    }
    return meanColour(sumOfPasses(sceneOf({ parts: [floor] }, [white], rig(), camera, 8, 8), 8, 8, 0, 64), 64)[1]!
  }

  it('gives L·sin²θ times the cosine of its height (a uniform cone, closed form), wherever the floor lies', () => {
    const expected = L * Math.sin(half) ** 2 * 0.8
    for (const y of [0, 800, -3000]) expect(Math.abs(floorAt(y) / expected - 1)).toBeLessThan(0.01)
  })

  it('is seen as large as it is, and by drawn directions as bright as by drawn lights', () => {
    const camera = {
      name: 'c',
      position: [5, 5, 5] as [number, number, number],
      target: [5 + to[0]!, 5 + to[1]!, 5 + to[2]!] as [number, number, number],
      fov: 10,
    }
    const far = quad('far', [90, 0, 0, 91, 0, 0, 91, 1, 0, 90, 1, 0])
    const seen = meanColour(
      sumOfPasses(sceneOf({ parts: [far] }, [white], rig(), camera, 32, 32), 32, 32, 0, 16),
      16,
    )
    const share = (Math.PI * Math.tan(half) ** 2) / (2 * Math.tan((5 * Math.PI) / 180)) ** 2
    expect(seen[1]! / (L * share)).toBeCloseTo(1, 1)
    // a mirror-like floor draws directions: the same light, within noise
    const glossy = materialOf(
      mtlx(pbr({ base_color: '1, 1, 1', base_metalness: 1, specular_color: '1, 1, 1', specular_roughness: 0 })),
      's',
    )
    const floor = quad('floor', [-1, 0, 1, 1, 0, 1, 1, 0, -1, -1, 0, -1])
    const above = {
      name: 'c',
      position: [-0.48, 0.8, -0.36] as [number, number, number],
      target: [0, 0, 0] as [number, number, number],
      fov: 0.5,
    }
    const mirrored = meanColour(
      sumOfPasses(sceneOf({ parts: [floor] }, [glossy], rig(), above, 4, 4), 4, 4, 0, 4),
      4,
    )
    expect(mirrored[1]).toBeCloseTo(L, 3)
  })
})
