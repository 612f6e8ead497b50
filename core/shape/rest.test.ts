import { describe, expect, it } from 'vitest'
import { memory } from '../expression/memory'
import type { Part } from '../mesh/model'
import { sphere } from '../mesh/sphere'
import { withTangents } from '../mesh/tangents'
import { compileDisplacement } from '../network/compile-displacement'
import { compileNetwork } from '../network/compile'
import { instantiate } from '../network/instantiate'
import { POINT } from '../point/slots'
import { createGeometry } from '../scene/geometry'
import { packGeometry, unpackGeometry } from '../scene/geometry-pack'
import { pointOf, three } from '../testing/point-of'
import { mtlx } from '../testing/setup'
import { shapeModel } from './shape-model'

/** A ball of radius 1, stretched to twice its width and put at x = 5 by its file. */
function stretched(): Part {
  const ball = sphere('ball', 1, 96, 192)
  return {
    ...ball,
    position: ball.position.map((x, i) => (i % 3 === 0 ? 2 * x + 5 : x)),
    normal: ball.normal.map((x, i) => {
      const o = i - (i % 3)
      const l = Math.hypot(ball.normal[o]! / 2, ball.normal[o + 1]!, ball.normal[o + 2]!)
      return (i % 3 === 0 ? x / 2 : x) / l
    }),
    frame: Float64Array.of(2, 0, 0, 5, 0, 1, 0, 0, 0, 0, 1, 0),
  }
}
const program = compileDisplacement(
  mtlx(`<open_pbr_surface name="s" type="surfaceshader"/><displacement name="d" type="displacementshader">
    <input name="displacement" type="float" value="0.3"/></displacement>
    <surfacematerial name="m" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s"/>
    <input name="displacementshader" type="displacementshader" nodename="d"/></surfacematerial>`),
  'm',
)!
const model = { parts: [sphere('still', 1, 24, 48, [0, 5, 0]), stretched()] }
const geometry = createGeometry(shapeModel(model, new Map([[1, { program, maps: [], edge: Infinity }]])))

describe('rest', () => {
  it('is the place and the normal of the part before it was displaced, in its own space', () => {
    for (const d of [
      [0, 0, -1],
      [0.3, -0.4, -1],
      [-0.5, 0.2, -1],
    ]) {
      const S = pointOf(geometry, [5 - 4 * d[0]!, -4 * d[1]!, -4 * d[2]!], d)
      const rest = three(S, POINT.restPosition)
      // the ball that it was: its points have length one, and are their own normals
      expect(Math.hypot(...rest)).toBeCloseTo(1, 3)
      three(S, POINT.restNormal).forEach((n, k) => expect(n).toBeCloseTo(rest[k]!, 2))
      // what stands there now lies outside, along the normal of the ellipsoid: by its gradient
      const p = [2 * rest[0]! + 5, rest[1]!, rest[2]!]
      const g = [rest[0]! / 2, rest[1]!, rest[2]!]
      const l = Math.hypot(...g)
      three(S, POINT.position).forEach((x, k) => expect(x).toBeCloseTo(p[k]! + (0.3 * g[k]!) / l, 2))
    }
  })

  it('moves with the coordinates as it says', () => {
    const at = (x: number, y: number) => pointOf(geometry, [5 + x, y, 9], [0, 0, -1])
    const S = at(0.31, 0.22)
    for (const [dx, dy] of [
      [1e-3, 0],
      [0, 1e-3],
    ] as const) {
      const T = at(0.31 + dx, 0.22 + dy)
      const du = T[POINT.uv]! - S[POINT.uv]!
      const dv = T[POINT.uv + 1]! - S[POINT.uv + 1]!
      for (let k = 0; k < 3; k++) {
        const said = S[POINT.restByU + k]! * du + S[POINT.restByV + k]! * dv
        expect(said).toBeCloseTo(T[POINT.restPosition + k]! - S[POINT.restPosition + k]!, 5)
      }
    }
  })

  it('is object space on parts that stay; networks ask for it; a pack keeps it', () => {
    const S = pointOf(geometry, [0.1, 5.2, 9], [0, 0, -1])
    expect(S[POINT.displaced]).toBe(0)
    expect(three(S, POINT.restPosition)).toEqual(three(S, POINT.objectPosition))
    expect(three(S, POINT.restNormal)).toEqual(three(S, POINT.objectNormal))
    const T = pointOf(geometry, [5.2, 0.3, 9], [0, 0, -1])
    for (const [node, word] of [
      ['wl_rest_position', POINT.restPosition],
      ['wl_rest_normal', POINT.restNormal],
    ] as const) {
      const p = compileNetwork(mtlx(`<${node} name="n" type="vector3"/>`), 'n')
      instantiate(p, []).value(T, Float64Array.from(p.constants), [])
      expect([...memory.result.subarray(0, 3)]).toEqual(three(T, word))
    }
    expect(unpackGeometry(packGeometry(geometry), n => new ArrayBuffer(n))).toEqual(geometry)
  })

  it('stays with its vertices where these become two', () => {
    const ball = sphere('ball', 1, 8, 16)
    const mirrored = {
      ...ball,
      uv: ball.uv.map((x, i) => (i % 2 === 0 ? Math.abs(x - 0.5) : x)),
      rest: { position: ball.position, normal: ball.normal },
    }
    const out = withTangents(mirrored)
    expect(out.position.length).toBeGreaterThan(ball.position.length)
    expect(out.rest!.position).toEqual(out.position)
    expect(out.rest!.normal).toEqual(out.normal)
  })
})
