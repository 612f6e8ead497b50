/** What was closed stays closed, whatever is displaced and how finely it is cut. */
import { describe, expect, it } from 'vitest'
import { isClosed } from '../mesh/closed'
import { joinedMesh, volumeOf } from '../mesh/measures'
import type { Model, Part } from '../mesh/model'
import { sphere } from '../mesh/sphere'
import { subdividePart } from '../mesh/subdivision/subdivide'
import { compileDisplacement } from '../network/compile-displacement'
import { box } from '../testing/box'
import { mtlx } from '../testing/setup'
import { shapeModel } from './shape-model'
import type { Shaping } from './shaping'

const material = (body: string, scale: number) =>
  compileDisplacement(
    mtlx(`<open_pbr_surface name="s" type="surfaceshader"/>${body}
    <displacement name="d" type="displacementshader"><input name="displacement" type="float" nodename="h"/>
    <input name="scale" type="float" value="${scale}"/></displacement>
    <surfacematerial name="m" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s"/>
    <input name="displacementshader" type="displacementshader" nodename="d"/></surfacematerial>`),
    'm',
  )!
/** Cells by the coordinates: what two sides of a seam ask for differs. */
const cells = material(
  `<texcoord name="t" type="vector2"/><multiply name="u" type="vector2"><input name="in1" type="vector2" nodename="t"/>
   <input name="in2" type="float" value="7"/></multiply>
   <cellnoise2d name="h" type="float"><input name="texcoord" type="vector2" nodename="u"/></cellnoise2d>`,
  0.05,
)
const even = material(
  '<constant name="h" type="float"><input name="value" type="float" value="1"/></constant>',
  0.1,
)
const shaped = (model: Model, ...programs: Shaping['program'][]): Model =>
  shapeModel(model, new Map(programs.map((program, i) => [i, { program, maps: [], edge: 0.09 }])))

/** A ring of square section, coordinates once round it and once about it. */
function torus(): Part {
  const [n, m] = [24, 8]
  const position: number[] = []
  const uv: number[] = []
  const index: number[] = []
  for (let i = 0; i <= n; i++)
    for (let j = 0; j <= m; j++) {
      const [a, b] = [i % n, j % m].map((x, k) => (2 * Math.PI * x) / [n, m][k]!) as [number, number]
      const r = 1 + 0.3 * Math.cos(b)
      position.push(r * Math.cos(a), 0.3 * Math.sin(b), -r * Math.sin(a))
      uv.push(i / n, j / m)
    }
  for (let i = 0; i < n; i++)
    for (let j = 0; j < m; j++) {
      const a = i * (m + 1) + j
      index.push(a, a + m + 1, a + 1, a + 1, a + m + 1, a + m + 2)
    }
  const p = Float32Array.from(position)
  return {
    name: 'torus',
    position: p,
    normal: Float32Array.from(p, (x, i) => (i % 3 === 1 ? x / 0.3 : 0)),
    uv: Float32Array.from(uv),
    index: Uint32Array.from(index),
  }
}
/** A ball as two parts, above and below its equator. */
function halves(): Part[] {
  const ball = sphere('ball', 1, 12, 24)
  const above = (t: number) => [0, 1, 2].every(k => ball.position[ball.index[t + k]! * 3 + 1]! > -1e-6)
  const triangles = [...ball.index.keys()].filter(c => c % 3 === 0)
  const of = (wanted: boolean) =>
    Uint32Array.from(triangles.filter(t => above(t) === wanted).flatMap(t => [...ball.index.subarray(t, t + 3)]))
  return [
    { ...ball, name: 'upper', index: of(true) },
    { ...ball, name: 'lower', index: of(false) },
  ]
}

