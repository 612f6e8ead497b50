import { describe, expect, it } from 'vitest'
import { smoothNormals, type Part } from '../mesh/model'
import { sphere } from '../mesh/sphere'
import type { Side } from '../point/field-ask'
import { POINT, POINT_STRIDE } from '../point/slots'
import { fillPoint } from '../scene/fill-point'
import { createGeometry } from '../scene/geometry'
import { box } from '../testing/box'
import { castClosest, createRayBatch } from '../trace/cast'
import { fieldAtPoint } from './at-point'
import { createFieldTable } from './table'
import { useOf } from './use'

interface Seen {
  value: number
  /** Growth along the surface, a metre. */
  by: number[]
  position: number[]
}

/** Looks at parts, and at fields where rays meet them. */
function looker(parts: Part[]) {
  const geometry = createGeometry({ parts })
  const table = createFieldTable(2 ** 16)
  const ray = createRayBatch(1)
  const S = new Float64Array(POINT_STRIDE)
  return (
    origin: readonly number[],
    direction: readonly number[],
    field: string,
    radius: number,
    side: Side = 'convex',
    footprint = 0,
  ): Seen => {
    ray.origin.set(origin)
    const l = Math.hypot(...direction)
    ray.direction.set(direction.map(x => x / l))
    ray.distance[0] = Infinity
    castClosest(geometry.hierarchy, ray, 1)
    expect(ray.triangle[0]).toBeGreaterThanOrEqual(0)
    fillPoint(geometry, ray, 0, ray.direction, 0, S)
    S[POINT.footprint] = footprint
    fieldAtPoint(geometry, S, 0, useOf({ field, side }), radius, table, true)
    return {
      value: S[POINT.field]!,
      by: [...S.subarray(POINT.fieldBy, POINT.fieldBy + 3)],
      position: [...S.subarray(POINT.position, POINT.position + 3)],
    }
  }
}

/** Places in 0..1 that fill a square evenly (Roberts 2018, from memory). */
const places = Array.from({ length: 200 }, (_, i) => [
  (0.5 + i * 0.7548776662466927) % 1,
  (0.5 + i * 0.5698402909980532) % 1,
])

/** Mean over the hemisphere about +z of what a ray (x, y, z) tells, by even steps of z and turn, or of z². */
function meanOver(tells: (x: number, y: number, z: number) => number, cosine: boolean): number {
  const [rows, turns] = [400, 400]
  let sum = 0
  for (let i = 0; i < rows; i++)
    for (let j = 0; j < turns; j++) {
      const e = (i + 0.5) / rows
      const z = cosine ? Math.sqrt(e) : e
      const s = Math.sqrt(1 - z * z)
      const a = (2 * Math.PI * (j + 0.5)) / turns
      sum += tells(s * Math.cos(a), s * Math.sin(a), z)
    }
  return sum / (rows * turns)
}

