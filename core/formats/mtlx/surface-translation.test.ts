import { describe, expect, it } from 'vitest'
import { childNamed, inputOf } from '../../network/document'
import { compileNetwork } from '../../network/compile'
import { mtlx } from '../../testing/setup'
import { translateSurfaces } from './surface-translation'

const input = (name: string, type: string, value: string) =>
  `<input name="${name}" type="${type}" value="${value}"/>`
const read = (body: string) => {
  const r = translateSurfaces(mtlx(body))
  const s = childNamed(r.document, 's')!
  return {
    ...r,
    tag: s.tag,
    value: (n: string) => inputOf(s, n)?.attributes.value,
    wire: (n: string) => inputOf(s, n)?.attributes.nodename,
  }
}

describe('other surfaces as the open one', () => {
  it('standard_surface: names, defaults that differ, nanometres, what is lost', () => {
    const r = read(
      `<standard_surface name="s" type="surfaceshader">
        ${input('base_color', 'color3', '0.1, 0.2, 0.3')}${input('coat', 'float', '1')}
        ${input('thin_film_thickness', 'float', '450')}${input('transmission_dispersion', 'float', '32')}
        ${input('coat_affect_color', 'float', '0.5')}${input('opacity', 'color3', '0.2, 0.4, 0.6')}
        </standard_surface>`,
    )
    expect(r.tag).toBe('open_pbr_surface')
    expect(r.value('base_color')).toBe('0.1, 0.2, 0.3')
    expect(r.value('specular_roughness')).toBe('0.2')
    expect(r.value('coat_roughness')).toBe('0.1')
    expect(r.value('coat_ior')).toBe('1.5')
    expect(r.value('thin_film_thickness')).toBe('0.45')
    expect(r.value('thin_film_weight')).toBe('1')
    expect([r.value('transmission_dispersion_scale'), r.value('transmission_dispersion_abbe_number')]).toEqual([
      '1',
      '32',
    ])
    expect(r.value('geometry_opacity')).toBe('0.4')
    expect(r.value('fuzz_roughness')).toBeUndefined()
    expect(r.lost.join()).toMatch(/saturation/)
    expect(compileNetwork(r.document, 's').faults).toEqual([])
  })
  it('a wired film and a turned grain get nodes of their own', () => {
    const r = read(
      `<constant name="t" type="float">${input('value', 'float', '300')}</constant>
        <standard_surface name="s" type="surfaceshader">
        <input name="thin_film_thickness" type="float" nodename="t"/>
        ${input('metalness', 'float', '1')}${input('specular_anisotropy', 'float', '0.5')}
        ${input('specular_rotation', 'float', '0.25')}</standard_surface>`,
    )
    expect(inputOf(childNamed(r.document, r.wire('thin_film_thickness')!)!, 'in2')?.attributes.value).toBe('0.001')
    expect(inputOf(childNamed(r.document, r.wire('geometry_tangent')!)!, 'amount')?.attributes.value).toBe('90')
    expect(compileNetwork(r.document, 's').faults).toEqual([])
  })
  it('gltf_pbr and UsdPreviewSurface', () => {
    const g = read(
      `<gltf_pbr name="s" type="surfaceshader">
        ${input('clearcoat', 'float', '1')}${input('iridescence', 'float', '1')}
        ${input('iridescence_thickness', 'float', '250')}${input('occlusion', 'float', '0.5')}</gltf_pbr>`,
    )
    expect([
      g.value('base_metalness'),
      g.value('specular_roughness'),
      g.value('thin_film_thickness'),
      g.value('thin_film_ior'),
    ]).toEqual(['1', '1', '0.25', '1.3'])
    expect(g.lost.join()).toMatch(/occlusion/)
    expect(compileNetwork(g.document, 's').faults).toEqual([])
    const u = read(
      `<UsdPreviewSurface name="s" type="surfaceshader">
        ${input('metallic', 'float', '0.3')}${input('useSpecularWorkflow', 'integer', '1')}</UsdPreviewSurface>`,
    )
    expect([u.value('base_color'), u.value('base_metalness')]).toEqual(['0.18, 0.18, 0.18', '0.3'])
    expect(u.lost.join()).toMatch(/specular workflow/)
    expect(compileNetwork(u.document, 's').faults).toEqual([])
  })
  it('leaves other documents as they are', () => {
    const d = mtlx('<open_pbr_surface name="s" type="surfaceshader"/>')
    expect(translateSurfaces(d).document).toBe(d)
  })
})
