/**
 * Coats over rough metal against a walk without positions (Guo, Hašan & Zhao 2018, "Position-free Monte Carlo
 * simulation for arbitrary layered BSDFs"): a plane face by Snell and Fresnel (`plane-face.ts`); below it the
 * renderer's own bare metal, so that layers alone are judged.
 */
import { beforeEach, describe, expect, it } from 'vitest'
import { loadLanes } from '../testing/draws'
import { generator } from '../testing/generator'
import { bent, faceReflects } from '../testing/plane-face'
import { dir, grey, metal, see, set, type Changes } from '../testing/openpbr'
import { memory, scattered } from './memory'
import { sample } from './sample'

const { value } = memory
beforeEach(() => loadLanes([20, 120, 200, 300]))
/** Reflectance of the coated metal at a cosine outside. @param pass what the coat leaves on one way straight through */
function walked(mu: number, changes: Changes, n: number, pass: number, walks = 8000): number {
  set(changes)
  const F = faceReflects(mu, 1, n)
  const beyond = bent(mu, 1, n)
  const draw = generator(7)
  let sum = 0
  for (let i = 0; i < walks; i++) {
    let weight = (1 - F) * pass ** (1 / beyond)
    let o = dir(Math.acos(beyond), 0)
    for (let order = 0; order < 60 && weight > 1e-4; order++) {
      see(o)
      if (!sample(draw(), draw(), draw())) break
      const up = Math.max(1e-6, scattered.z)
      const through = pass ** (1 / up)
      weight *= value[5]! * through
      const back = faceReflects(up, n, 1)
      sum += weight * (1 - back)
      weight *= back * through
      o = [scattered.x, scattered.y, up]
    }
  }
  return F + sum / walks
}

/** The same of the renderer's layers. */
function layered(mu: number, changes: Changes, n: number, pass: number, samples = 10_000): number {
  const tint = grey(pass * pass)
  set({ ...changes, coat_weight: 1, coat_roughness: 0, coat_ior: n, coat_color: tint })
  see(dir(Math.acos(mu), 0))
  const draw = generator(11)
  let sum = 0
  for (let i = 0; i < samples; i++) if (sample(draw(), draw(), draw())) sum += value[5]! / samples
  return sum
}

describe('coats over rough metal against a walk', () => {
  it.each([0.2, 0.45, 0.8].flatMap(r => [1.3, 1.5, 2].map(n => [r, n] as const)))(
    'roughness %f under %f',
    (roughness, n) => {
      for (const mu of [1, 0.7, 0.45, 0.25])
        for (const [colour, pass] of [
          [0.9, 1],
          [0.6, 0.7],
        ] as const) {
          const d = layered(mu, metal(colour, roughness), n, pass) - walked(mu, metal(colour, roughness), n, pass)
          expect(Math.abs(d), `${mu} ${colour} ${d}`).toBeLessThan(0.025)
        }
    },
  )
})
