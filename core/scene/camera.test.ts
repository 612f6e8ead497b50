import { describe, expect, it } from 'vitest'
import { cameraFrame, focalLength, fovOf, FRAME, throughLens } from './camera'

describe('lens', () => {
  const camera = {
    name: 'c',
    position: [0, 0, 5] as [number, number, number],
    target: [0, 0, 0] as [number, number, number],
    fov: fovOf(50),
    fNumber: 2,
  }
  it('focal length and field of view are one', () => {
    expect(focalLength(camera)).toBeCloseTo(50, 9)
    expect(fovOf(24, 24) / 2).toBeCloseTo(26.565, 3)
  })
  it.each([0, 6])(
    'every ray of a pixel meets the sharp plane at one place, with %i blades, and leaves from within the aperture',
    blades => {
      const F = cameraFrame({ ...camera, blades }, 16, 10)
      const origin = new Float64Array(3)
      const direction = new Float64Array(3)
      expect(F[FRAME.radius]).toBeCloseTo(0.0125, 12)
      for (let i = 0; i < 50; i++) {
        origin.set([0, 0, 5])
        throughLens(F, Float64Array.of((i + 0.5) / 50, (i * 0.618) % 1), origin, direction, 0, 0.1, -0.05, -1)
        const r = Math.hypot(origin[0]!, origin[1]!)
        expect(r).toBeLessThanOrEqual(0.0125 + 1e-12)
        const t = -origin[2]! / direction[2]!
        expect(origin[0]! + t * direction[0]!).toBeCloseTo(0.5, 9)
        expect(origin[1]! + t * direction[1]!).toBeCloseTo(-0.25, 9)
        expect(Math.hypot(...direction)).toBeCloseTo(1, 12)
      }
    },
  )
})
