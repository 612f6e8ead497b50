import { describe, expect, it } from 'vitest'
import { readGlb } from '../formats/models/glb'
import { writeGlb } from '../formats/models/glb-write'
import { extentOf, scaleModel } from '../mesh/extent'
import { readPly } from '../formats/models/ply'
import { writePly } from '../formats/models/ply-write'
import { createEmitters, leafAt } from '../light/emitters'
import { placesOfParts } from '../light/places'
import { uniqueName, type Model, type Part } from '../mesh/model'
import { quad } from '../mesh/quad'
import { sphere } from '../mesh/sphere'
import { withoutCopy } from '../mesh/transform'
import { POINT, POINT_STRIDE } from '../point/slots'
import { fillPoint } from './fill-point'
import { materialOf, mtlx, pbr } from '../testing/setup'
import { castAny, castClosest, castPlain, createRayBatch } from '../trace/cast'
import { castByKernel } from '../trace/kernel'
import { closedParts } from './closed-parts'
import { createGeometry } from './geometry'
import { packGeometry, unpackGeometry } from './geometry-pack'
import { partAt } from './part-places'

let state = 3
const random = () => (state = (state * 48271) % 2147483647) / 2147483647
const turned = (a: number, scale: readonly number[], shift: readonly number[], shear = 0): Float64Array => {
  const c = Math.cos(a)
  const s = Math.sin(a)
  return Float64Array.of(
    c * scale[0]!,
    -s * scale[1]!,
    shear,
    shift[0]!,
    s * scale[0]!,
    c * scale[1]!,
    0,
    shift[1]!,
    0,
    0,
    scale[2]!,
    shift[2]!,
  )
}
const copy = (name: string, transform: Float64Array, of = 1): Part => ({
  name,
  position: new Float32Array(0),
  normal: new Float32Array(0),
  uv: new Float32Array(0),
  index: new Uint32Array(0),
  copy: { of, transform },
})
const ball = () => sphere('ball', 0.5, 24, 40, [0.2, 0, 0])
/**
 * A plate, a ball, and copies of it: turned, stretched, sheared, a thousandth as large and a hundred times;
 * flattened, the same as triangles of their own.
 */
const model = (): Model => ({
  parts: [
    quad('plate', [-3, -1, 3, 3, -1, 3, 3, -1, -3, -3, -1, -3]),
    ball(),
    copy('turned', turned(0.7, [1, 1, 1], [1.5, 0.2, 0.3])),
    copy('stretched', turned(-0.4, [0.5, 1.3, 0.8], [-1.4, 0.3, 0.6])),
    copy('sheared', turned(2, [0.6, 0.6, 0.6], [0.1, 1.4, -0.5], 0.4)),
    copy('tiny', turned(1, [0.001, 0.001, 0.001], [0, 0, 1.2])),
    copy('huge', turned(0.2, [100, 100, 100], [0, 0, -150])),
  ],
})
const flat = (m: Model): Model => ({ parts: m.parts.map(p => withoutCopy(m, p)) })

const RAYS = 256
const batch = createRayBatch(RAYS)
const other = createRayBatch(RAYS)
const S = new Float64Array(POINT_STRIDE)
const F = new Float64Array(POINT_STRIDE)
function aim(round: number): void {
  for (let i = 0; i < RAYS; i++) {
    const target = round % 3 === 2 ? [0, 0, 1.2] : [0, 0, 0]
    const spread = round % 3 === 2 ? 0.002 : 4
    let l = 0
    for (let k = 0; k < 3; k++) {
      const o = (random() - 0.5) * (round % 2 ? 6 : 60)
      const d = target[k]! + (random() - 0.5) * spread - o
      batch.origin[i * 3 + k] = o
      batch.direction[i * 3 + k] = d
      l += d * d
    }
    for (let k = 0; k < 3; k++) batch.direction[i * 3 + k]! /= Math.sqrt(l)
    batch.distance[i] = Infinity
  }
  other.origin.set(batch.origin)
  other.direction.set(batch.direction)
  other.distance.fill(Infinity)
}

