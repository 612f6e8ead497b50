import { describe, expect, it } from 'vitest'
import { rigSchema } from '../scene/rig'
import { createLights } from './create-lights'
import { sampleLight, weighLights } from './draw-light'
import { environmentRadiance } from './environment'
import { lit } from './memory'

const W = 24
const H = 12
/** A picture that is noise, with a black patch and a pixel a million times brighter than the rest. */
function picture(width = W, height = H) {
  let state = 7
  const random = () => (state = (state * 48271) % 2147483647) / 2147483647
  const data = Float32Array.from({ length: width * height * 4 }, () => 0.2 + random())
  for (let y = 4; y < 8; y++)
    for (let x = 3; x < 9; x++) data.fill(0, (y * width + x) * 4, (y * width + x) * 4 + 3)
  data.fill(1e6, (2 * width + 5) * 4, (2 * width + 5) * 4 + 3)
  return { width, height, data }
}
const rig = rigSchema.parse({ name: 'sky', environment: { kind: 'image', asset: 'sky' } })
const nowhere = new Float64Array(32)

/** Red between pixels' centres, straight from the definition: weights by distance, round the horizon, held at poles. */
function wanted(p: ReturnType<typeof picture>, u: number, v: number): number {
  let sum = 0
  for (let y = -1; y <= p.height; y++)
    for (let x = -1; x <= p.width; x++) {
      const weight =
        Math.max(0, 1 - Math.abs(u * p.width - 0.5 - x)) * Math.max(0, 1 - Math.abs(v * p.height - 0.5 - y))
      const row = Math.min(p.height - 1, Math.max(0, y))
      sum += weight * p.data[(row * p.width + ((x + p.width) % p.width)) * 4]!
    }
  return sum
}
/** Unit vector to a place of the picture: the middle looks along −z, to the right is +x, the top is +y. */
const towards = (u: number, v: number): Float64Array => {
  const phi = 2 * Math.PI * (u - 0.5)
  const sin = Math.sin(Math.PI * v)
  return Float64Array.of(sin * Math.sin(phi), Math.cos(Math.PI * v), -sin * Math.cos(phi))
}

describe('an interpolated environment', () => {
  const source = picture()
  const lights = createLights(rig, source)

  it('is the straight line between pixels’ centres', () => {
    for (let i = 0; i < 500; i++) {
      const u = (i * 0.61803) % 1
      const v = (i + 0.5) / 500
      environmentRadiance(lights, towards(u, v), 0)
      const right = wanted(source, u, v)
      expect(Math.abs(lit.r - right)).toBeLessThanOrEqual(1e-6 * (1e-3 + right))
    }
  })

  it('has a density that integrates to one, and drawn directions that give its integral', () => {
    const N = 480
    let density = 0
    let integral = 0
    for (let j = 0; j < N; j++)
      for (let i = 0; i < 2 * N; i++) {
        const u = (i + 0.5) / (2 * N)
        const v = (j + 0.5) / N
        const solid = ((Math.PI * Math.PI) / N / N) * Math.sin(Math.PI * v)
        lit.share = 1
        environmentRadiance(lights, towards(u, v), 0)
        density += lit.pdf * solid
        integral += wanted(source, u, v) * solid
      }
    expect(density).toBeCloseTo(1, 3)
    const M = 64
    let mean = 0
    const draws = new Float64Array(3)
    for (let j = 0; j < M; j++)
      for (let i = 0; i < M; i++) {
        draws.set([0.5, (i + 0.5) / M, ((j + 0.5) / M + i * 0.61803) % 1])
        weighLights(lights, nowhere)
        if (sampleLight(lights, null as never, nowhere, draws)) mean += lit.r / lit.pdf / (M * M)
      }
    expect(Math.abs(mean / integral - 1)).toBeLessThan(0.02)
  })

  it('draws every direction that shines, whatever shines beside it', () => {
    const large = picture(512, 256)
    const all = createLights(rig, large)
    for (let j = 0; j < 300; j++)
      for (let i = 0; i < 300; i++) {
        lit.share = 1
        environmentRadiance(all, towards((i + 0.5) / 300, (j + 0.5) / 300), 0)
        if (lit.r > 0) expect(lit.pdf).toBeGreaterThan(0)
      }
  })
})
