import { describe, expect, it } from 'vitest'
import { writeMtlx, readMtlx } from '../formats/mtlx/mtlx'
import { findElement, inputOf } from '../network/document'
import { mtlx, pbr } from '../testing/setup'
import { compileMaterial } from '../world/compile-material'
import { isPublished, publish, publishedOf, withValues } from './part-values'

const D = mtlx(`${pbr({ base_color: '0.8, 0.1, 0.1' })}<nodegraph name="g"><constant name="c" type="float">
    <input name="value" type="float" value="2" unit="millimeter"/></constant>
    <output name="o" type="float" nodename="c"/></nodegraph>
  <surfacematerial name="m" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s"/>
  </surfacematerial>`)

describe('published values', () => {
  const published = publish(
    publish(publish(D, 's', 'base_color', 'Colour'), 's', 'specular_roughness', 'Roughness'),
    'g/c',
    'value',
    'Size',
  )
  it('are listed with their labels, units and the values they have; an input at its default is written out', () => {
    expect(publishedOf(published).map(p => [p.key, p.label, p.value, p.unit])).toEqual([
      ['s#base_color', 'Colour', '0.8, 0.1, 0.1', undefined],
      ['s#specular_roughness', 'Roughness', '0.3', undefined],
      ['g/c#value', 'Size', '2', 'millimeter'],
    ])
    expect(publishedOf(D)).toEqual([])
    expect(isPublished(findElement(published, 's')!, 'base_color')).toBe(true)
  })
  it('can be kept to the material again', () =>
    expect(publishedOf(publish(published, 's', 'base_color', undefined)).map(p => p.label)).toEqual([
      'Roughness',
      'Size',
    ]))
  it('a part’s own value replaces them, and only them: same code, other constants', () => {
    const own = withValues(published, { 's#base_color': '0.1, 0.2, 0.9', 's#specular_ior': '2', 'gone#x': '1' })
    expect(inputOf(findElement(own, 's')!, 'base_color')!.attributes.value).toBe('0.1, 0.2, 0.9')
    expect(inputOf(findElement(own, 's')!, 'specular_ior')).toBeUndefined()
    const a = compileMaterial(published)
    const b = compileMaterial(own)
    expect(b.source).toBe(a.source)
    expect(b.constants).not.toEqual(a.constants)
    expect(withValues(published, { 's#base_color': '0.1, 0.2, 0.9', 's#specular_ior': '2', 'gone#x': '1' })).toBe(
      own,
    )
    expect(withValues(published, {})).toBe(published)
  })
  it('survive writing and reading', () =>
    expect(publishedOf(readMtlx(writeMtlx(published)))).toEqual(publishedOf(published)))
})
