import { describe, expect, it } from 'vitest'
import { readObj } from '../formats/models/obj'
import { writeObj } from '../formats/models/obj-write'
import { readPly } from '../formats/models/ply'
import { writePly } from '../formats/models/ply-write'
import { isClosed } from './closed'
import { creasedNormals } from './crease'
import { cutPolygon } from './cut-polygon'
import { sphere } from './sphere'

const OCTAHEDRON = `v 1 0 0\nv -1 0 0\nv 0 1 0\nv 0 -1 0\nv 0 0 1\nv 0 0 -1
f 1 3 5\nf 3 2 5\nf 2 4 5\nf 4 1 5\nf 3 1 6\nf 2 3 6\nf 4 2 6\nf 1 4 6\n`
const CUBE = `ply\nformat ascii 1.0\ncomment made by hand
element vertex 8\nproperty double x\nproperty double y\nproperty double z\nproperty uchar red\nproperty uchar green
property uchar blue\nelement face 6\nproperty uchar flags\nproperty list uchar int vertex_indices\nend_header
${[0, 1, 2, 3, 4, 5, 6, 7].map(i => `${i & 1 ? 1 : -1} ${i & 2 ? 1 : -1} ${i & 4 ? 1 : -1} 255 188 0`).join('\n')}
0 4 0 2 3 1\n0 4 4 5 7 6\n0 4 0 1 5 4\n0 4 2 6 7 3\n0 4 0 4 6 2\n0 4 1 3 7 5\n`
const utf8 = (s: string) => new TextEncoder().encode(s)
const unit = (x: number, y: number, z: number) => [x, y, z].map(a => a / Math.hypot(x, y, z))

describe('normals of files without any', () => {
  it('an octahedron is flat: eight faces, each with the normal of its plane', () => {
    const [part] = readObj(OCTAHEDRON).parts
    expect(part!.position.length / 3).toBe(24)
    for (let c = 0; c < 24; c++) {
      const t = c - (c % 3)
      const centre = [0, 1, 2].map(k =>
        [0, 1, 2].reduce((s, j) => s + part!.position[part!.index[t + j]! * 3 + k]!, 0),
      ) as [number, number, number]
      const v = part!.index[c]! * 3
      unit(...centre).forEach((x, k) => expect(part!.normal[v + k]).toBeCloseTo(x, 6))
    }
    expect(isClosed(part!)).toBe(true)
  })

  it('a sphere of 12 × 6 stays smooth: at its corners the normal is the way from the middle', () => {
    const { position, index } = sphere('ball', 2, 6, 12)
    const { index: out, normal } = creasedNormals(position, index)
    expect(out).toEqual(index)
    for (const v of out) {
      const cos = [0, 1, 2].reduce((d, k) => d + (normal[v * 3 + k]! * position[v * 3 + k]!) / 2, 0)
      expect(cos).toBeGreaterThan(Math.cos((4 * Math.PI) / 180))
    }
  })

  it('what meets at less than the angle is smooth, at more hard', () => {
    // a roof of two squares that meet at 30 degrees along the line x = 0
    const [c, s] = [Math.cos(Math.PI / 12), Math.sin(Math.PI / 12)]
    const roof = Float32Array.of(-c, -s, 0, 0, 0, 0, c, -s, 0, -c, -s, 1, 0, 0, 1, c, -s, 1)
    const index = Uint32Array.of(0, 3, 4, 0, 4, 1, 1, 4, 5, 1, 5, 2)
    expect(creasedNormals(roof, index, 31).source).toHaveLength(6)
    const hard = creasedNormals(roof, index, 29)
    expect(hard.source).toHaveLength(8)
    expect([...hard.normal.subarray(0, 3)]).toEqual([expect.closeTo(-s, 6), expect.closeTo(c, 6), 0])
    const smooth = creasedNormals(roof, index, 31).normal
    for (const [k, x] of [0, 1, 0].entries()) expect(smooth[3 + k]).toBeCloseTo(x, 6)
  })
})

