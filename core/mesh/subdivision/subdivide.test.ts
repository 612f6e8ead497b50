/**
 * Against OpenSubdiv 3.5.0 (Debian's `libosd-dev`): `core/testing/subdivided.json` holds, for each vertex that its
 * `PrimvarRefinerReal<double>` gives, where it is, where it comes to rest, and the normal there. Borders keep edges
 * and corners.
 */
import { describe, expect, it } from 'vitest'
import reference from '../../testing/subdivided.json'
import { isClosed } from '../closed'
import type { Part } from '../model'
import { sphere } from '../sphere'
import { ALWAYS, cageOf, facesOf, type Cage } from './cage'
import { limitNormals } from './limit'
import { refine } from './refine'
import { subdividePart } from './subdivide'

const polygons = (position: number[], faces: number[][]): Part => ({
  name: 'cage',
  position: Float32Array.from(position),
  normal: new Float32Array(position.length),
  uv: new Float32Array(0),
  index: new Uint32Array(0),
  polygons: { sizes: Uint32Array.from(faces, f => f.length), corners: Uint32Array.from(faces.flat()) },
})
const cube = polygons(
  [0, 1, 2, 3, 4, 5, 6, 7].flatMap(i => [i & 1 ? 1 : -1, i & 2 ? 1 : -1, i & 4 ? 1 : -1]),
  [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ],
)
const plate = polygons(
  [0, 1, 2].flatMap(j => [0, 1, 2].flatMap(i => [i, 0.3 * i * j - 0.2 * i, j + 0.1 * i * i])),
  [0, 1].flatMap(j => [0, 1].map(i => [j * 3 + i, j * 3 + i + 3, j * 3 + i + 4, j * 3 + i + 1])),
)
const turn = (i: number) => (2 * Math.PI * i) / 5
const pyramid = polygons(
  [...[0, 1, 2, 3, 4].flatMap(i => [Math.cos(turn(i)), 0, Math.sin(turn(i))]), 0, 1.5, 0],
  [...[0, 1, 2, 3, 4].map(i => [5, (i + 1) % 5, i]), [0, 1, 2, 3, 4]],
)

/** A cage with sharp edges, between vertices, and a sharp vertex. */
function sharpened(part: Part, edges: [number, number, number][], corner?: number): Cage {
  const cage = cageOf(part)
  for (const [a, b, s] of edges)
    cage.place.forEach((p, c) => {
      const q = cage.place[cage.next[c]!]!
      if ((p === a && q === b) || (p === b && q === a)) cage.edgeSharpness[c] = s
    })
  if (corner !== undefined) cage.vertexSharpness[corner] = ALWAYS
  return cage
}
const top = (s: number): [number, number, number][] => [
  [4, 5, s],
  [5, 7, s],
  [7, 6, s],
  [6, 4, s],
]
const CAGES: Record<string, () => Cage> = {
  'cube': () => cageOf(cube),
  'cube, top sharp': () => sharpened(cube, top(10)),
  'cube, top half sharp': () => sharpened(cube, top(0.5)),
  'cube, top sharp for 1.5': () => sharpened(cube, top(1.5)),
  'cube, edges of several sharpnesses': () =>
    sharpened(cube, [
      [4, 5, 0.3],
      [5, 7, 1.2],
      [7, 3, 10],
    ]),
  'cube, a sharp corner': () => sharpened(cube, [], 7),
  'plate': () => cageOf(plate),
  'pyramid on five sides': () => cageOf(pyramid),
}

