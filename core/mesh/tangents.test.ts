import { generateTangents } from 'mikktspace'
import { describe, expect, it } from 'vitest'
import { POINT, POINT_STRIDE } from '../point/slots'
import { fillPoint } from '../scene/fill-point'
import { createGeometry, TANGENT_LENGTH } from '../scene/geometry'
import { castClosest, createRayBatch } from '../trace/cast'
import type { Part } from './model'
import { smoothNormals } from './model'
import { sphere } from './sphere'
import { withTangents } from './tangents'

let state = 11
const random = (): number => (state = (state * 16807) % 2147483647) / 2147483647

/** A grid over u and v, at the place that a function gives. */
function grid(
  name: string,
  n: number,
  at: (u: number, v: number) => number[],
  uvAt: (u: number, v: number) => number[],
): Part {
  const position: number[] = []
  const uv: number[] = []
  const index: number[] = []
  for (let j = 0; j <= n; j++)
    for (let i = 0; i <= n; i++) {
      position.push(...at(i / n, j / n))
      uv.push(...uvAt(i / n, j / n))
      if (i === n || j === n) continue
      const a = j * (n + 1) + i
      index.push(a, a + 1, a + n + 2, a, a + n + 2, a + n + 1)
    }
  const p = Float32Array.from(position)
  return {
    name,
    position: p,
    uv: Float32Array.from(uv),
    index: Uint32Array.from(index),
    normal: smoothNormals(p, Uint32Array.from(index)),
  }
}

/** A disc of 32 segments, turned on a lathe: u once around, v outwards; bulging, so that its normals turn too. */
const disc = (): Part => {
  const rings = 4
  const segments = 32
  const part: { position: number[]; normal: number[]; uv: number[]; index: number[] } = {
    position: [],
    normal: [],
    uv: [],
    index: [],
  }
  for (let r = 0; r <= rings; r++)
    for (let s = 0; s <= segments; s++) {
      const a = (2 * Math.PI * s) / segments
      const radius = 0.2 + (0.8 * r) / rings
      part.position.push(radius * Math.cos(a), 0.3 - 0.3 * radius * radius, -radius * Math.sin(a))
      const l = Math.hypot(0.6 * radius, 1)
      part.normal.push((0.6 * radius * Math.cos(a)) / l, 1 / l, (-0.6 * radius * Math.sin(a)) / l)
      part.uv.push(s / segments, r / rings)
      if (r === rings || s === segments) continue
      const i = r * (segments + 1) + s
      part.index.push(i, i + segments + 1, i + segments + 2, i, i + segments + 2, i + 1)
    }
  return {
    name: 'disc',
    position: Float32Array.from(part.position),
    normal: Float32Array.from(part.normal),
    uv: Float32Array.from(part.uv),
    index: Uint32Array.from(part.index),
  }
}

const bumps = grid(
  'bumps',
  24,
  (u, v) => [u + random() * 0.01, 0.2 * Math.sin(9 * u) * Math.cos(7 * v), v + random() * 0.01],
  (u, v) => [u + 0.3 * v + random() * 0.002, v * v + random() * 0.002],
)
/** Coordinates that go back from the middle on, as those of symmetric models do. */
const mirrored = grid(
  'mirrored',
  16,
  (u, v) => [u, 0.1 * Math.sin(5 * u), v],
  (u, v) => [Math.abs(u - 0.5), v],
)
/** The same without shared vertices, as readers of some files give it. */
const loose: Part = {
  name: 'loose',
  position: Float32Array.from([...bumps.index].flatMap(v => [...bumps.position.subarray(v * 3, v * 3 + 3)])),
  normal: Float32Array.from([...bumps.index].flatMap(v => [...bumps.normal.subarray(v * 3, v * 3 + 3)])),
  uv: Float32Array.from([...bumps.index].flatMap(v => [...bumps.uv.subarray(v * 2, v * 2 + 2)])),
  index: Uint32Array.from(bumps.index, (_, i) => i),
}
/** Triangles whose coordinates are one point, among others. */
const pinched = grid(
  'pinched',
  12,
  (u, v) => [u, 0, v],
  (u, v) => (u < 0.3 ? [0.3, 0.5] : [u, v]),
)

/** Numbers of each corner of each triangle. */
const corners = (part: Part, values: Float32Array, width: number): Float32Array =>
  Float32Array.from([...part.index].flatMap(v => [...values.subarray(v * width, (v + 1) * width)]))