describe('polygons', () => {
  it.each([
    ['an L', [0, 0, 2, 0, 2, 1, 1, 1, 1, 2, 0, 2], 3],
    ['an L that begins at its inner corner', [1, 1, 1, 2, 0, 2, 0, 0, 2, 0, 2, 1], 3],
    ['a comb', [0, 0, 5, 0, 5, 3, 4, 3, 4, 1, 3, 1, 3, 3, 2, 3, 2, 1, 1, 1, 1, 3, 0, 3], 11],
  ])('%s is cut to its own area, all triangles turning its way, in any plane', (_, flat, area) => {
    for (const place of [
      (x: number, y: number) => [x, y, 0],
      (x: number, y: number) => [0, x, y],
      (x: number, y: number) => [y, 0.3 * x, x],
    ]) {
      const points = Array.from({ length: flat.length / 2 }, (_, i) =>
        place(flat[i * 2]!, flat[i * 2 + 1]!),
      ).flat()
      const cut = cutPolygon(points)
      expect(cut).toHaveLength(3 * (flat.length / 2 - 2))
      let sum = 0
      for (let t = 0; t < cut.length; t += 3) {
        const [a, b, c] = cut.slice(t, t + 3).map(i => [flat[i * 2]!, flat[i * 2 + 1]!] as const)
        const twice = (b![0] - a![0]) * (c![1] - a![1]) - (b![1] - a![1]) * (c![0] - a![0])
        expect(twice).toBeGreaterThanOrEqual(0)
        sum += twice / 2
      }
      expect(sum).toBeCloseTo(area, 9)
    }
  })
})

describe('PLY', () => {
  it('text with polygons, doubles and colours is read; other properties are passed over', () => {
    const part = readPly(utf8(CUBE))
    expect([...part.polygons!.sizes]).toEqual([4, 4, 4, 4, 4, 4])
    expect(part.index).toHaveLength(36)
    expect(isClosed(part)).toBe(true)
    // hard edges: three vertices a corner
    expect(part.position.length / 3).toBe(24)
    expect(part.colour![0]).toBe(1)
    // sRGB 188 is a linear half (IEC 61966-2-1)
    expect(part.colour![1]).toBeCloseTo(0.5, 2)
  })

  it('big-endian is read like little-endian', () => {
    const ball = sphere('ball', 1, 4, 6)
    const little = writePly({ parts: [ball] })
    const head = new TextDecoder('latin1').decode(little).indexOf('end_header\n') + 11
    const big = little.slice()
    const swap = (at: number) => big.subarray(at, at + 4).reverse()
    const vertices = ball.position.length / 3
    for (let i = 0; i < vertices * 8; i++) swap(head + i * 4)
    for (let f = 0; f < ball.index.length / 3; f++)
      for (let k = 0; k < 3; k++) swap(head + vertices * 32 + f * 13 + 1 + k * 4)
    const text = new TextDecoder('latin1').decode(big.subarray(0, head)).replace('little', 'big')
    const file = Uint8Array.from([...new TextEncoder().encode(text), ...big.subarray(head)])
    const read = readPly(file)
    expect(read.position).toEqual(ball.position)
    expect(read.index).toEqual(ball.index)
    expect(read.uv).toEqual(ball.uv)
    expect(read.normal).toEqual(ball.normal)
  })

  it.each([
    ['a face of two corners', CUBE.replace('0 4 0 2 3 1', '0 2 0 2'), /2 corners.*face 0|face 0/],
    ['a vertex that is not there', CUBE.replace('0 4 0 2 3 1', '0 4 0 2 3 9'), /vertex 9 does not exist/],
    ['a word among numbers', CUBE.replace('0 4 0 2 3 1', '0 4 0 x 3 1'), /"x" is not a number/],
    ['a type of its own making', CUBE.replace('double x', 'constructor x'), /no type constructor/],
    ['no list of vertices', CUBE.replace('vertex_indices', 'corners'), /no list of vertices/],
    ['its end missing', CUBE.slice(0, -12), /ends before its last face/],
  ])('%s is refused', (_, text, says) => {
    expect(() => readPly(utf8(text))).toThrow(says)
  })
})

describe('OBJ', () => {
  it('is written as it is read', () => {
    const ball = sphere('a ball', 1, 4, 6)
    const [back] = readObj(writeObj({ parts: [ball] })).parts
    const corners = (p: typeof ball) =>
      Array.from(p.index, v =>
        [0, 1, 2].map(k => [p.position[v * 3 + k]!, p.normal[v * 3 + k]!, p.uv[v * 2 + (k % 2)]!]),
      )
    corners(back!)
      .flat(2)
      .forEach((x, i) => expect(x).toBeCloseTo(corners(ball).flat(2)[i]!, 6))
    expect(back!.name).toBe('a ball')
  })
})
