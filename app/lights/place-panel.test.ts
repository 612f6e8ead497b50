import { describe, expect, it } from 'vitest'
import { panelSchema } from '../../core/scene/rig'
import { coneShare, placeOf, placed } from './place-panel'

describe('the share of a ball’s cone', () => {
  it('is the part of 4π steradians, with what its fall leaves between the angles', () => {
    expect(coneShare([180, 180])).toBe(1)
    expect(coneShare([90, 90])).toBeCloseTo(0.5, 9)
    let sum = 0
    const N = 100_000
    const a = Math.cos(0.4)
    const b = Math.cos(1)
    for (let i = 0; i < N; i++) {
      const cos = 1 - (2 * (i + 0.5)) / N
      const f = Math.min(1, Math.max(0, (cos - b) / (a - b)))
      sum += (f * f) / N
    }
    expect(coneShare([0.4, 1].map(x => (x * 180) / Math.PI))).toBeCloseTo(sum, 4)
  })
})

describe('where a panel stands', () => {
  it('is kept when it is read and written, and its light goes to the middle', () => {
    const p = panelSchema.parse({ name: 'p', centre: [0, 0, 0], u: [1, 0, 0], v: [0, 1, 0], radiance: [1, 1, 1] })
    const middle = [0.1, 0.2, 0.3]
    for (const at of [
      { azimuth: 30, elevation: 40, distance: 2, width: 1, height: 0.5 },
      { azimuth: -120, elevation: -10, distance: 0.5, width: 0.1, height: 0.4 },
    ]) {
      const q = placed(p, at, middle)
      const back = placeOf(q, middle)
      for (const k of ['azimuth', 'elevation', 'distance', 'width', 'height'] as const)
        expect(back[k]).toBeCloseTo(at[k], 2)
      const n = [
        q.u[1] * q.v[2] - q.u[2] * q.v[1],
        q.u[2] * q.v[0] - q.u[0] * q.v[2],
        q.u[0] * q.v[1] - q.u[1] * q.v[0],
      ]
      const away = q.centre.map((c, k) => c - middle[k]!)
      expect(n.reduce((s, x, k) => s + x * away[k]!, 0) / (Math.hypot(...n) * Math.hypot(...away))).toBeCloseTo(
        -1,
        9,
      )
    }
  })
})
