import { describe, expect, it } from 'vitest'
import { sphere } from '../mesh/sphere'
import { buildHierarchy } from './build'
import { bytesPerTriangle } from './hierarchy'
import { compileKernel, RAYS } from '../../scripts/build-kernel.mjs'
import { castAny, castClosest, castPlain, createRayBatch } from './cast'
import { castByKernel, compiledKernel } from './kernel'
import { KERNEL, RELAXED } from './kernel-code'
import { takeSlot } from './memory'

let state = 1
const random = () => (state = (state * 48271) % 2147483647) / 2147483647

describe('hierarchy', () => {
  const position = Float32Array.from({ length: 3 * 3 * 400 }, random)
  const index = Uint32Array.from({ length: 1200 }, (_, i) => i)
  for (let t = 0; t < 400; t++)
    for (let v = 1; v < 3; v++)
      for (let k = 0; k < 3; k++) position[t * 9 + v * 3 + k] = position[t * 9 + k]! + (random() - 0.5) * 0.2
  const h = buildHierarchy(position, index)
  const batch = createRayBatch(64)

  /** Closest hit by solving each triangle's linear system (Cramer), without a hierarchy. */
  function brute(o: number[], d: number[]): number {
    let best = Infinity
    for (let t = 0; t < 400; t++) {
      const p = (v: number) => [0, 1, 2].map(k => position[t * 9 + v * 3 + k]!)
      const a = p(0)
      const e1 = p(1).map((x, k) => x - a[k]!)
      const e2 = p(2).map((x, k) => x - a[k]!)
      const s = o.map((x, k) => x - a[k]!)
      const det3 = (x: number[], y: number[], z: number[]) =>
        x[0]! * (y[1]! * z[2]! - y[2]! * z[1]!) -
        x[1]! * (y[0]! * z[2]! - y[2]! * z[0]!) +
        x[2]! * (y[0]! * z[1]! - y[1]! * z[0]!)
      const m = d.map(x => -x)
      const D = det3(m, e1, e2)
      const tt = det3(s, e1, e2) / D
      const u = det3(m, s, e2) / D
      const v = det3(m, e1, s) / D
      if (u >= 0 && v >= 0 && u + v <= 1 && tt > 0 && tt < best) best = tt
    }
    return best
  }
  it('finds what a search without it finds', () => {
    for (let round = 0; round < 8; round++) {
      for (let i = 0; i < 64; i++) {
        for (let k = 0; k < 3; k++) {
          batch.origin[i * 3 + k] = random() * 3 - 1
          batch.direction[i * 3 + k] = random() * 2 - 1
        }
        batch.distance[i] = Infinity
      }
      castClosest(h, batch, 64)
      const closest = batch.distance.slice()
      const hit = batch.triangle.slice()
      batch.distance.fill(Infinity)
      castAny(h, batch, 64)
      for (let i = 0; i < 64; i++) {
        const t = brute(
          Array.from(batch.origin.subarray(i * 3, i * 3 + 3)),
          Array.from(batch.direction.subarray(i * 3, i * 3 + 3)),
        )
        expect(hit[i]! >= 0).toBe(Number.isFinite(t))
        expect(batch.triangle[i]! >= 0).toBe(Number.isFinite(t))
        if (hit[i]! >= 0) expect(closest[i]).toBeCloseTo(t, 8)
      }
    }
  })
  it('finds the same by the kernel and by plain code, from near and from far', () => {
    const s = sphere('s', 0.5, 60, 80, [0.3, -0.2, 0.1])
    const ball = buildHierarchy(s.position, s.index)
    const plain = createRayBatch(64)
    let hits = 0
    for (let round = 0; round < 40; round++) {
      const size = round % 2 ? 1 : 1000
      for (let i = 0; i < 64; i++) {
        for (let k = 0; k < 3; k++) {
          const o = (random() - 0.5) * 2 * size
          batch.origin[i * 3 + k] = o
          batch.direction[i * 3 + k] = [0.3, -0.2, 0.1][k]! + (random() - 0.5) * 1.2 - o
        }
        batch.distance[i] = random() < 0.2 ? random() : Infinity
      }
      plain.origin.set(batch.origin)
      plain.direction.set(batch.direction)
      plain.distance.set(batch.distance)
      const any = batch.distance.slice()
      expect(castByKernel(ball, batch, 64, false)).toBe(true)
      castPlain(ball, plain, 64, false)
      for (let i = 0; i < 64; i++) {
        expect(batch.triangle[i]! >= 0).toBe(plain.triangle[i]! >= 0)
        if (batch.triangle[i]! < 0) continue
        hits++
        // float32 may take the neighbour at an edge
        expect(Math.abs(batch.distance[i]! / plain.distance[i]! - 1)).toBeLessThan(1e-7)
      }
      const found = batch.triangle.slice()
      batch.distance.set(any)
      castByKernel(ball, batch, 64, true)
      for (let i = 0; i < 64; i++) expect(batch.triangle[i]! >= 0).toBe(found[i]! >= 0)
    }
    expect(hits).toBeGreaterThan(800)
  })
  it(
    'finds the same by the kernel whatever number of rays a call has, and writes no ray that was not asked ' +
      'for',
    () => {
      const many = createRayBatch(600)
      const plain = createRayBatch(600)
      for (const count of [0, 1, 2, 3, 4, 5, 31, 32, 33, 256, 257, 599])
        for (const any of [false, true]) {
          for (let i = 0; i < 600; i++) {
            for (let k = 0; k < 3; k++) {
              many.origin[i * 3 + k] = random() * 3 - 1
              many.direction[i * 3 + k] = random() * 2 - 1
            }
            // some reach nothing, some everything
            many.distance[i] = [0, 0.2, 1, Infinity][i % 4]!
            many.triangle[i] = -7
          }
          for (const k of ['origin', 'direction', 'distance', 'triangle'] as const) plain[k].set(many[k])
          expect(castByKernel(h, many, count, any)).toBe(true)
          castPlain(h, plain, count, any)
          if (any) expect(many.triangle.map(t => Number(t >= 0))).toEqual(plain.triangle.map(t => Number(t >= 0)))
          else {
            expect(many.triangle).toEqual(plain.triangle)
            for (let i = 0; i < count; i++)
              if (many.triangle[i]! >= 0) expect(many.distance[i]).toBeCloseTo(plain.distance[i]!, 12)
          }
          expect(many.triangle.subarray(count).every(t => t === -7)).toBe(true)
        }
    },
  )
  it('lets no ray of the kernel slip between triangles that share an edge or a corner', () => {
    const s = sphere('s', 1, 12, 16)
    const ball = buildHierarchy(s.position, s.index)
    const corner = (v: number, k: number) => s.position[v * 3 + k]!
    const through: number[][] = []
    for (let t = 0; t < s.index.length; t += 3)
      for (let e = 0; e < 3; e++) {
        const a = s.index[t + e]!
        const b = s.index[t + ((e + 1) % 3)]!
        for (let j = 0; j <= 8; j++)
          through.push([0, 1, 2].map(k => corner(a, k) + ((corner(b, k) - corner(a, k)) * j) / 8))
      }
    for (let from = 0; from < through.length; from += 64) {
      const some = through.slice(from, from + 64)
      some.forEach((p, i) => {
        for (let k = 0; k < 3; k++) {
          batch.origin[i * 3 + k] = [0.1, 0.05, -0.07][k]!
          batch.direction[i * 3 + k] = p[k]! - batch.origin[i * 3 + k]!
        }
        batch.distance[i] = Infinity
      })
      castByKernel(ball, batch, some.length, false)
      for (let i = 0; i < some.length; i++) expect(batch.distance[i]).toBeCloseTo(1, 5)
    }
  })
  it('lies in one memory that threads share, and finds the same where no slot of it is left', () => {
    const s = sphere('s', 1, 8, 12)
    const ball = buildHierarchy(s.position, s.index)
    const aim = () => {
      batch.origin.set([0, 0, 0])
      batch.direction.set([0.3, 0.5, 0.2])
      batch.distance[0] = Infinity
    }
    expect([ball.nodes.buffer, ball.packets.buffer]).toEqual([ball.memory!.buffer, ball.memory!.buffer])
    expect(ball.memory!.buffer).toBeInstanceOf(SharedArrayBuffer)
    const slots = Array.from({ length: 64 }, () => takeSlot(ball.memory!)!)
    expect(new Set(slots.flatMap(x => [x.underway, ...x.batches])).size).toBe(64 * 5)
    expect(Math.max(...slots.map(x => x.batches.at(-1)! + 256 * 76))).toBeLessThanOrEqual(ball.nodes.byteOffset)
    expect(takeSlot(ball.memory!)).toBeUndefined()
    // a slot has the room that the kernel takes
    const { SPACE } = new WebAssembly.Instance(compiledKernel()!, { env: { memory: ball.memory! } }).exports
    for (const { underway, batches } of slots)
      expect(batches[0]! - underway).toBe((SPACE as WebAssembly.Global).value)
    aim()
    expect(castByKernel(ball, batch, 1, false)).toBe(false)
    castClosest(ball, batch, 1)
    const plain = batch.distance[0]!
    aim()
    castClosest(buildHierarchy(s.position, s.index), batch, 1)
    expect(plain).toBeCloseTo(batch.distance[0]!, 9)
  })
  it('carries the kernel that its source gives', () => {
    expect(compileKernel(RAYS)).toBe(KERNEL)
    expect(compileKernel(RAYS, true)).toBe(RELAXED)
  })
  it('takes at most 65 bytes a triangle', () => {
    const s = sphere('s', 1, 100, 200)
    expect(bytesPerTriangle(buildHierarchy(s.position, s.index))).toBeLessThan(65)
  })
  it('takes meshes without triangles, and heaps of equal ones', () => {
    batch.origin.fill(0)
    batch.direction.fill(1)
    batch.distance.fill(Infinity)
    castClosest(buildHierarchy(new Float32Array(0), new Uint32Array(0)), batch, 1)
    expect(batch.triangle[0]).toBe(-1)
    const one = Float32Array.from([-1, -1, 1, 1, -1, 1, 0, 2, 1])
    const many = new Uint32Array(300).map((_, i) => i % 3)
    batch.direction.set([0, 0, 1])
    castClosest(buildHierarchy(one, many), batch, 1)
    expect(batch.distance[0]).toBeCloseTo(1, 12)
  })
})
