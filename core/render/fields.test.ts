import { describe, expect, it } from 'vitest'
import { memory } from '../nodes/memory'
import { POINT } from '../point/slots'
import { createGeometry } from '../scene/geometry'
import { box } from '../testing/box'
import { pointOf } from '../testing/point-of'
import { materialOf, mtlx, pbr, sceneOf, sumOfPasses, uniform } from '../testing/setup'
import { fillFields } from './fields'

const { result } = memory
const cube = { parts: [box('cube', [0, 0, 0], [2, 2, 2])] }

/** Value of node `n` where a ray meets the cube's top at (x, z). */
function valueAt(body: string, x: number, z: number): number {
  const geometry = createGeometry(cube)
  const material = materialOf(mtlx(body), 'n')
  const S = pointOf(geometry, [x, 3, z], [0, -1, 0])
  S[POINT.footprint] = 1e-3
  fillFields({ geometry }, material, S)
  material.shader.value(S, material.constants, material.shader.images)
  return result[0]!
}
const node = (tag: string, inputs: string) => `<${tag} name="n" type="float">${inputs}</${tag}>`
const radius = (r: number | string) =>
  typeof r === 'number'
    ? `<input name="radius" type="float" value="${r}"/>`
    : `<input name="radius" type="float" nodename="${r}"/>`
const side = (s: string) => `<input name="side" type="string" value="${s}"/>`
/** H·r below a face, s radii from a right-angled edge: half a spherical cap is missing (closed form). */
const edge = (s: number) => (s < 1 ? (2 / 3) * (1 - s) ** 2 * (2 + s) : 0)

describe('nodes that ask for the shape', () => {
  it('curvature near an edge, by a radius that a network drives', () => {
    for (const x of [0.99, 0.95, 0.9, 0.7]) {
      // radius = 0.1 + 0.05 x
      const driven = `<position name="p" type="vector3"/><extract name="x" type="float">
        <input name="in" type="vector3" nodename="p"/></extract><multiply name="m" type="float">
        <input name="in1" type="float" nodename="x"/><input name="in2" type="float" value="0.05"/></multiply>
        <add name="r" type="float"><input name="in1" type="float" nodename="m"/>
        <input name="in2" type="float" value="0.1"/></add>`
      const value = valueAt(driven + node('wl_curvature', radius('r') + side('convex')), x, 0.2)
      expect(Math.abs(value - edge((1 - x) / (0.1 + 0.05 * x)))).toBeLessThan(0.03)
    }
  })
  it('a box has no occlusion outward, inward a half of the sky is gone at an edge; strength multiplies', () => {
    expect(valueAt(node('wl_occlusion', radius(0.2)), 0.99, 0.2)).toBe(0)
    expect(valueAt(node('wl_occlusion', radius(0.2) + side('inward')), 0.99999, 0.2)).toBeCloseTo(0.5, 2)
    const half = node(
      'wl_occlusion',
      `${radius(0.2)}${side('inward')}<input name="strength" type="float" value="4"/>`,
    )
    expect(valueAt(half, 0.99999, 0.2)).toBe(1)
  })
  it('thickness is 1 where the other side is farther than the radius', () => {
    expect(valueAt(node('wl_thickness', radius(0.5)), 0.2, 0.2)).toBe(1)
  })
  it('a side that is not known is refused in words', () => {
    expect(() => materialOf(mtlx(node('wl_occlusion', side('upward'))), 'n')).toThrow('side is outward or inward')
  })
  it('relief over a mask is that over a plane as steep as the closed form', () => {
    const r = 0.2
    const s = 0.4
    /** Normal that a bump of a height has near the edge. */
    const normalOver = (height: string) => {
      const geometry = createGeometry(cube)
      const body = `${height}<multiply name="h" type="float"><input name="in1" type="float" nodename="k"/>
        <input name="in2" type="float" value="3"/></multiply>
        <bump name="n" type="vector3"><input name="height" type="float" nodename="h"/></bump>`
      const material = materialOf(mtlx(body), 'n')
      const S = pointOf(geometry, [1 - s * r, 3, 0.2], [0, -1, 0])
      S[POINT.footprint] = 1e-4
      fillFields({ geometry }, material, S)
      material.shader.value(S, material.constants, material.shader.images)
      return [...result].slice(0, 3)
    }
    // d/dx of ⅔ (1 − s)² (2 + s), with s = (1 − x) / r
    const slope = (2 * (1 - s * s)) / r
    const plane = normalOver(`<position name="p" type="vector3"/><extract name="x" type="float">
      <input name="in" type="vector3" nodename="p"/></extract><multiply name="k" type="float">
      <input name="in1" type="float" nodename="x"/><input name="in2" type="float" value="${slope}"/></multiply>`)
    const mask = normalOver(`<wl_curvature name="k" type="float">${radius(r)}${side('convex')}</wl_curvature>`)
    expect(Math.hypot(plane[0]!, plane[2]!)).toBeGreaterThan(0.3)
    for (let k = 0; k < 3; k++) expect(Math.abs(mask[k]! - plane[k]!)).toBeLessThan(0.05)
  })
  it('a crisp threshold of a mask is one bit in every sample of every pass', () => {
    const sharp = `<wl_curvature name="k" type="float">${radius(0.2)}${side('convex')}</wl_curvature>
      <ifgreater name="m" type="float"><input name="value1" type="float" nodename="k"/>
      <input name="value2" type="float" value="0.4"/><input name="in1" type="float" value="1"/></ifgreater>
      ${pbr({ base_color: '0, 0, 0', specular_weight: 0, emission_luminance: 1 }).replace(
        /<input name="emission_luminance"[^>]*>/,
        '<input name="emission_luminance" type="float" nodename="m"/>',
      )}`
    const camera = { name: 'c', position: [0, 5, 0], target: [0, 0, 0.001], fov: 30 }
    const scene = sceneOf(cube, [materialOf(mtlx(sharp), 's')], uniform(0), camera as never, 16, 16)
    const passes = [0, 1, 2, 3].map(pass => sumOfPasses(scene, 16, 16, pass, pass + 1))
    const bright = Math.max(...passes[0]!)
    expect(bright).toBeGreaterThan(0)
    let lit = 0
    for (const picture of passes)
      for (let i = 0; i < picture.length; i += 3) {
        const share = picture[i + 1]! / bright
        expect(Math.min(share, Math.abs(share - 1))).toBeLessThan(0.01)
        lit += share
      }
    expect(lit).toBeGreaterThan(40)
    expect(lit).toBeLessThan(4 * 256 - 40)
  })
})
