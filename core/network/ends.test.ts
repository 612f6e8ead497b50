import { describe, expect, it } from 'vitest'
import { mtlx } from '../testing/setup'
import { findElement, inputOf } from './document'
import { coatOfThickness, endsOf, thicknessOfCoat } from './ends'
import { groupNodes } from './groups'
import { insertCoat } from './layers'
import { wireByLevels } from './levels-between'
import { starters } from './starters'

type Document = ReturnType<typeof mtlx>
const ends = (d: Document, node: string, input: string): string[] =>
  endsOf(d, { node, input }).map(e => `${e.node}.${e.input}`)
const wire = (name: string, type: string, from: string) =>
  `<input name="${name}" type="${type}" nodename="${from}"/>`
const number = (name: string, v: number) => `<input name="${name}" type="float" value="${v}"/>`
/** Levels of a noise, plus something, on a film and on a roughness of one surface. */
const NETWORK = mtlx(`<noise3d name="n" type="float"/>
  <range name="l" type="float">${wire('in', 'float', 'n')}</range>
  <add name="a" type="float">${wire('in1', 'float', 'l')}${number('in2', 0)}</add>
  <multiply name="m" type="float">${wire('in1', 'float', 'n')}${number('in2', 1)}</multiply>
  <multiply name="twice" type="float">${wire('in1', 'float', 'm')}${number('in2', 2)}</multiply>
  <open_pbr_surface name="s" type="surfaceshader">${wire('thin_film_thickness', 'float', 'a')}
  ${wire('subsurface_radius', 'float', 'twice')}${wire('specular_roughness', 'float', 'm')}</open_pbr_surface>`)

describe('where a number ends', () => {
  it('is what adds, chooses and gives levels pass on, not what goes into levels or scales', () => {
    expect(ends(NETWORK, 's', 'thin_film_thickness')).toEqual(['s.thin_film_thickness'])
    expect(ends(NETWORK, 'l', 'outhigh')).toEqual(['s.thin_film_thickness'])
    expect(ends(NETWORK, 'a', 'in2')).toEqual(['s.thin_film_thickness'])
    expect(ends(NETWORK, 'l', 'inhigh')).toEqual(['l.inhigh'])
  })
  it('of a pattern times a number the number is the length; of two others the first is', () => {
    expect(ends(NETWORK, 'm', 'in2').sort()).toEqual(['s.specular_roughness', 's.subsurface_radius'])
    expect(ends(NETWORK, 'm', 'in1')).toEqual(['m.in1'])
    expect(ends(NETWORK, 'twice', 'in1')).toEqual(['s.subsurface_radius'])
    expect(ends(NETWORK, 'twice', 'in2')).toEqual(['twice.in2'])
  })
  it('is followed out of groups and into them', () => {
    const { document, name } = groupNodes(NETWORK, ['l'])
    expect(ends(document, `${name}/l`, 'outhigh')).toEqual(['s.thin_film_thickness'])
    const inner = groupNodes(NETWORK, ['a'])
    expect(ends(inner.document, inner.name, 'in1')).toEqual(['s.thin_film_thickness'])
    expect(ends(inner.document, 'l', 'outlow')).toEqual(['s.thin_film_thickness'])
  })
  it('a coat’s thickness is the power of its tint', () => {
    const paint = starters.find(s => s.key === 'plastic')!.make()
    const over = paint.children.find(c => c.attributes.type === 'surfaceshader')!.attributes.name!
    const coat = insertCoat(paint, over)
    const place = thicknessOfCoat(coat.document, coat.name)!
    expect(coatOfThickness(coat.document, place)).toBe(coat.name)
    expect(thicknessOfCoat(coat.document, over)).toBeUndefined()
    expect(coatOfThickness(coat.document, { ...place, input: 'in1' })).toBeUndefined()
  })
  it('levels between a pattern and a length take 0 and 1 to its span, and end in it', () => {
    const { document, levels } = wireByLevels(NETWORK, 'n', 's', 'thin_film_thickness', { low: 0.2, high: 0.6 })
    const given = (input: string) => inputOf(findElement(document, levels)!, input)?.attributes
    expect([given('in')?.nodename, given('outlow')?.value, given('outhigh')?.value]).toEqual(['n', '0.2', '0.6'])
    expect(ends(document, levels, 'outlow')).toEqual(['s.thin_film_thickness'])
    expect(() => wireByLevels(NETWORK, 's', 's', 'thin_film_thickness', { low: 0, high: 1 })).toThrow()
  })
})