describe('tangents', () => {
  it.each([sphere('ball', 1, 12, 24), bumps, mirrored, loose, pinched, disc()].map(p => [p.name, p] as const))(
    'of %s are those of the reference to 1e-4',
    (_, part) => {
      // witness: the reference implementation, in its package
      const wanted = generateTangents(
        corners(part, part.position, 3),
        corners(part, part.normal, 3),
        corners(part, part.uv, 2),
      )
      const made = withTangents(part)
      const got = corners(made, made.tangent!, 4)
      expect(got.length).toBe(wanted.length)
      let compared = 0
      for (let i = 0; i < got.length; i += 4) {
        // the reference leaves (1, 0, 0) where there is none
        if (got[i + 3] === 0) {
          expect([...wanted.subarray(i, i + 3)]).toEqual([1, 0, 0])
          continue
        }
        compared++
        for (let k = 0; k < 4; k++) expect(got[i + k]).toBeCloseTo(wanted[i + k]!, 4)
      }
      expect(compared).toBeGreaterThan(got.length / 8)
      // what else a vertex has stays
      expect(corners(made, made.position, 3)).toEqual(corners(part, part.position, 3))
      expect(corners(made, made.uv, 2)).toEqual(corners(part, part.uv, 2))
    },
  )

  it('of vertices on a seam of mirrored coordinates are two', () => {
    const made = withTangents(mirrored)
    expect(made.position.length).toBe(mirrored.position.length + 17 * 3)
    expect(new Set([...made.tangent!].filter((_, i) => i % 4 === 3))).toEqual(new Set([1, -1]))
  })

  it('of a file stay, and a part without coordinates has none', () => {
    const own = { ...bumps, tangent: new Float32Array((bumps.position.length / 3) * 4).fill(0.5) }
    expect(withTangents(own)).toBe(own)
    const bare = { ...bumps, uv: new Float32Array(0) }
    expect(withTangents(bare)).toBe(bare)
  })

  it('of a vertex with two hundred thousand triangles are found too: work grows with the triangles alone', () => {
    const n = 200_000
    const position = new Float32Array((n + 2) * 3)
    const uv = new Float32Array((n + 2) * 2)
    const index = new Uint32Array(n * 3)
    for (let i = 0; i <= n; i++) {
      const a = (2 * Math.PI * i) / n
      position.set([Math.cos(a), Math.sin(a), 0], (i + 1) * 3)
      uv.set([3 * Math.cos(a), 3 * Math.sin(a)], (i + 1) * 2)
      if (i < n) index.set([0, i + 1, i + 2], i * 3)
    }
    const normal = Float32Array.from({ length: (n + 2) * 3 }, (_, i) => (i % 3 === 2 ? 1 : 0))
    const { tangent } = withTangents({ name: 'fan', position, normal, uv, index })
    // u grows along x
    for (const v of [0, 1, 777, n]) {
      expect(tangent![v * 4]).toBeCloseTo(1, 4)
      expect(tangent![v * 4 + 3]).toBe(1)
    }
  })

  it('are kept to 1e-4 in geometry', () => {
    const geometry = createGeometry({ parts: [bumps] })
    const made = withTangents(bumps)
    made.tangent!.forEach((x, i) => {
      if (i % 4 !== 3) expect(geometry.tangent[i]! / TANGENT_LENGTH).toBeCloseTo(x, 4)
    })
  })
})

describe('a turned disc', () => {
  const geometry = createGeometry({ parts: [disc()] })
  const rays = createRayBatch(1)
  const S = new Float64Array(POINT_STRIDE)
  /** Tangent seen from above at an angle. */
  function tangentAt(angle: number, radius: number): number[] {
    const direction = Float64Array.of(0, -1, 0)
    rays.origin.set([radius * Math.cos(angle), 3, -radius * Math.sin(angle)])
    rays.direction.set(direction)
    rays.distance[0] = Infinity
    castClosest(geometry.hierarchy, rays, 1)
    expect(rays.triangle[0]).toBeGreaterThanOrEqual(0)
    fillPoint(geometry, rays, 0, direction, 0, S)
    return [...S.subarray(POINT.tangent, POINT.tangent + 3)]
  }
  const between = (a: number[], b: number[]) =>
    Math.acos(
      Math.min(
        1,
        a.reduce((s, x, k) => s + x * b[k]!, 0),
      ),
    )

  it('has no wedges: tangents turn across the edges of its segments as they do within one', () => {
    const step = (2 * Math.PI) / 32
    const h = 1e-3
    for (let s = 1; s < 31; s++)
      for (const radius of [0.45, 0.71]) {
        const across = between(tangentAt(s * step - h, radius), tangentAt(s * step + h, radius))
        const within = between(tangentAt((s + 0.35) * step - h, radius), tangentAt((s + 0.35) * step + h, radius))
        expect(across).toBeLessThan(2 * within + 1e-4)
      }
  })

  it('has them along the circle', () => {
    for (let a = 0.2; a < 6; a += 0.37) {
      const t = tangentAt(a, 0.6)
      // closed form: the circle's own direction
      expect(between(t, [-Math.sin(a), 0, -Math.cos(a)])).toBeLessThan(0.01)
    }
  })
})