describe('fields on lattices', () => {
  const cube = looker([box('cube', [0, 0, 0], [2, 2, 2])])

  it('a box: the ball integral in closed form at any distance from an edge', () => {
    // below a face, beyond a plane at s radii: half a cap, (1 − s)² (2 + s) / 4 of half the ball (closed form)
    for (const r of [0.11, 0.2, 0.29])
      for (const [a, b] of places) {
        const s = 1.2 * a!
        const seen = cube([1 - s * r, b! - 0.5, 5], [0, 0, -1], 'curvature', r)
        const exact = s < 1 ? (2 / 3) * (1 - s) ** 2 * (2 + s) : 0
        expect(Math.abs(seen.value - exact)).toBeLessThan(0.03)
      }
  })

  it('a crisp threshold at 0.8 and 1.2 of the true value is 1 and 0: sphere, cylinder, box edge', () => {
    const R = 1
    const ball = looker([sphere('ball', R, 96, 192)])
    const r = 0.2
    for (const [a, b] of places) {
      const z = 2 * a! - 1
      const s = Math.sqrt(1 - z * z)
      const d = [s * Math.cos(2 * Math.PI * b!), s * Math.sin(2 * Math.PI * b!), z]
      const { value } = ball(
        d.map(x => 3 * x),
        d.map(x => -x),
        'curvature',
        r,
      )
      // the mean curvature of a sphere times the radius (do Carmo 1976)
      expect(value).toBeGreaterThan(0.8 * (r / R))
      expect(value).toBeLessThan(1.2 * (r / R))
      for (const s of [0.1, 0.3]) {
        const edge = cube([1 - s * r, a! - 0.5, 5], [0, 0, -1], 'curvature', r).value
        const exact = (2 / 3) * (1 - s) ** 2 * (2 + s)
        expect(edge).toBeGreaterThan(0.8 * exact)
        expect(edge).toBeLessThan(1.2 * exact)
      }
    }
    // a cylinder: chords 2 R c / (1 − a²), with the ray's parts across, c, and along the axis, a
    const rod = looker([tube(R, 4, 256)])
    const exact = (8 / 3) * meanOver((x, _, z) => Math.max(0, 1 - ((2 * R * z) / (1 - x * x) / 0.4) ** 3), false)
    for (const [a, b] of places.slice(0, 60)) {
      const turn = 2 * Math.PI * a!
      const d = [Math.cos(turn), 0, Math.sin(turn)]
      const { value } = rod([3 * d[0]!, b! - 0.5, 3 * d[2]!], [-d[0]!, 0, -d[2]!], 'curvature', 0.4)
      expect(value).toBeGreaterThan(0.8 * exact)
      expect(value).toBeLessThan(1.2 * exact)
    }
  })

  it('a right-angled corner: a half of the sky is gone at the edge, and what the wall hides beside it', () => {
    const step: Part = {
      name: 'step',
      position: Float32Array.of(-9, 0, -9, -9, 0, 9, 0, 0, 9, 0, 0, -9, 0, 9, -9, 0, 9, 9, 0, 0, 9, 0, 0, -9),
      normal: Float32Array.of(0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0, -1, 0, 0, -1, 0, 0, -1, 0, 0, -1, 0, 0),
      uv: new Float32Array(0),
      index: Uint32Array.of(0, 1, 2, 0, 2, 3, 4, 7, 6, 4, 6, 5),
    }
    const corner = looker([step])
    const r = 0.5
    for (const [a, b] of places.slice(0, 60)) {
      const z = 4 * b! - 2
      expect(Math.abs(corner([-1e-6, 3, z], [0, -1, 0], 'occlusion', r, 'concave').value - 0.5)).toBeLessThan(0.01)
      const s = 1.1 * a!
      const exact = meanOver(x => (x > 0 && s < x ? 1 : 0), true)
      const { value } = corner([-s * r, 3, z], [0, -1, 0], 'occlusion', r, 'concave')
      expect(Math.abs(value - exact)).toBeLessThan(0.03)
    }
  })

  it('thickness of a slab and of a ball, by the cosine, within 1 %', () => {
    const slab = looker([box('slab', [0, 0, 0], [10, 0.1, 10])])
    const R = 0.3
    const ball = looker([sphere('ball', R, 192, 384)])
    for (const [a, b] of places.slice(0, 60)) {
      for (const r of [0.3, 0.45, 0.5]) {
        // the mean of min(1, d / (r cos θ)) by the cosine, with q = d / r: q (2 − q)
        const q = 0.1 / r
        const { value } = slab([a! - 0.5, 3, b! - 0.5], [0, -1, 0], 'thickness', r)
        expect(Math.abs(value / (q * (2 - q)) - 1)).toBeLessThan(0.01)
      }
      // chords 2 R cos θ, by the cosine: 4 R / 3 where the radius has room for all
      const { value } = ball([a! * 0.1, b! * 0.1, 3], [0, 0, -1], 'thickness', 0.7)
      expect(Math.abs(value / ((4 * R) / 3 / 0.7) - 1)).toBeLessThan(0.01)
    }
  })

  it('grows along the surface as the closed form does', () => {
    const r = 0.2
    for (const [a, b] of places.slice(0, 80)) {
      const s = 0.1 + 0.8 * a!
      const { by } = cube([1 - s * r, b! - 0.5, 5], [0, 0, -1], 'curvature', r)
      // d/dx of ⅔ (1 − s)² (2 + s), with s = (1 − x) / r: 2 (1 − s²) / r
      expect(Math.abs(by[0]! * r - 2 * (1 - s * s))).toBeLessThan(0.35)
      expect(Math.abs(by[1]! * r)).toBeLessThan(0.35)
      expect(Math.abs(by[2]! * r)).toBeLessThan(1e-9)
    }
  })

  it('has no step: neither between triangles, nor as the radius or the point goes on', () => {
    const bumps = looker([box('plate', [0, -0.05, 0], [2, 0.1, 2]), sphere('ball', 0.15, 24, 48)])
    const along = (of: (x: number) => number): number => {
      let most = 0
      for (let i = 0, before = of(0); i < 800; i++) {
        const now = of((i + 1) / 800)
        most = Math.max(most, Math.abs(now - before))
        before = now
      }
      return most
    }
    const over = (x: number, r: number) =>
      bumps([-0.6 + 0.4 * x, 3, 0.2 - 0.35 * x], [0, -1, 0], 'occlusion', r, 'concave').value
    // 0.53 m in 800 steps: 0.0033 of a radius of 0.2 each
    expect(along(x => over(x, 0.2))).toBeLessThan(0.02)
    // a radius that goes through two tiers
    expect(along(x => over(0.5, 0.03 * 10 ** (1.5 * x)))).toBeLessThan(0.02)
  })

  it('is the same whatever was asked before, by whom, and with a table that has no room', () => {
    const geometry = createGeometry({ parts: [sphere('ball', 1, 12, 24)] })
    const S = new Float64Array(POINT_STRIDE)
    const ray = createRayBatch(1)
    const values = (order: readonly number[], records: number) => {
      const table = createFieldTable(records)
      const out: number[] = []
      for (const i of order) {
        const [a, b] = places[i]!
        ray.origin.set([a! - 0.5, b! - 0.5, 3])
        ray.direction.set([0, 0, -1])
        ray.distance[0] = Infinity
        castClosest(geometry.hierarchy, ray, 1)
        fillPoint(geometry, ray, 0, ray.direction, 0, S)
        fieldAtPoint(geometry, S, 0, useOf({ field: 'curvature', side: 'both' }), 0.3, table, true)
        out[i] = S[POINT.field]!
      }
      return out
    }
    const order = places.map((_, i) => i)
    const first = values(order, 2 ** 14)
    expect(values(order.slice().reverse(), 2 ** 14)).toEqual(first)
    expect(values(order, 8)).toEqual(first)
    expect(new Set(first).size).toBeGreaterThan(100)
  })

  it('gives nothing where nothing is kept and nothing may be computed', () => {
    const geometry = createGeometry({ parts: [sphere('ball', 1, 12, 24)] })
    const S = new Float64Array(POINT_STRIDE)
    const ray = createRayBatch(1)
    ray.origin.set([0.1, 0.2, 3])
    ray.direction.set([0, 0, -1])
    ray.distance[0] = Infinity
    castClosest(geometry.hierarchy, ray, 1)
    fillPoint(geometry, ray, 0, ray.direction, 0, S)
    const use = useOf({ field: 'curvature', side: 'convex' })
    const table = createFieldTable(2 ** 10)
    expect(fieldAtPoint(geometry, S, 0, use, 0.3, table, false)).toBe(false)
    expect(fieldAtPoint(geometry, S, 0, use, 0.3, table, true)).toBe(true)
    expect(fieldAtPoint(geometry, S, 0, use, 0.3, table, false)).toBe(true)
  })
})

/** A cylinder about y without its ends. */
function tube(radius: number, height: number, turns: number): Part {
  const position = new Float32Array(turns * 6)
  const index = new Uint32Array(turns * 6)
  for (let i = 0; i < turns; i++) {
    const a = (2 * Math.PI * i) / turns
    position.set([radius * Math.cos(a), -height / 2, radius * Math.sin(a)], i * 6)
    position.set([radius * Math.cos(a), height / 2, radius * Math.sin(a)], i * 6 + 3)
    const [p, q] = [2 * i, 2 * ((i + 1) % turns)]
    index.set([p, p + 1, q, q, p + 1, q + 1], i * 6)
  }
  return { name: 'tube', position, index, normal: smoothNormals(position, index), uv: new Float32Array(0) }
}
