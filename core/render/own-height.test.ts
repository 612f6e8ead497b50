/** Normals of displaced surfaces against the gradients of closed forms, on triangles far too coarse to carry them. */
import { describe, expect, it } from 'vitest'
import { compileMaterial } from '../world/compile-material'
import { instantiateMaterial } from '../world/world'
import type { Part } from '../mesh/model'
import { sphere } from '../mesh/sphere'
import { POINT, POINT_STRIDE } from '../point/slots'
import { createGeometry, type Geometry } from '../scene/geometry'
import { fillPoint } from '../scene/fill-point'
import { shapeModel } from '../shape/shape-model'
import { mtlx } from '../testing/setup'
import { three } from '../testing/point-of'
import { castClosest, createRayBatch } from '../trace/cast'
import { bendToHeight } from './own-height'

const material = (height: string, more = '') => `<open_pbr_surface name="s" type="surfaceshader"/>${height}
  <displacement name="d" type="displacementshader">
    <input name="displacement" type="float" nodename="h"/>${more}</displacement>
  <surfacematerial name="m" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s"/>
  <input name="displacementshader" type="displacementshader" nodename="d"/></surfacematerial>`
const K = 40
/** sin(K x) in the part's own space, times an amount. */
const waves = (amount: number) =>
  material(
    `<position name="p" type="vector3"/>
     <extract name="x" type="float"><input name="in" type="vector3" nodename="p"/></extract>
     <multiply name="kx" type="float"><input name="in1" type="float" nodename="x"/>
       <input name="in2" type="float" value="${K}"/></multiply>
     <sin name="h" type="float"><input name="in" type="float" nodename="kx"/></sin>`,
    `<input name="scale" type="float" value="${amount}"/>`,
  )
/** A square of side 2 about the origin, facing up; coordinates as x and −z in 0..1. */
const plate = (uv = true): Part => ({
  name: 'plate',
  position: Float32Array.of(-1, 0, 1, 1, 0, 1, 1, 0, -1, -1, 0, -1),
  normal: Float32Array.of(0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0),
  uv: uv ? Float32Array.of(0, 0, 1, 0, 1, 1, 0, 1) : new Float32Array(0),
  index: Uint32Array.of(0, 1, 2, 0, 2, 3),
})

interface Shaped {
  geometry: Geometry
  displacement: NonNullable<ReturnType<typeof instantiateMaterial>['displacement']>
}
function shaped(part: Part, body: string, edge: number): Shaped {
  const program = compileMaterial(mtlx(body), 'm')
  expect(program.faults).toEqual([])
  const shaping = { program: program.displacement!, maps: [], edge }
  const geometry = createGeometry(shapeModel({ parts: [part] }, new Map([[0, shaping]])))
  return { geometry, displacement: instantiateMaterial(program, []).displacement! }
}
/** The point where a ray meets it, with the normal of the whole height. @param footprint metres */
function bent(
  { geometry, displacement }: Shaped,
  origin: number[],
  direction: number[],
  footprint = 1e-5,
): Float64Array {
  const rays = createRayBatch(1)
  rays.origin.set(origin)
  rays.direction.set(direction)
  rays.distance[0] = Infinity
  castClosest(geometry.hierarchy, rays, 1)
  expect(rays.triangle[0]).toBeGreaterThanOrEqual(0)
  const S = new Float64Array(POINT_STRIDE)
  fillPoint(geometry, rays, 0, Float64Array.from(direction), 0, S)
  S[POINT.footprint] = footprint
  bendToHeight(geometry, rays, 0, displacement, S)
  return S
}
const unit = (v: number[]) => v.map(x => x / Math.hypot(...v))

