import { describe, expect, it } from 'vitest'
import { sphere } from '../mesh/sphere'
import { smoothNormals, type Part } from '../mesh/model'
import { POINT, POINT_STRIDE } from '../point/slots'
import { createGeometry } from '../scene/geometry'
import { castClosest, createRayBatch } from '../trace/cast'
import { fillPoint } from '../scene/fill-point'
import { createFewRays } from './few-rays'
import { useOf } from './use'

/** Mean of many looks by few rays where a ray meets a part: H·r. */
function curvature(
  parts: Part[],
  origin: number[],
  direction: number[],
  radius: number,
  side: 'convex' | 'concave' | 'both',
): number {
  const g = createGeometry({ parts })
  const ray = createRayBatch(1)
  const few = createFewRays(1)
  const use = useOf({ field: 'curvature', side })
  const S = new Float64Array(POINT_STRIDE)
  ray.origin.set(origin)
  ray.direction.set(direction)
  ray.distance[0] = Infinity
  castClosest(g.hierarchy, ray, 1)
  expect(ray.triangle[0]).toBeGreaterThanOrEqual(0)
  fillPoint(g, ray, 0, ray.direction, 0, S)
  let sum = 0
  for (let i = 0; i < 3000; i++) {
    S[POINT.field] = 0
    few.ask(S, POINT.field, use, radius, Float64Array.of((i * 0.754877666) % 1, (i * 0.569840291) % 1))
    few.answer(g.hierarchy)
    sum += S[POINT.field]!
  }
  return sum / 3000
}
function box(size: number): Part {
  const c: number[] = []
  const index: number[] = []
  for (const axis of [0, 1, 2])
    for (const s of [-1, 1]) {
      const first = c.length / 3
      for (const [a, b] of [
        [-1, -1],
        [1, -1],
        [1, 1],
        [-1, 1],
      ]) {
        const p = [0, 0, 0]
        p[axis] = s
        p[(axis + 1) % 3] = a! * s
        p[(axis + 2) % 3] = b!
        c.push(...p.map(x => x * size))
      }
      index.push(first, first + 1, first + 2, first, first + 2, first + 3)
    }
  const position = Float32Array.from(c)
  const i = Uint32Array.from(index)
  return { name: 'box', position, index: i, normal: smoothNormals(position, i), uv: new Float32Array(0) }
}

describe('a few rays a point have the right mean (ball integral invariant, Pottmann et al. 2009): curvature', () => {
  const fine = sphere('ball', 1, 400, 800)
  it('of a sphere is 1/R, whatever the radius', () => {
    for (const r of [0.1, 0.25])
      expect(curvature([fine], [0.123, 0.1, 3], [0, 0, -1], r, 'convex') / r).toBeCloseTo(1, 1)
    expect(curvature([fine], [0.123, 0.1, 3], [0, 0, -1], 0.2, 'concave')).toBeCloseTo(0, 2)
  })
  it('of a plane is nothing, without noise', () =>
    expect(curvature([box(1)], [0.1, 0.2, 5], [0, 0, -1], 0.2, 'both')).toBe(0))
  it('on a right-angled convex edge is 4/3 (a quarter ball is left)', () =>
    expect(curvature([box(1)], [0.9999, 0.2, 5], [0, 0, -1], 0.2, 'convex')).toBeCloseTo(4 / 3, 1))
  it('from inside a concave edge is −4/3', () => {
    const flipped = box(1)
    for (let i = 0; i < flipped.index.length; i += 3) {
      const t = flipped.index[i + 1]!
      flipped.index[i + 1] = flipped.index[i + 2]!
      flipped.index[i + 2] = t
    }
    expect(curvature([flipped], [0.9999, 0.2, 0], [0, 0, -1], 0.2, 'both')).toBeCloseTo(-4 / 3, 1)
  })
})
