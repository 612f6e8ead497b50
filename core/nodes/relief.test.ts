import { describe, expect, it } from 'vitest'
import { compileNetwork } from '../network/compile'
import { instantiate } from '../network/instantiate'
import { POINT, POINT_STRIDE } from '../point/slots'
import { smoothNormals, type Part } from '../mesh/model'
import { sphere } from '../mesh/sphere'
import { fillPoint } from '../scene/fill-point'
import { createGeometry } from '../scene/geometry'
import { castClosest, createRayBatch } from '../trace/cast'
import { mtlx, valueAt } from '../testing/setup'
import { memory } from './memory'

const { result } = memory

const wire = (name: string, type: string, from: string) =>
  `<input name="${name}" type="${type}" nodename="${from}"/>`
const value = (name: string, v: number) => `<input name="${name}" type="float" value="${v}"/>`
/** Height sin(2π·3·u) + 0.5·v² over the part's coordinates, in a network of its own nodes. */
const WAVES = `<texcoord name="uv" type="vector2"/><separate2 name="s" type="multioutput">
  ${wire('in', 'vector2', 'uv')}</separate2>
  <multiply name="a" type="float"><input name="in1" type="float" nodename="s" output="outx"/>
  ${value('in2', 6 * Math.PI)}</multiply><sin name="b" type="float">${wire('in', 'float', 'a')}</sin>
  <power name="c" type="float"><input name="in1" type="float" nodename="s" output="outy"/>
  ${value('in2', 2)}</power><multiply name="d" type="float">${wire('in1', 'float', 'c')}${value('in2', 0.5)}</multiply>
  <add name="h" type="float">${wire('in1', 'float', 'b')}${wire('in2', 'float', 'd')}</add>`
const RELIEF = `<heighttonormal name="n" type="vector3">
  ${wire('in', 'float', 'h')}${value('scale', 2)}</heighttonormal>`
const BUMP = `<bump name="n" type="vector3">${wire('height', 'float', 'h')}${value('scale', 2)}</bump>`

/** (−s/16·∂h/∂u, −s/16·∂h/∂v, 1) made unit, from the derivatives of the closed form. */
function expected(u: number, v: number, scale = 2): number[] {
  const x = (-scale / 16) * 6 * Math.PI * Math.cos(6 * Math.PI * u)
  const y = (-scale / 16) * v
  const l = Math.hypot(x, y, 1)
  return [x / l, y / l, 1 / l]
}
function shader(body: string) {
  const p = compileNetwork(mtlx(body), 'n')
  expect(p.faults).toEqual([])
  return {
    run: instantiate(
      p,
      p.images.map(() => null),
    ),
    C: Float64Array.from(p.constants),
  }
}
/** A square of the given side in metres whose coordinates run from 0 to `tiles`. */
function square(side: number, tiles: number): Part {
  const position = Float32Array.from([0, 0, 0, side, 0, 0, side, side, 0, 0, side, 0])
  const index = Uint32Array.from([0, 1, 2, 0, 2, 3])
  return {
    name: 'p',
    position,
    index,
    normal: smoothNormals(position, index),
    uv: Float32Array.from([0, 0, tiles, 0, tiles, tiles, 0, tiles]),
  }
}
function pointOn(part: Part, origin: number[], direction: number[], footprint = 0): Float64Array {
  const g = createGeometry({ parts: [part] })
  const ray = createRayBatch(1)
  const S = new Float64Array(POINT_STRIDE)
  ray.origin.set(origin)
  ray.direction.set(direction)
  ray.distance[0] = Infinity
  castClosest(g.hierarchy, ray, 1)
  fillPoint(g, ray, 0, ray.direction, 0, S)
  S[POINT.footprint] = footprint
  return S
}

