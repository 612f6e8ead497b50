/**
 * Coats over rough metal against a walk without positions (Guo, Hašan & Zhao 2018, "Position-free Monte Carlo
 * simulation for arbitrary layered BSDFs"): a plane face by Snell and Fresnel, written here; below it the renderer's
 * own bare metal, so that layers alone are judged.
 */
import { beforeEach, describe, expect, it } from 'vitest'
import { basisB, basisG, basisR } from '../colour/upsample'
import { dir, see, set, type Changes } from '../testing/openpbr'
import { memory, scattered } from './memory'
import { sample } from './sample'

const { basis, lane, value } = memory
beforeEach(() =>
  [20, 120, 200, 300].forEach((g, k) => {
    lane[k] = g
    basis.set([basisR[g]!, basisG[g]!, basisB[g]!], k * 3)
  }),
)
const grey = (x: number): [number, number, number] => [x, x, x]
const metal = (colour: number, roughness: number): Changes => ({
  base_metalness: 1,
  base_color: grey(colour),
  specular_color: grey(1),
  specular_roughness: roughness,
})

/** Fresnel's reflectance of a face, and the cosine beyond it, from index a to b. */
function face(cos: number, a: number, b: number): { F: number; beyond: number } {
  const sin2 = ((1 - cos * cos) * a * a) / (b * b)
  if (sin2 >= 1) return { F: 1, beyond: 0 }
  const beyond = Math.sqrt(1 - sin2)
  const s = (a * cos - b * beyond) / (a * cos + b * beyond)
  const p = (b * cos - a * beyond) / (b * cos + a * beyond)
  return { F: (s * s + p * p) / 2, beyond }
}

/** Draws of a walk (mulberry32, a common generator). */
function generator(seed: number): () => number {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

/** Reflectance of the coated metal at a cosine outside. @param pass what the coat leaves on one way straight through */
function walked(mu: number, changes: Changes, n: number, pass: number, walks = 8000): number {
  set(changes)
  const { F, beyond } = face(mu, 1, n)
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
      const out = face(up, n, 1)
      sum += weight * (1 - out.F)
      weight *= out.F * through
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
