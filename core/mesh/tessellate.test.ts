import { describe, expect, it } from 'vitest'
import { box } from '../testing/box'
import { isClosed } from './closed'
import { mendJunctions } from './junctions'
import { areaOf, volumeOf } from './measures'
import type { Part } from './model'
import { sphere } from './sphere'
import { tessellate, trianglesFor } from './tessellate'

const flat = (position: number[], index: number[]): Part => ({
  name: 'flat',
  position: Float32Array.from(position),
  normal: Float32Array.from({ length: position.length }, (_, i) => (i % 3 === 2 ? 1 : 0)),
  uv: Float32Array.from(
    { length: (position.length / 3) * 2 },
    (_, i) => position[Math.floor(i / 2) * 3 + (i % 2)]!,
  ),
  index: Uint32Array.from(index),
})
const longest = ({ position, index }: Part) => {
  let most = 0
  for (let c = 0; c < index.length; c++) {
    const [a, b] = [index[c]! * 3, index[c % 3 === 2 ? c - 2 : c + 1]! * 3]
    most = Math.max(most, Math.hypot(...[0, 1, 2].map(k => position[a + k]! - position[b + k]!)))
  }
  return most
}
/** A 3 m wall of eight triangles about a window, in the plane z = 0. */
const wall = flat(
  [0, 0, 0, 3, 0, 0, 3, 3, 0, 0, 3, 0, 1, 1, 0, 2, 1, 0, 2, 2, 0, 1, 2, 0],
  [0, 1, 5, 0, 5, 4, 1, 2, 6, 1, 6, 5, 2, 3, 7, 2, 7, 6, 3, 0, 4, 3, 4, 7],
)

describe('tessellation', () => {
  it('a wall of eight triangles: all edges short, area, window and coordinates kept', () => {
    const out = tessellate(wall, 0.05)
    expect(longest(out)).toBeLessThanOrEqual(0.05 * 1.5)
    expect(areaOf(out)).toBeCloseTo(8, 5)
    for (let v = 0; v < out.position.length / 3; v++) {
      const [x, y] = [out.position[v * 3]!, out.position[v * 3 + 1]!]
      expect(x > 1 && x < 2 && y > 1 && y < 2).toBe(false)
      expect(out.uv[v * 2]).toBeCloseTo(x, 6)
      expect(out.uv[v * 2 + 1]).toBeCloseTo(y, 6)
      expect([...out.normal.subarray(v * 3, v * 3 + 3)]).toEqual([0, 0, 1])
    }
    // few triangles are splinters: height over longest edge
    const slim = Array.from({ length: out.index.length / 3 }, (_, t) => {
      const one = { position: out.position, index: out.index.subarray(t * 3, t * 3 + 3) }
      return (2 * areaOf(one)) / longest(one as Part) ** 2
    }).sort((a, b) => a - b)
    expect(slim[0]).toBeGreaterThan(0.02)
    expect(slim[Math.floor(slim.length / 10)]).toBeGreaterThan(0.2)
    expect(slim[slim.length >> 1]).toBeGreaterThan(0.5)
    const estimate = trianglesFor(wall, 0.05)
    expect(out.index.length / 3 / estimate).toBeGreaterThan(0.6)
    expect(out.index.length / 3 / estimate).toBeLessThan(1.6)
  })

  it.each([
    ['a cube with hard edges', box('cube', [0, 0, 0], [2, 1, 0.5])],
    ['a ball with a seam of coordinates', sphere('ball', 1, 8, 12)],
  ])('%s stays closed, its volume its own', (_, part) => {
    const out = tessellate(part, 0.11)
    expect(isClosed(out)).toBe(true)
    expect(longest(out)).toBeLessThanOrEqual(0.11 * 1.5)
    expect(volumeOf(out)).toBeCloseTo(volumeOf(part), 5)
  })

  it('directions go the short way, unit; a part that is fine enough stays itself', () => {
    const out = tessellate(sphere('ball', 1, 12, 24), 0.05)
    for (let v = 0; v < out.normal.length; v += 3) {
      const [n, p] = [out.normal.subarray(v, v + 3), out.position.subarray(v, v + 3)]
      expect(Math.hypot(...n)).toBeCloseTo(1, 5)
      const l = Math.hypot(...p)
      expect(n.reduce((d, x, k) => d + (x * p[k]!) / l, 0)).toBeGreaterThan(0.9999)
    }
    expect(tessellate(out, 1)).toBe(out)
  })
})

describe('junctions', () => {
  it('a vertex on the edge of another triangle cuts it: the sheet closes up', () => {
    // one long edge above, three short ones below; what borders is what borders of a whole square
    const part = flat(
      [0, 0, 0, 3, 0, 0, 3, 1, 0, 0, 1, 0, 0, 0, 0, 3, 0, 0, 1, 0, 0, 2, 0, 0, 1.5, -1, 0],
      [0, 1, 2, 0, 2, 3, 8, 6, 4, 8, 7, 6, 8, 5, 7],
    )
    const out = mendJunctions(part)
    expect(out.index.length / 3).toBe(part.index.length / 3 + 2)
    expect(areaOf(out)).toBeCloseTo(areaOf(part), 6)
    const at = (v: number) => [...out.position.subarray(v * 3, v * 3 + 3)].join()
    const borders = new Map<string, number>()
    for (let c = 0; c < out.index.length; c++) {
      const ends = [at(out.index[c]!), at(out.index[c % 3 === 2 ? c - 2 : c + 1]!)].sort().join(' ')
      borders.set(ends, (borders.get(ends) ?? 0) + 1)
    }
    const open = [...borders].filter(([, n]) => n === 1).map(([ends]) => ends)
    expect(open).toHaveLength(5)
    expect(open.some(ends => ends.split(' ').every(p => p.split(',')[1] === '0'))).toBe(false)
    expect([...out.uv].every((x, i) => x === out.position[Math.floor(i / 2) * 3 + (i % 2)])).toBe(true)
  })

  it('closed parts, and borders that meet at their ends, stay as they are', () => {
    expect(mendJunctions(wall)).toBe(wall)
    const cube = box('cube', [0, 0, 0], [1, 1, 1])
    expect(mendJunctions(cube)).toBe(cube)
  })
})