describe('copies of a mesh', () => {
  const m = model()
  const copies = createGeometry(m)
  const own = createGeometry(flat(m))
  it.each([
    [
      'kernel',
      (rays: typeof batch, any: boolean) => {
        expect(castByKernel(copies.hierarchy, rays, RAYS, any)).toBe(true)
      },
    ],
    [
      'plain code',
      (rays: typeof batch, any: boolean) => {
        castPlain(copies.hierarchy, rays, RAYS, any)
      },
    ],
  ])('are hit by the %s where triangles of their own are', (_, cast) => {
    const met = new Set<string>()
    for (let round = 0; round < 24; round++) {
      aim(round)
      cast(batch, false)
      castClosest(own.hierarchy, other, RAYS)
      for (let i = 0; i < RAYS; i++) {
        // corners of the flattened copies are rounded to float32, so that a ray may pass a silhouette here and not
        // there
        if (
          batch.triangle[i]! < 0 !== other.triangle[i]! < 0 ||
          Math.abs(batch.distance[i]! - other.distance[i]!) > 1e-4
        ) {
          met.add(`edge ${round} ${i}`)
          continue
        }
        if (batch.triangle[i]! < 0) continue
        expect(Math.abs(batch.distance[i]! - other.distance[i]!)).toBeLessThan(1e-5 * (1 + other.distance[i]!))
        fillPoint(copies, batch, i, batch.direction, i * 3, S)
        fillPoint(own, other, i, other.direction, i * 3, F)
        expect(S[POINT.part]).toBe(F[POINT.part])
        expect(partAt(copies, batch.triangle[i]!)).toBe(F[POINT.part])
        met.add(m.parts[S[POINT.part]!]!.name)
        // only where the same triangle was met: its neighbour has other coordinates
        if (Math.abs(S[POINT.uv]! - F[POINT.uv]!) < 1e-3 && S[POINT.part] !== 5)
          for (let k = 0; k < 15; k++)
            // tangents are made in the mesh's own space, where angles of a stretched copy are others
            expect(Math.abs(S[k]! - F[k]!)).toBeLessThan(
              k < 3 ? 2e-5 * (1 + Math.abs(F[k]!)) : k < POINT.tangent ? 3e-2 : 6e-2,
            )
      }
      const hits = batch.triangle.map(t => Math.sign(t))
      batch.distance.fill(Infinity)
      cast(batch, true)
      expect(
        batch.triangle
          .map(t => Math.sign(t))
          .map((x, i) => (x < 0 === hits[i]! < 0 ? 0 : 1))
          .reduce((a, b) => a + b, 0),
      ).toBe(0)
    }
    for (const p of m.parts) expect(met, p.name).toContain(p.name)
    expect([...met].filter(x => x.startsWith('edge')).length).toBeLessThan(6)
  })
  it('keep the shortest distance asked for, and what lies before them', () => {
    for (let i = 0; i < 2; i++) {
      batch.origin.set([1.5, 0.2, 5], i * 3)
      batch.direction.set([0, 0, -1], i * 3)
      batch.distance[i] = i ? Infinity : 4
    }
    castClosest(copies.hierarchy, batch, 2)
    expect(batch.triangle[0]).toBe(-1)
    expect(batch.distance[1]).toBeGreaterThan(4)
  })
  it('take the memory of one mesh, however many there are', () => {
    const many: Model = {
      parts: [
        quad('plate', [-3, -1, 3, 3, -1, 3, 3, -1, -3, -3, -1, -3]),
        ball(),
        ...Array.from({ length: 2000 }, (_, i) =>
          copy(`copy ${i}`, turned(i, [0.1, 0.1, 0.1], [random() * 6, random() * 6, random() * 6])),
        ),
      ],
    }
    const g = createGeometry(many)
    const one = createGeometry({ parts: many.parts.slice(0, 2) })
    const bytes = (h: typeof g.hierarchy) => h.nodes.byteLength + h.packets.byteLength + h.order.byteLength
    expect(bytes(g.hierarchy) - bytes(one.hierarchy)).toBeLessThan(2001 * 100)
    expect(g.hierarchy.instances!.places).toBeGreaterThan((2000 * ball().index.length) / 3)
    expect(g.normal.length).toBe(one.normal.length)
    // every copy is found by a ray at its middle
    for (let i = 2; i < 2002; i += 97) {
      const b = g.partBounds.subarray(i * 6, i * 6 + 6)
      batch.origin.set([0, 1, 2].map(k => (b[k]! + b[k + 3]!) / 2))
      batch.direction.set([1, 0, 0])
      batch.distance[0] = Infinity
      castAny(g.hierarchy, batch, 1)
      expect(batch.triangle[0]).toBeGreaterThanOrEqual(0)
    }
  })
  it('are found where nothing else is there, and where their mesh itself is hidden', () => {
    const g = createGeometry(m, new Set(['plate', 'ball', 'stretched', 'sheared', 'tiny', 'huge']))
    expect(g.hierarchy.instances!.count).toBe(1)
    for (const [x, part] of [
      [1.5 + 0.2 * Math.cos(0.7), 2],
      [0.2, -1],
    ] as const) {
      batch.origin.set([x, x > 1 ? 0.2 + 0.2 * Math.sin(0.7) : 0, 5])
      batch.direction.set([0, 0, -1])
      batch.distance[0] = Infinity
      castClosest(g.hierarchy, batch, 1)
      expect(batch.triangle[0]! < 0 ? -1 : partAt(g, batch.triangle[0]!)).toBe(part)
    }
  })
  it('are packed, close where their mesh does, and stand for themselves among lights', () => {
    const back = unpackGeometry(packGeometry(copies), n => new ArrayBuffer(n))!
    expect(back).toEqual(copies)
    expect(closedParts(copies)).toEqual(closedParts(own))
    placesOfParts(copies).forEach((places, part) => {
      for (const p of places) expect(partAt(copies, p)).toBe(part)
    })
    expect(placesOfParts(copies).map(p => p.length)).toEqual(placesOfParts(own).map(p => p.length))
  })
  it('shine as much as triangles of their own', () => {
    const materials = [
      materialOf(mtlx(pbr({ base_color: '0.5, 0.5, 0.5' })), 's'),
      materialOf(mtlx(pbr({ emission_luminance: 5, emission_color: '1, 0.5, 0.2' })), 's'),
    ]
    const wears = Int32Array.of(0, 0, 1, 1, 0, 1, 0)
    const a = createEmitters(copies, materials, wears)!
    const b = createEmitters(own, materials, wears)!
    expect(a.tree.nodes.length).toBe(b.tree.nodes.length)
    expect(a.tree.nodes[4]! / b.tree.nodes[4]!).toBeCloseTo(1, 5)
    placesOfParts(copies).forEach((places, part) => {
      for (const p of places) expect(leafAt(a, p, 0.3, 0.3) >= 0).toBe(wears[part] === 1)
    })
  })
})

