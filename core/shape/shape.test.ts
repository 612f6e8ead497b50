import { describe, expect, it } from 'vitest'
import { createMap } from '../maps/create-map'
import { smoothNormals, type Model, type Part } from '../mesh/model'
import { quad } from '../mesh/quad'
import { sphere } from '../mesh/sphere'
import { volumeOf } from '../mesh/measures'
import { after, withoutCopy } from '../mesh/transform'
import { compileDisplacement } from '../network/compile-displacement'
import { closedParts } from '../scene/closed-parts'
import { createGeometry } from '../scene/geometry'
import { box } from '../testing/box'
import { mtlx } from '../testing/setup'
import { shapeModel } from './shape-model'
import { shapingKey, type Shaping } from './shaping'

const surface = '<open_pbr_surface name="s" type="surfaceshader"/>'
const material = `<surfacematerial name="m" type="material">
  <input name="surfaceshader" type="surfaceshader" nodename="s"/>
  <input name="displacementshader" type="displacementshader" nodename="d"/></surfacematerial>`
const displacement = (input: string, more = '') =>
  `<displacement name="d" type="displacementshader">${input}${more}</displacement>`
const document = (body: string) => mtlx(surface + body + material)
const by = (amount: number) => displacement(`<input name="displacement" type="float" value="${amount}"/>`)

function shapingOf(body: string, maps: Shaping['maps'] = []): Shaping {
  const program = compileDisplacement(document(body), 'm')!
  expect(program.faults.filter(f => f.severity === 'error')).toEqual([])
  // at the vertices that a part has
  return { program, maps, edge: Infinity }
}
const shaped = (part: Part, body: string, maps?: Shaping['maps']): Part =>
  shapeModel({ parts: [part] }, new Map([[0, shapingOf(body, maps)]])).parts[0]!

/** A plate of n × n squares, coordinates as x and −z in 0..1, facing up. */
function plate(n: number): Part {
  const at = Array.from(
    { length: (n + 1) ** 2 },
    (_, i) => [(i % (n + 1)) / n, Math.floor(i / (n + 1)) / n] as const,
  )
  const position = Float32Array.from(at.flatMap(([u, v]) => [u, 0, -v]))
  const index = Uint32Array.from(
    Array.from({ length: n * n }, (_, i) => (i % n) + (n + 1) * Math.floor(i / n)).flatMap(a => [
      a,
      a + 1,
      a + n + 2,
      a,
      a + n + 2,
      a + n + 1,
    ]),
  )
  return {
    name: 'plate',
    position,
    index,
    uv: Float32Array.from(at.flat()),
    normal: smoothNormals(position, index),
  }
}

