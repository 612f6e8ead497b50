import { describe, expect, it } from 'vitest'
import { compileDisplacement } from './compile-displacement'
import { addDisplacement, displacementPlaces, removeDisplacement } from './displace'
import { setValue } from './edit'
import { instantiate } from './instantiate'
import { memory } from '../nodes/memory'
import { POINT_STRIDE } from '../point/slots'
import { starters } from './starters'
import { readMtlx, writeMtlx } from '../formats/mtlx/mtlx'
import { materialsOf, nameOf, type Element } from './document'

const begin = () => {
  const document = starters[0]!.make()
  return { document, material: nameOf(materialsOf(document)[0]!) }
}
/** How far the surface moves along its normal, metres. */
function moved(document: Element, material: string): number {
  const p = compileDisplacement(document, material)!
  expect(p.faults).toEqual([])
  instantiate(p, []).value(new Float64Array(POINT_STRIDE), Float64Array.from(p.constants), [])
  return memory.result[2]!
}

describe('a displacement', () => {
  it('moves nothing at first; height, zero level, bounds and amount are where they say', () => {
    const { document, material } = begin()
    expect(displacementPlaces(document, material)).toBe(undefined)
    const { document: d, places } = addDisplacement(document, material, 0.012)
    expect(moved(d, material)).toBe(0)
    const put = (doc: Element, at: { node: string; input: string }, x: number) =>
      setValue(doc, at.node, at.input, 'float', String(x))
    const high = put(d, places.height, 0.75)
    expect(moved(high, material)).toBeCloseTo(0.75 * 0.012, 9)
    expect(moved(put(high, places.zero!, 0.5), material)).toBeCloseTo(0.25 * 0.012, 9)
    expect(moved(put(high, places.high!, 0.6), material)).toBeCloseTo(0.6 * 0.012, 9)
    expect(moved(put(put(d, places.height, -3), places.low!, -0.5), material)).toBeCloseTo(-0.5 * 0.012, 9)
    expect(moved(put(high, places.amount, -0.1), material)).toBeCloseTo(-0.075, 9)
    // a file carries it
    const back = readMtlx(writeMtlx(high))
    expect(moved(back, material)).toBeCloseTo(0.75 * 0.012, 9)
    expect(displacementPlaces(back, material)).toEqual(places)
  })

  it('is taken off, its nodes are kept; one of another make shows its amount alone', () => {
    const { document, material } = begin()
    const { document: d } = addDisplacement(document, material, 0.01)
    const off = removeDisplacement(d, material)
    expect(displacementPlaces(off, material)).toBe(undefined)
    expect(off.children).toHaveLength(d.children.length)
    const bare = readMtlx(`<materialx version="1.39"><open_pbr_surface name="s" type="surfaceshader"/>
      <displacement name="d" type="displacementshader">
      <input name="displacement" type="float" value="1"/></displacement>
      <surfacematerial name="m" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s"/>
      <input name="displacementshader" type="displacementshader" nodename="d"/></surfacematerial></materialx>`)
    expect(displacementPlaces(bare, 'm')).toEqual({
      height: { node: 'd', input: 'displacement' },
      amount: { node: 'd', input: 'scale' },
    })
  })
})