describe('relief by slopes', () => {
  it('heighttonormal is the closed form’s normal, as 0..1', () => {
    const { run, C } = shader(WAVES + RELIEF)
    for (const [u, v] of [
      [0.11, 0.3],
      [0.4, 0.9],
      [0.77, 0.05],
    ] as const)
      valueAt(run, C, result, u, v)
        .slice(0, 3)
        .forEach((x, k) => expect(x).toBeCloseTo(expected(u, v)[k]! * 0.5 + 0.5, 4))
  })
  it('bump turns that into the surface’s frame', () => {
    const { run, C } = shader(WAVES + BUMP)
    for (const [u, v] of [
      [0.11, 0.3],
      [0.4, 0.9],
    ] as const)
      valueAt(run, C, result, u, v)
        .slice(0, 3)
        .forEach((x, k) => expect(x).toBeCloseTo(expected(u, v)[k]!, 4))
  })
  it('is a matter of coordinates, not of the part’s size', () => {
    const { run, C } = shader(WAVES + BUMP)
    for (const side of [0.01, 3]) {
      const S = pointOn(square(side, 1), [0.4 * side, 0.9 * side, 1], [0, 0, -1])
      run.value(S, C, [])
      expected(0.4, 0.9).forEach((x, k) => expect(result[k]).toBeCloseTo(x, 3))
    }
  })
  it(
    'positions move with the coordinates: a height by position has the slope of the metres a coordinate ' +
      'covers',
    () => {
      const { run, C } = shader(
        `<position name="p" type="vector3"/><dotproduct name="h" type="float">
        ${wire('in1', 'vector3', 'p')}<input name="in2" type="vector3" value="40, 0, 0"/></dotproduct>${RELIEF}`,
      )
      // one coordinate covers 0.5 m / 4 = 0.125 m: slope 40 · 0.125 · 2/16
      const S = pointOn(square(0.5, 4), [0.2, 0.3, 1], [0, 0, -1])
      const x = (-40 * 0.125) / 8
      const l = Math.hypot(x, 1)
      run.value(S, C, [])
      expect(result[0]! * 2 - 1).toBeCloseTo(x / l, 6)
      expect(result[1]! * 2 - 1).toBeCloseTo(0, 6)
    },
  )
  it('other coordinates give slopes over those: twice as many, half the slope', () => {
    const { run, C } = shader(`${WAVES}<multiply name="t" type="vector2">
        ${wire('in1', 'vector2', 'uv')}<input name="in2" type="float" value="2"/></multiply>
      <heighttonormal name="n" type="vector3">
      ${wire('in', 'float', 'h')}${value('scale', 4)}${wire('texcoord', 'vector2', 't')}</heighttonormal>`)
    valueAt(run, C, result, 0.4, 0.9)
      .slice(0, 3)
      .forEach((x, k) => expect(x).toBeCloseTo(expected(0.4, 0.9)[k]! * 0.5 + 0.5, 4))
  })
  it('mirrored coordinates still give a normal on the outer side, and one that agrees with the frame', () => {
    const part = square(1, 1)
    part.uv = part.uv.map((x, i) => (i % 2 === 0 ? 1 - x : x))
    const S = pointOn(part, [0.6, 0.9, 1], [0, 0, -1])
    const { run, C } = shader(WAVES + BUMP)
    run.value(S, C, [])
    const e = expected(0.4, 0.9)
    // u grows towards −x here
    expect(
      [result[0], result[1], result[2]]
        .map((x, k) => x! - [-e[0]!, e[1]!, e[2]!][k]!)
        .every(d => Math.abs(d) < 1e-3),
    ).toBe(true)
  })
  it('where a part has no coordinates, a metre counts as one', () => {
    const part = { ...sphere('s', 0.2, 64, 32), uv: new Float32Array(0) }
    const S = pointOn(part, [0, 0, 1], [0, 0, -1])
    const { run, C } = shader(
      `<position name="p" type="vector3"/><dotproduct name="h" type="float">
        ${wire('in1', 'vector3', 'p')}<input name="in2" type="vector3" value="16, 0, 0"/></dotproduct>
        <bump name="n" type="vector3">${wire('height', 'float', 'h')}</bump>`,
    )
    run.value(S, C, [])
    const n = [S[3]! - 1, S[4]!, S[5]!]
    const l = Math.hypot(...n)
    // a height of 16·x leans the normal by its slope, 16/16, against x
    n.forEach((x, k) => expect(result[k]).toBeCloseTo(x / l, 1))
  })
  it('a height that does not change leaves the normal as it is; a surface takes a bumped normal', () => {
    const { run, C } = shader(`<constant name="h" type="float">${value('value', 3)}</constant>${BUMP}`)
    expect(valueAt(run, C, result, 0.3, 0.4).slice(0, 3)).toEqual([0, 0, 1])
    expect(
      compileNetwork(
        mtlx(
          `${WAVES}${BUMP}<open_pbr_surface name="s" type="surfaceshader">
            ${wire('geometry_normal', 'vector3', 'n')}</open_pbr_surface>`,
        ),
        's',
      ).faults,
    ).toEqual([])
  })
  it('a curvature inside a height asks for one probe, not for one at each of the three points', () => {
    const p = compileNetwork(
      mtlx(`<wl_curvature name="k" type="float"><input name="side" type="string" value="both"/>
        </wl_curvature>${WAVES}<multiply name="m" type="float">
        ${wire('in1', 'float', 'h')}${wire('in2', 'float', 'k')}</multiply>
      <bump name="n" type="vector3">${wire('height', 'float', 'm')}</bump>`),
      'n',
    )
    expect(p.fields).toEqual([{ field: 'curvature', side: 'both' }])
    expect(p.faults).toEqual([])
    const run = instantiate(p, [])
    const R = new Float64Array(6)
    run.requests(new Float64Array(POINT_STRIDE), Float64Array.from(p.constants), [], R)
    expect(R[0]).toBe(0.001)
  })
})

describe('vertex colours', () => {
  const program = compileNetwork(mtlx('<geomcolor name="n" type="color4"/>'), 'n')
  const run = instantiate(program, [])
  it('are interpolated over the triangle, white where a part has none', () => {
    const part = square(1, 1)
    part.colour = Float32Array.from([1, 0, 0, 1, 0, 1, 0, 1, 0, 0, 1, 0.5, 0, 0, 0, 1])
    run.value(pointOn(part, [0.6, 0.2, 1], [0, 0, -1]), new Float64Array(0), [])
    // corners (0,0), (1,0), (1,1) with weights 0.4, 0.4, 0.2
    expect([...result].slice(0, 4).map(x => +x.toFixed(6))).toEqual([0.4, 0.4, 0.2, 0.9])
    run.value(pointOn(square(1, 1), [0.6, 0.2, 1], [0, 0, -1]), new Float64Array(0), [])
    expect([...result].slice(0, 4)).toEqual([1, 1, 1, 1])
  })
  it('a second set is refused in words', () => {
    const p = compileNetwork(
      mtlx('<geomcolor name="n" type="color3"><input name="index" type="integer" value="1"/></geomcolor>'),
      'n',
    )
    expect(p.faults[0]?.message).toContain('one set of vertex colours')
  })
})