describe('a displaced part', () => {
  it('a sphere of radius R moved by d is that of R + d: place, volume, normals', () => {
    const ball = sphere('ball', 0.5, 24, 48)
    const moved = shaped(ball, by(0.1))
    for (let v = 0; v < moved.position.length; v += 3)
      expect(Math.hypot(...moved.position.subarray(v, v + 3))).toBeCloseTo(0.6, 6)
    expect(volumeOf(moved) / volumeOf(ball)).toBeCloseTo((0.6 / 0.5) ** 3, 5)
    moved.normal.forEach((x, i) => expect(x).toBeCloseTo(ball.normal[i]!, 3))
  })

  it('the scale multiplies, a mix joins, a graph may stand between', () => {
    const height = (body: string) => shaped(plate(2), body).position[4]!
    const scale = '<input name="scale" type="float" value="0.25"/>'
    expect(height(displacement('<input name="displacement" type="float" value="0.4"/>', scale))).toBeCloseTo(
      0.1,
      7,
    )
    const a = by(0.1).replace('name="d"', 'name="a"')
    const b = by(0.3).replace('name="d"', 'name="b"')
    const mixed = `<mix name="d" type="displacementshader">
      <input name="fg" type="displacementshader" nodename="a"/>
      <input name="bg" type="displacementshader" nodename="b"/><input name="mix" type="float" value="0.25"/></mix>`
    expect(height(a + b + mixed)).toBeCloseTo(0.25, 7)
    const graph = `<nodegraph name="g">${a}<output name="o" type="displacementshader" nodename="a"/></nodegraph>`
    const outer = mtlx(surface + graph + material.replace('nodename="d"', 'nodegraph="g" output="o"'))
    const program = compileDisplacement(outer, 'm')!
    const out = shapeModel({ parts: [plate(1)] }, new Map([[0, { program, maps: [], edge: Infinity }]])).parts[0]!
    expect(out.position[1]).toBeCloseTo(0.1, 7)
  })

  it('a vector moves along tangent, bitangent and normal', () => {
    const vector = '<input name="displacement" type="vector3" value="0.1, 0.2, 0.3"/>'
    const flat = plate(3)
    const moved = shaped(flat, displacement(vector))
    // u grows along x, v along −z, and y is up
    for (let i = 0; i < flat.position.length; i += 3)
      [0.1, 0.3, -0.2].forEach((x, k) => expect(moved.position[i + k]! - flat.position[i + k]!).toBeCloseTo(x, 6))
  })

  it('the normals of a wave are those of its gradient', () => {
    const n = 64
    const k = 2 * Math.PI
    const wave = `<texcoord name="t" type="vector2"/>
      <extract name="x" type="float"><input name="in" type="vector2" nodename="t"/></extract>
      <multiply name="turned" type="float"><input name="in1" type="float" nodename="x"/>
        <input name="in2" type="float" value="${k}"/></multiply>
      <sin name="s1" type="float"><input name="in" type="float" nodename="turned"/></sin>`
    const moved = shaped(
      plate(n),
      wave +
        displacement(
          '<input name="displacement" type="float" nodename="s1"/>',
          '<input name="scale" type="float" value="0.05"/>',
        ),
    )
    for (let row = 1; row < n; row += 9)
      for (let column = 1; column < n; column++) {
        const v = row * (n + 1) + column
        const x = column / n
        expect(moved.position[v * 3 + 1]!).toBeCloseTo(0.05 * Math.sin(k * x), 6)
        const slope = 0.05 * k * Math.cos(k * x)
        expect(moved.normal[v * 3]! / moved.normal[v * 3 + 1]!).toBeCloseTo(-slope, 2)
        expect(moved.normal[v * 3 + 2]!).toBeCloseTo(0, 2)
      }
  })

  it('hard edges and seams of coordinates stay closed; a corner moves by the mean of its faces', () => {
    const cube = box('cube', [0, 0, 0], [2, 2, 2])
    const moved = shaped(cube, by(0.3))
    expect(closedParts(createGeometry({ parts: [moved] })).get('cube')).toBe(true)
    for (const x of moved.position) expect(Math.abs(x)).toBeCloseTo(1.1, 6)
    const ball = shaped(
      sphere('ball', 1, 12, 24),
      `<noise3d name="n" type="float"/>${displacement('<input name="displacement" type="float" nodename="n"/>')}`,
    )
    expect(closedParts(createGeometry({ parts: [ball] })).get('ball')).toBe(true)
  })

  it('normals that point against the winding bend with it', () => {
    const ball = sphere('ball', 1, 24, 48)
    const inwards = { ...ball, normal: ball.normal.map(x => -x) }
    const wave = `<noise3d name="n" type="float"/>${displacement(
      '<input name="displacement" type="float" nodename="n"/>',
      '<input name="scale" type="float" value="0.1"/>',
    )}`
    const out = shaped(ball, wave)
    const flipped = shaped(inwards, wave)
    flipped.position.forEach((x, i) => expect(x).toBeCloseTo(out.position[i]!, 6))
    flipped.normal.forEach((x, i) => expect(x).toBeCloseTo(-out.normal[i]!, 5))
  })

  it('a picture finer than the mesh moves it by its mean', () => {
    const n = 512
    const data = Float32Array.from({ length: n * n * 4 }, (_, i) => {
      const p = Math.floor(i / 4)
      return i % 4 === 3 ? 1 : (p + Math.floor(p / n)) % 2
    })
    const map = createMap({ width: n, height: n, data }, 'raw')
    const image = `<image name="i" type="float"><input name="file" type="filename" value="x.png"/></image>`
    const body = image + displacement('<input name="displacement" type="float" nodename="i"/>')
    const moved = shaped(plate(8), body, [map])
    for (let v = 1; v < moved.position.length; v += 3) expect(moved.position[v]).toBeCloseTo(0.5, 2)
  })

  it('what is not a number moves nothing', () => {
    const bad = `<divide name="q" type="float"><input name="in1" type="float" value="0"/>
      <input name="in2" type="float" value="0"/></divide>
      <ln name="l" type="float"><input name="in" type="float" value="-1"/></ln>
      <add name="n" type="float"><input name="in1" type="float" nodename="q"/>
      <input name="in2" type="float" nodename="l"/></add>`
    const moved = shaped(plate(2), bad + displacement('<input name="displacement" type="float" nodename="n"/>'))
    moved.position.forEach((x, i) => expect(x).toBeCloseTo(plate(2).position[i]!, 12))
  })
})