describe('closed parts stay closed', () => {
  it.each([
    ['a cube with hard edges and six islands', () => box('cube', [0, 0, 0], [1, 1, 1])],
    ['a ball with a seam and poles', () => sphere('ball', 0.5, 12, 16)],
    ['a torus', torus],
    ['a cube that was subdivided', () => subdividePart(box('cube', [0, 0, 0], [1, 1, 1]), { levels: 2 })],
  ])('%s', (_, make) => {
    const part = make()
    expect(isClosed(part)).toBe(true)
    const out = shaped({ parts: [part] }, cells).parts[0]!
    expect(out.index.length).toBeGreaterThan(part.index.length)
    expect(isClosed(out)).toBe(true)
    expect(Math.abs(volumeOf(out))).toBeGreaterThan(Math.abs(volumeOf(part)))
  })

  it('two parts with two materials share their border', () => {
    const parts = halves()
    expect(isClosed(joinedMesh({ parts }))).toBe(true)
    const out = shapeModel(
      { parts },
      new Map([
        [0, { program: cells, maps: [], edge: 0.2 }],
        [1, { program: even, maps: [], edge: 0.11 }],
      ]),
    )
    expect(isClosed(joinedMesh(out))).toBe(true)
    // on the equator: the mean of a tenth and of what the cells ask for there
    const [upper, lower] = out.parts
    const ring = (p: Part) =>
      [...new Set(p.index)]
        .filter(v => Math.abs(p.rest!.position[v * 3 + 1]!) < 1e-7)
        .map(
          v =>
            Math.hypot(...p.position.subarray(v * 3, v * 3 + 3)) -
            Math.hypot(...p.rest!.position.subarray(v * 3, v * 3 + 3)),
        )
        .sort((a, b) => a - b)
    expect(ring(upper!).at(-1)).toBeCloseTo(ring(lower!).at(-1)!, 6)
    expect(ring(lower!)[0]!).toBeGreaterThan(0.049)
    expect(ring(lower!).at(-1)!).toBeLessThan(0.076)
  })

  it('a sphere of R moved by d has the volume of R + d, as far as its facets go', () => {
    const ball = sphere('ball', 0.5, 48, 96)
    const out = shapeModel({ parts: [ball] }, new Map([[0, { program: even, maps: [], edge: 0.01 }]])).parts[0]!
    // facets lie inside: by the same share before and after
    const facets = volumeOf(ball) / ((4 / 3) * Math.PI * 0.5 ** 3)
    expect(volumeOf(out) / ((4 / 3) * Math.PI * 0.6 ** 3)).toBeCloseTo(facets, 3)
  })

  it('a plate with a hole moves whole: its border stays one, its hole open', () => {
    const wall: Part = {
      name: 'wall',
      position: Float32Array.of(0, 0, 0, 3, 0, 0, 3, 3, 0, 0, 3, 0, 1, 1, 0, 2, 1, 0, 2, 2, 0, 1, 2, 0),
      normal: Float32Array.from({ length: 24 }, (_, i) => (i % 3 === 2 ? 1 : 0)),
      uv: Float32Array.of(0, 0, 1, 0, 1, 1, 0, 1, 0.3, 0.3, 0.6, 0.3, 0.6, 0.6, 0.3, 0.6),
      index: Uint32Array.of(0, 1, 5, 0, 5, 4, 1, 2, 6, 1, 6, 5, 2, 3, 7, 2, 7, 6, 3, 0, 4, 3, 4, 7),
    }
    const out = shaped({ parts: [wall] }, cells).parts[0]!
    for (let v = 0; v < out.position.length; v += 3) {
      const [x, y, z] = out.position.subarray(v, v + 3)
      expect(x! > 1.0001 && x! < 1.9999 && y! > 1.0001 && y! < 1.9999).toBe(false)
      expect(z).toBeGreaterThanOrEqual(0)
      expect(z).toBeLessThanOrEqual(0.0501)
    }
  })

  it('what is broken stays as it was: no area, no size, no triangles, edges of three faces, folded coordinates', () => {
    const cube = box('cube', [0, 0, 0], [1, 1, 1])
    const all: Part[] = [
      { ...cube, name: 'slivers', index: Uint32Array.of(...cube.index, 0, 0, 1, 2, 2, 2) },
      { ...cube, name: 'a point', position: new Float32Array(cube.position.length) },
      { ...cube, name: 'nothing', index: new Uint32Array(0) },
      { ...cube, name: 'a fin', index: Uint32Array.of(...cube.index, ...cube.index.subarray(0, 3)) },
      { ...cube, name: 'folded', uv: new Float32Array(cube.uv.length) },
      { ...cube, name: 'bare', uv: new Float32Array(0) },
    ]
    for (const part of all) {
      const out = shapeModel({ parts: [part] }, new Map([[0, { program: even, maps: [] }]])).parts[0]!
      expect(out.position.every(Number.isFinite), part.name).toBe(true)
      expect(out.normal.every(Number.isFinite), part.name).toBe(true)
      const most = out.position.reduce((m, x) => Math.max(m, Math.abs(x)), 0)
      expect(most, part.name).toBeLessThan(1.2)
    }
    const nan = material('<ln name="h" type="float"><input name="in" type="float" value="-1"/></ln>', 1)
    const still = shapeModel({ parts: [cube] }, new Map([[0, { program: nan, maps: [], edge: 0.5 }]])).parts[0]!
    expect(volumeOf(still)).toBeCloseTo(volumeOf(cube), 6)
  })
})