describe('copies in files', () => {
  it('get names of their own, thousands of nodes with one name too', () => {
    const taken = new Set(['Bolt 3'])
    const names = Array.from({ length: 30_000 }, () => uniqueName('Bolt', taken))
    expect(names.slice(0, 3)).toEqual(['Bolt', 'Bolt 2', 'Bolt 4'])
    expect(names.at(-1)).toBe('Bolt 30001')
    expect(taken.size).toBe(30_001)
  })
  it('come back from a binary glTF as copies, sheared ones as triangles of their own', async () => {
    const m = model()
    const back = await readGlb(await writeGlb(m))
    expect(back.parts.map(p => p.name)).toEqual(m.parts.map(p => p.name))
    expect(back.parts.map(p => p.copy?.of)).toEqual([undefined, undefined, 1, 1, undefined, 1, 1])
    const a = flat(m)
    const b = flat(back)
    a.parts.forEach((p, i) => {
      p.position.forEach((x, k) =>
        expect(Math.abs(x - b.parts[i]!.position[k]!)).toBeLessThan(1e-6 * (1 + Math.abs(x))),
      )
      expect(b.parts[i]!.index).toEqual(p.index)
    })
    a.parts.forEach((p, i) => p.normal.forEach((x, k) => expect(x).toBeCloseTo(b.parts[i]!.normal[k]!, 5)))
  })
  it('are scaled, measured and written as triangles where a format knows no copies', () => {
    const m = model()
    const was = extentOf(m)
    const ply = readPly(writePly(m))
    expect(ply.index.length).toBe(flat(m).parts.reduce((n, p) => n + p.index.length, 0))
    scaleModel(m, 0.01)
    extentOf(m).forEach((x, k) => expect(x).toBeCloseTo(was[k]! * 0.01, 5))
    const one = withoutCopy(m, m.parts[2]!).position
    expect(Math.max(...one.filter((_, i) => i % 3 === 0))).toBeCloseTo(0.015 + 0.002 * Math.cos(0.7) + 0.005, 4)
  })
})