describe('copies', () => {
  const lift = Float64Array.of(1, 0, 0, 0, 0, 1, 0, 5, 0, 0, 1, 0)
  const turn = Float64Array.of(0, 0, 1, 3, 0, 2, 0, 0, -1, 0, 0, 0)
  const model: Model = {
    parts: [
      box('first', [0, 0, 0], [1, 2, 3]),
      { ...quad('second', [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0]), copy: { of: 0, transform: lift } },
      { ...quad('third', [0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0]), copy: { of: 0, transform: turn } },
    ].map(p =>
      p.copy
        ? {
            ...p,
            position: new Float32Array(),
            normal: new Float32Array(),
            uv: new Float32Array(),
            index: new Uint32Array(),
          }
        : p,
    ),
  }
  const places = (m: Model, i: number) => [...withoutCopy(m, m.parts[i]!).position]
  const shaping = shapingOf(by(0.3))

  it('one that is shaped has triangles of its own, the others stay', () => {
    const out = shapeModel(model, new Map([[1, shaping]]))
    expect(out.parts[1]!.copy).toBe(undefined)
    expect(out.parts[2]!.copy!.of).toBe(0)
    expect(places(out, 2)).toEqual(places(model, 2))
    const before = places(model, 1)
    places(out, 1).forEach((x, i) => expect(Math.abs(x - before[i]!)).toBeCloseTo(0.1, 5))
  })

  it('where the mesh itself is shaped, the next copy carries it for the others', () => {
    const out = shapeModel(model, new Map([[0, shaping]]))
    expect(out.parts[1]!.copy).toBe(undefined)
    expect(out.parts[2]!.copy).toMatchObject({ of: 1 })
    for (const i of [1, 2]) {
      const before = places(model, i)
      places(out, i).forEach((x, k) => expect(x).toBeCloseTo(before[k]!, 5))
    }
    expect(after(out.parts[2]!.copy!.transform, lift)).toEqual(turn)
  })
})

describe('a key', () => {
  it('changes with all that shapes a part, and with nothing else', () => {
    const key = (body: string, maps: Shaping['maps'] = []) => shapingKey(shapingOf(body, maps))
    const map = createMap({ width: 1, height: 1, data: Float32Array.of(1, 1, 1, 1) }, 'raw', { id: 'a' })
    expect(key(by(0.1))).toBe(key(by(0.1) + '<noise3d name="elsewhere" type="float"/>'))
    expect(key(by(0.1))).not.toBe(key(by(0.2)))
    const image = `<image name="i" type="float"><input name="file" type="filename" value="x.png"/></image>`
    const body = image + displacement('<input name="displacement" type="float" nodename="i"/>')
    expect(key(body, [null])).not.toBe(key(body, [map]))
    expect(key(body, [map])).not.toBe(key(body, [{ ...map, version: 1 }]))
  })

  it('what curvature drives is said to move nothing', () => {
    const input = '<input name="displacement" type="float" nodename="c"/>'
    const body = `<wl_curvature name="c" type="float"/>${displacement(input)}`
    const { faults } = compileDisplacement(document(body), 'm')!
    expect(faults.map(f => [f.where, f.severity])).toEqual([['d', 'warning']])
  })
})