describe('subdivision', () => {
  it.each(reference.map(r => [`${r.name}, step ${r.level}`, r] as const))('%s', (_, r) => {
    let cage = CAGES[r.name]!()
    for (let level = 0; level < r.level; level++) cage = refine(cage)
    expect(cage.starts.length - 1).toBe(r.faces)
    expect(cage.position.length / 3).toBe(r.vertices.length)
    const normals = limitNormals(cage)
    const at = new Map<number, number[]>()
    cage.place.forEach((v, c) => at.set(v, [...(at.get(v) ?? []), c]))
    // its vertices come in an order of its own
    const left = new Set(r.vertices)
    for (let v = 0; v < r.vertices.length; v++) {
      const p = cage.position.subarray(v * 3, v * 3 + 3)
      const found = [...left].find(w => p.every((x, k) => Math.abs(x - w[k]!) < 1e-6))
      expect(found, `vertex ${v} at ${p.join(' ')}`).toBeDefined()
      left.delete(found!)
      // at a corner the reference takes the first two edges, whatever the others do
      if (r.name.endsWith('sharp corner') && p.every(x => x === 1)) {
        for (let k = 0; k < 3; k++) expect(normals[at.get(v)![0]! * 3 + k]).toBeCloseTo(Math.sqrt(1 / 3), 6)
        continue
      }
      // the reference gives one normal where a crease has two
      const misses = at.get(v)!.map(c => Math.hypot(...[0, 1, 2].map(k => normals[c * 3 + k]! - found![6 + k]!)))
      expect(Math.min(...misses), `normal of vertex ${v} at ${p.join(' ')}`).toBeLessThan(1e-5)
    }
  })

  it('the corner of a cube goes to 5/9 (Catmull & Clark 1978)', () => {
    const out = subdividePart(cube, { levels: 1 })
    const corners = Array.from({ length: out.position.length / 3 }, (_, v) => [
      ...out.position.subarray(v * 3, v * 3 + 3),
    ])
    const expected = corners.filter(p => p.every(x => Math.abs(Math.abs(x) - 5 / 9) < 1e-6))
    expect(expected).toHaveLength(8)
  })

  it('a closed cage stays closed, with seams of coordinates and sharp edges', () => {
    const boxed: Part = {
      ...cube,
      // six islands: vertices of their own for each face
      position: Float32Array.from(
        [...cube.polygons!.corners].flatMap(v => [...cube.position.subarray(v * 3, v * 3 + 3)]),
      ),
      normal: new Float32Array(72),
      uv: Float32Array.from({ length: 48 }, (_, i) => [0, 0, 1, 0, 1, 1, 0, 1][i % 8]! + 2 * Math.floor(i / 8)),
      polygons: { sizes: cube.polygons!.sizes, corners: Uint32Array.from({ length: 24 }, (_, i) => i) },
    }
    for (const crease of [undefined, 30]) {
      const out = subdividePart(boxed, { levels: 3, crease })
      expect(isClosed(out)).toBe(true)
      expect(out.index.length / 3).toBe(6 * 64 * 2)
      // each island keeps its square
      for (let v = 0; v < out.uv.length; v += 2) {
        const [a, b] = [out.uv[v]!, out.uv[v + 1]!]
        expect(Math.floor(a / 2)).toBe(Math.floor(b / 2))
        expect(a % 2).toBeLessThanOrEqual(1)
      }
      const most = out.position.reduce((m, x) => Math.max(m, Math.abs(x)), 0)
      if (crease) expect(most).toBe(1)
      else expect(most).toBeLessThan(0.9)
    }
    expect(isClosed(subdividePart(sphere('ball', 1, 6, 8), { levels: 2 }))).toBe(true)
  })

  it('triangles that were cut from flat quadrilaterals are these again, others are not', () => {
    const flat = {
      ...cube,
      polygons: undefined,
      index: Uint32Array.of(0, 2, 3, 0, 3, 1, 4, 5, 7, 4, 7, 6, 0, 1, 5),
    }
    expect([...facesOf(flat).sizes]).toEqual([4, 4, 3])
    expect([...facesOf(flat).corners]).toEqual([0, 2, 3, 1, 4, 5, 7, 6, 0, 1, 5])
    const bent = { ...flat, index: Uint32Array.of(0, 2, 3, 0, 3, 5) }
    expect([...facesOf(bent).sizes]).toEqual([3, 3])
  })

  it('edges that more than two faces share stay where they are', () => {
    const fin = polygons(
      [0, 0, 0, 0, 1, 0, 1, 0, 0, 1, 1, 0, -1, 0, 0, -1, 1, 0, 0, 0, 1, 0, 1, 1],
      [
        [0, 2, 3, 1],
        [4, 0, 1, 5],
        [0, 1, 7, 6],
      ],
    )
    const out = subdividePart(fin, { levels: 2 })
    const on = Array.from({ length: out.position.length / 3 }, (_, v) =>
      out.position.subarray(v * 3, v * 3 + 3),
    ).filter(p => p[0] === 0 && p[2] === 0)
    expect(new Set(on.map(p => p[1]))).toEqual(new Set([0, 0.25, 0.5, 0.75, 1]))
  })
})