describe('the normal of a whole height', () => {
  it.each([
    ['with coordinates', true],
    ['without', false],
  ])('waves on a plate of triangles as long as they are: the gradient, %s', (_, uv) => {
    const amount = 0.01
    const it = shaped(plate(uv), waves(amount), 0.15)
    for (const x of [-0.83, -0.31, 0.07, 0.42, 0.771]) {
      const S = bent(it, [x, 5, 0.213], [0, -1, 0])
      const before = S[POINT.restPosition]!
      const expected = unit([-amount * K * Math.cos(K * before), 1, 0])
      three(S, POINT.normal).forEach((n, k) => expect(n).toBeCloseTo(expected[k]!, 3))
      // tangents lie across it, turned as before
      const [t, b] = [three(S, POINT.tangent), three(S, POINT.bitangent)]
      expect(t.reduce((d, y, k) => d + y * S[POINT.normal + k]!, 0)).toBeCloseTo(0, 6)
      if (uv) expect(b[2]).toBeLessThan(-0.9)
      expect(three(S, POINT.objectNormal)).toEqual(three(S, POINT.normal))
    }
  })

  it('fine triangles give what coarse ones do', () => {
    const [coarse, fine] = [0.3, 0.04].map(edge => shaped(plate(), waves(0.004), edge))
    for (const x of [-0.6, 0.11, 0.5]) {
      const a = bent(coarse!, [x, 5, 0.1], [0, -1, 0])
      const b = bent(fine!, [x, 5, 0.1], [0, -1, 0])
      three(a, POINT.normal).forEach((n, k) => expect(n).toBeCloseTo(b[POINT.normal + k]!, 3))
    }
  })

  it('what a point stands for is averaged: waves far below it leave the plate flat', () => {
    const it = shaped(plate(), waves(0.01), 0.15)
    // the difference over whole waves is nothing
    const S = bent(it, [0.1, 5, 0], [0, -1, 0], (2 * Math.PI) / K)
    expect(three(S, POINT.normal)[1]).toBeGreaterThan(0.999)
  })

  it('a ball moved evenly keeps its normals; one that swells with y has those of its own gradient', () => {
    const even = material(
      '<constant name="h" type="float"><input name="value" type="float" value="0.2"/></constant>',
    )
    const ball = sphere('ball', 1, 48, 96)
    const directions = [
      [0.3, 0.5, -1],
      [-0.7, -0.2, -1],
      [0.1, -0.8, -1],
    ]
    for (const d of directions) {
      const u = unit(d)
      const S = bent(
        shaped(ball, even, Infinity),
        u.map(x => -5 * x),
        u,
      )
      three(S, POINT.normal).forEach((n, k) => expect(n).toBeCloseTo(-u[k]!, 2))
    }
    // r(y) = 1 + a y on the unit sphere; the surface is |p| = 1 + a p_y / |p|
    const a = 0.4
    const swelling = shaped(
      ball,
      material(
        `<position name="p" type="vector3"/>
         <extract name="y" type="float"><input name="in" type="vector3" nodename="p"/>
         <input name="index" type="integer" value="1"/></extract>
         <multiply name="h" type="float"><input name="in1" type="float" nodename="y"/>
         <input name="in2" type="float" value="${a}"/></multiply>`,
      ),
      Infinity,
    )
    for (const d of directions) {
      const u = unit(d)
      const p = u.map(x => -x)
      const S = bent(
        swelling,
        p.map(x => 5 * x),
        u,
      )
      // gradient of |q| − a q_y/|q|, at a point of the direction p
      const r = 1 + a * p[1]!
      const gradient = p.map((x, k) => x - (a * ((k === 1 ? 1 : 0) - p[1]! * x)) / r)
      const expected = unit(gradient)
      three(S, POINT.normal).forEach((n, k) => expect(n).toBeCloseTo(expected[k]!, 2))
    }
  })

  it('a height that is no number leaves the normal of the triangles', () => {
    const bad = material(`<ln name="h" type="float"><input name="in" type="float" value="-1"/></ln>`)
    const S = bent(shaped(plate(), bad, 0.5), [0.1, 5, 0.1], [0, -1, 0])
    expect(three(S, POINT.normal)).toEqual([0, 1, 0])
  })
})
