import { describe, expect, it } from 'vitest'
import { sphere } from '../mesh/sphere'
import { buildByKernel } from './build-kernel'
import { buildPlain } from './build-plain'
import { castClosest, createRayBatch } from './cast'
import { GREATEST, LINKS, NO_TRIANGLE, NODE_WORDS, WIDTH, type Hierarchy } from './hierarchy'
import { refit } from './refit'

const plainArray = (bytes: number) => new ArrayBuffer(bytes)
let state = 7
const random = () => (state = (state * 48271) % 2147483647) / 2147483647

/** Distances of 512 rays through a box of the given size about the origin, −1 where nothing is hit. */
function distances(h: Hierarchy, size: number): Float64Array {
  const batch = createRayBatch(512)
  state = 99
  for (let i = 0; i < 512; i++) {
    for (let k = 0; k < 3; k++) {
      batch.origin[i * 3 + k] = (random() - 0.5) * 4 * size
      batch.direction[i * 3 + k] = (random() - 0.5) * size - batch.origin[i * 3 + k]!
    }
    batch.distance[i] = Infinity
  }
  castClosest(h, batch, 512)
  return batch.distance.map((t, i) => (batch.triangle[i]! < 0 ? -1 : t))
}

/** Every triangle once, every leaf within its box. */
function check(h: Hierarchy, position: Float32Array, index: Uint32Array): void {
  expect([...h.order].filter(t => t !== NO_TRIANGLE).sort((a, b) => a - b)).toEqual(
    Array.from({ length: index.length / 3 }, (_, i) => i),
  )
  for (let o = 0; h.root >= 0 && o < h.nodes.length; o += NODE_WORDS)
    for (let child = 0; child < WIDTH; child++) {
      const reference = h.links[o + LINKS + child]!
      if (h.nodes[o + child]! > h.nodes[o + GREATEST + child]! || reference >= 0) continue
      for (let place = (~reference >> 2) * 4; place < ((~reference >> 2) + (~reference & 3) + 1) * 4; place++) {
        if (h.order[place] === NO_TRIANGLE) continue
        for (let v = 0; v < 3; v++)
          for (let k = 0; k < 3; k++) {
            const x = position[index[h.order[place]! * 3 + v]! * 3 + k]!
            if (!(x >= h.nodes[o + k * WIDTH + child]! && x <= h.nodes[o + GREATEST + k * WIDTH + child]!))
              throw new Error(`triangle ${h.order[place]} lies outside its box`)
          }
      }
    }
}

describe('the builder of the kernel', () => {
  const ball = sphere('s', 0.7, 40, 60)
  it.each([
    ['a ball', ball.position, ball.index],
    ['one triangle', ball.position, ball.index.subarray(600, 603)],
    ['five', ball.position, ball.index.subarray(600, 615)],
  ])('finds with %s what the plain one finds', (_, position, index) => {
    const h = buildByKernel(position, index, plainArray)!
    const p = buildPlain(position, index)
    check(h, position, index)
    expect(distances(h, 0.7)).toEqual(distances(p, 0.7))
    h.bounds.forEach((x, k) => expect(x).toBe(p.bounds[k]))
  })
  it('takes heaps of equal triangles, flat ones, far apart ones and what is no number', () => {
    const equal = Float32Array.from({ length: 900 }, (_, i) => [0, 0, 0, 1, 0, 0, 0, 1, 0][i % 9]!)
    const flat = equal.map((x, i) => (i % 3 === 2 ? 0 : x + Math.floor(i / 9)))
    const far = flat.map((x, i) => (i % 3 === 0 ? x * 2 ** (Math.floor(i / 9) / 2) : x))
    const none = flat.slice()
    none[45] = NaN
    none[91] = Infinity
    const index = Uint32Array.from({ length: 300 }, (_, i) => i)
    for (const position of [equal, flat, far]) check(buildByKernel(position, index, plainArray)!, position, index)
    const h = buildByKernel(none, index, plainArray)!
    expect([...h.order].filter(t => t !== NO_TRIANGLE)).toHaveLength(100)
    castClosest(h, Object.assign(createRayBatch(1), { direction: Float64Array.of(0, 0, 1) }), 1)
  })
  it('has nothing to do without triangles', () =>
    expect(buildByKernel(new Float32Array(0), new Uint32Array(0), plainArray)).toBeUndefined())
})

describe('refitting', () => {
  it('finds what a new build finds', () => {
    const ball = sphere('s', 0.7, 40, 60)
    const moved = ball.position.map(
      (x, i) => x * (1 + 0.1 * Math.sin(i * 0.37)) + 0.05 * Math.cos(Math.floor(i / 3) * 0.11),
    )
    const h = buildByKernel(ball.position, ball.index, plainArray)!
    const again = buildByKernel(moved, ball.index, plainArray)!
    refit(h, moved, ball.index)
    check(h, moved, ball.index)
    const expected = distances(again, 0.7)
    distances(h, 0.7).forEach((t, i) => expect(t).toBeCloseTo(expected[i]!, 9))
    h.bounds.forEach((x, k) => expect(x).toBe(again.bounds[k]))
  })
})
