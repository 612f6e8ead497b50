import { readFileSync } from 'node:fs'
import { expect, it } from 'vitest'
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
  ).toThrow(/no light shape torus; known are rectangle, disc, ball/))
