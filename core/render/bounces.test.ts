import { describe, expect, it } from 'vitest'
import { bouncesOf, USUAL_BOUNCES } from '../scene/bounces'
import { box } from '../testing/box'
import { materialOf, meanColour, mtlx, pbr, sceneOf, uniform } from '../testing/setup'
import { TILE } from './film'
import { renderTile } from './integrate'
import { createTracer } from './tracer'

describe('bounces', () => {
  const camera = {
    name: 'within',
    position: [0.1, 0.2, 0.3] as [number, number, number],
    target: [1, 0.1, -0.2] as [number, number, number],
    fov: 50,
  }
  const wall = pbr({
    base_color: '0.9, 0.9, 0.9',
    specular_weight: 0,
    emission_luminance: 1,
    emission_color: '1, 1, 1',
  })
  const room = sceneOf(
    { parts: [box('room', [0, 0, 0], [2, 2, 2])] },
    [materialOf(mtlx(wall), 's')],
    uniform(0),
    camera,
    TILE,
    TILE,
  )
  /** Mean radiance in the room, and the paths that were ended, of all. */
  function within(most: number, passes = 48): { mean: number; cut: number } {
    const t = createTracer()
    const scene = { ...room, maxOpaque: most, maxSpecular: most }
    const sum = new Float64Array(TILE * TILE * 3)
    const tile = new Float64Array(TILE * TILE * 3)
    for (let pass = 0; pass < passes; pass++) {
      renderTile(t, scene, 0, 0, TILE, TILE, TILE, TILE, pass, 3, tile, null)
      tile.forEach((x, i) => (sum[i]! += x))
    }
    return { mean: meanColour(sum, passes)[1]!, cut: t.counts.cut / t.counts.paths }
  }

  it('a closed room of albedo 0.9 whose walls shine with 1 has 1/(1 − 0.9) everywhere', () => {
    const { mean, cut } = within(USUAL_BOUNCES)
    expect(Math.abs(mean - 10)).toBeLessThan(0.15)
    expect(cut).toBeLessThan(0.01)
  })

  it('few of them lose light, as the sum of a geometric series, and say of how many paths', () => {
    const { mean, cut } = within(8)
    expect(Math.abs(mean - (1 - 0.9 ** 9) / 0.1)).toBeLessThan(0.2)
    expect(cut).toBeGreaterThan(0.2)
  })

  it('scenes that were stored with the old numbers have the usual ones; others what they say', () => {
    expect(bouncesOf({ maxOpaque: 8, maxSpecular: 24 })).toEqual({ maxOpaque: 64, maxSpecular: 64 })
    expect(bouncesOf({ maxOpaque: 8, maxSpecular: 8 })).toEqual({ maxOpaque: 8, maxSpecular: 8 })
  })
})
