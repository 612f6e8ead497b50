import { describe, expect, it } from 'vitest'
import { layFootprint, curvatureAt } from '../point/footprint'
import { POINT, POINT_STRIDE } from '../point/slots'
import { now, scattered } from '../surface/memory'
import { PASSAGE } from '../surface/lobe'
import { advanceCone, beginCone, bendCone, radiusAt, spreadOfDrawn } from './cone'
import { memory } from './memory'

const { coneRadius, coneSpread } = memory

/** A point on the axis of a ball of radius R that bulges towards the viewer, seen straight on. */
function onBall(R: number): Float64Array {
  const S = new Float64Array(POINT_STRIDE)
  S.set([0, 0, 1], POINT.normal)
  S.set([0, 0, 1], POINT.geometric)
  S.set([0, 0, -1], POINT.view)
  S.set([1, 0, 0], POINT.tangent)
  S.set([2, 0, 0], POINT.dpdu)
  S.set([0, 3, 0], POINT.dpdv)
  S.set([2 / R, 0, 0], POINT.dndu)
  S.set([0, 3 / R, 0], POINT.dndv)
  return S
}

/**
 * Witness: a ray at height h and slope s meets a ball of radius R (its middle at z = −R), and is mirrored or bent
 * there by the vector laws; its height a distance behind.
 */
function heightAfter(h: number, s: number, R: number, eta: number | null, distance: number): number {
  const z = R > 0 ? Math.sqrt(R * R - h * h) - R : -(Math.sqrt(R * R - h * h) - Math.abs(R))
  const n = [h / R, (z + R) / R]
  const l = Math.hypot(s, 1)
  const d = [s / l, -1 / l]
  const cos = -(d[0]! * n[0]! + d[1]! * n[1]!)
  if (eta === null) {
    const r = [d[0]! + 2 * cos * n[0]!, d[1]! + 2 * cos * n[1]!]
    return h + (r[0]! / r[1]!) * (distance - z)
  }
  const k = eta * cos - Math.sqrt(1 - eta * eta * (1 - cos * cos))
  const t = [eta * d[0]! + k * n[0]!, eta * d[1]! + k * n[1]!]
  return h + (t[0]! / -t[1]!) * (distance + z)
}

function bent(
  R: number,
  spread: number,
  before: number,
  after: number,
  eta: number | null,
  outside = true,
): number {
  beginCone(0, spread)
  advanceCone(0, before)
  Object.assign(scattered, { transmitted: eta !== null, passage: eta === null ? 0 : PASSAGE.glass, smooth: true })
  Object.assign(now, { outside, surround: 1, glass: 1.5 })
  bendCone(0, onBall(R))
  return radiusAt(0, after)
}

describe('cones of paths', () => {
  it.each([
    ['a flat mirror', Infinity],
    ['a mirror that bulges', 0.5],
    ['a hollow mirror', -3],
  ])('widen behind %s as two rays do that lie close', (_, R) => {
    for (const after of [0.1, 1, 2.4]) {
      const flat = R === Infinity ? 1e9 : R
      const wanted = Math.abs(heightAfter(1e-5, 1e-5, flat, null, after))
      expect(bent(flat, 1e-5, 1, after, null) / wanted).toBeCloseTo(1, 3)
    }
  })
  it('narrow and widen behind glass as two rays do', () => {
    for (const [R, after] of [
      [1e9, 1],
      [0.4, 0.5],
      [0.4, 3],
      [-0.7, 1],
    ] as const) {
      const wanted = Math.abs(heightAfter(1e-5, 1e-5, R, 1 / 1.5, after))
      expect(bent(R, 1e-5, 1, after, 1 / 1.5) / wanted).toBeCloseTo(1, 3)
    }
  })
  it('on the way out of glass count the curvature from within', () => {
    // the inner side of a bulging face is hollow
    const wanted = Math.abs(heightAfter(1e-5, 1e-5, -0.8, 1.5, 0.3))
    expect(bent(0.8, 1e-5, 1, 0.3, 1.5, false) / wanted).toBeCloseTo(1, 3)
  })
  it('spread behind where they narrow to a point', () => {
    coneRadius[0] = 1
    coneSpread[0] = -0.5
    advanceCone(0, 3)
    expect([coneRadius[0], coneSpread[0]]).toEqual([0.5, 0.5])
  })
  it('of drawn directions have the radius of one of 64 that share a cap', () => {
    // a density that is even over a cap of half-angle a: 64 smaller caps of half-angle a / 8 fill it
    const a = 0.2
    expect(spreadOfDrawn(1 / (2 * Math.PI * (1 - Math.cos(a))))).toBeCloseTo(a / 8, 3)
    expect(spreadOfDrawn(0)).toBe(0.5)
  })
})

describe('what a point stands for', () => {
  it('is a circle seen straight on, and longer by 1/cos along the view where it is seen obliquely', () => {
    const S = onBall(1e9)
    S[POINT.footprint] = 0.01
    for (const angle of [0, 1.2]) {
      S.set([Math.sin(angle), 0, -Math.cos(angle)], POINT.view)
      layFootprint(S)
      const long = Math.hypot(S[POINT.dpdx]!, S[POINT.dpdx + 1]!, S[POINT.dpdx + 2]!)
      const across = Math.hypot(S[POINT.dpdy]!, S[POINT.dpdy + 1]!, S[POINT.dpdy + 2]!)
      expect([long, across]).toEqual([expect.closeTo(0.01 / Math.cos(angle), 9), expect.closeTo(0.01, 9)])
      // a metre along x is half a unit of u, one along y a third of v
      expect(S[POINT.duvdx]! * 2).toBeCloseTo(S[POINT.dpdx]!, 12)
      expect(S[POINT.duvdy + 1]! * 3).toBeCloseTo(S[POINT.dpdy + 1]!, 12)
    }
  })
  it('turns the normal as far as the surface bends', () => {
    const S = onBall(0.25)
    S[POINT.footprint] = 0.01
    layFootprint(S)
    expect(Math.hypot(S[POINT.dndx]!, S[POINT.dndx + 1]!)).toBeCloseTo(0.04, 12)
    expect(curvatureAt(S)).toBeCloseTo(4, 12)
    expect(curvatureAt(onBall(-2))).toBeCloseTo(-0.5, 12)
  })
  it('is the point itself where nobody looks through pixels', () => {
    const S = onBall(1)
    S.fill(7, POINT.dpdx)
    layFootprint(S)
    expect([...S.subarray(POINT.dpdx, POINT.duvdy + 2)].every(x => x === 0)).toBe(true)
    // what else a point knows stays
    expect([...S.subarray(POINT.duvdy + 2)].every(x => x === 7)).toBe(true)
  })
})
