import { describe, expect, it } from 'vitest'
import { mtlx } from '../../testing/setup'
import { copyNodes, pasteNodes } from './pieces'
import { insertOnWire } from '../../network/splice'
import { childNamed, inputOf, nameOf } from '../../network/document'
import { compileNetwork } from '../../network/compile'

const document = mtlx(`
  <texcoord name="uv" type="vector2" xpos="0" ypos="0"/>
  <noise2d name="spots" type="float" xpos="1" ypos="0"><input name="texcoord" type="vector2" nodename="uv"/>
  <input name="amplitude" type="float" value="0.5"/></noise2d>
  <multiply name="half" type="float" xpos="2" ypos="0"><input name="in1" type="float" nodename="spots"/>
  <input name="in2" type="float" value="0.5"/></multiply>
  <open_pbr_surface name="s" type="surfaceshader">
  <input name="specular_roughness" type="float" nodename="half"/></open_pbr_surface>
  <surfacematerial name="m" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s"/>
  </surfacematerial>`)

describe('pieces of a network', () => {
  it('come back under free names with the wires between them, and those to what stayed', () => {
    const { document: d, names } = pasteNodes(document, copyNodes(document, ['spots', 'half']), 1, 2)
    expect(names).toEqual(['spots2', 'half2'])
    expect(inputOf(childNamed(d, 'half2')!, 'in1')!.attributes.nodename).toBe('spots2')
    expect(inputOf(childNamed(d, 'spots2')!, 'texcoord')!.attributes.nodename).toBe('uv')
    expect(childNamed(d, 'spots2')!.attributes).toMatchObject({ xpos: '2', ypos: '2' })
    expect(d.children.slice(0, 4).map(nameOf)).toEqual(document.children.slice(0, 4).map(nameOf))
    expect(compileNetwork(d, 'half2').source).toBe(compileNetwork(document, 'half').source)
  })
  it('lose wires to what another document does not have', () => {
    const { document: d } = pasteNodes(
      mtlx('<texcoord name="uv" type="vector3"/>'),
      copyNodes(document, ['spots']),
      0,
      0,
    )
    expect(inputOf(childNamed(d, 'spots')!, 'texcoord')).toBeUndefined()
    expect(inputOf(childNamed(d, 'spots')!, 'amplitude')!.attributes.value).toBe('0.5')
  })
  it('groups are copied whole; a node of a group that is not picked comes out of it, without what only it had', () => {
    const grouped = mtlx(`<nodegraph name="g"><input name="size" type="float" value="2"/>
      <noise3d name="a" type="float"/>
      <multiply name="b" type="float"><input name="in1" type="float" nodename="a"/>
      <input name="in2" type="float" interfacename="size"/></multiply>
      <output name="out" type="float" nodename="b"/></nodegraph>`)
    const whole = pasteNodes(grouped, copyNodes(grouped, ['g', 'g/a']), 0, 0)
    expect(whole.names).toEqual(['g2'])
    expect(childNamed(whole.document, 'g2')!.children.map(nameOf)).toEqual(['size', 'a', 'b', 'out'])
    const out = pasteNodes(grouped, copyNodes(grouped, ['g/a', 'g/b']), 0, 0)
    expect(out.names).toEqual(['a', 'b'])
    expect(inputOf(childNamed(out.document, 'b')!, 'in1')!.attributes.nodename).toBe('a')
    expect(inputOf(childNamed(out.document, 'b')!, 'in2')).toBeUndefined()
  })
  it('are refused in words', () => {
    expect(() => copyNodes(document, ['nothing'])).toThrow('nothing is picked')
    expect(() => pasteNodes(document, '<materialx version="1.39"/>', 0, 0)).toThrow('no nodes')
    expect(() => pasteNodes(document, '<materialx version="1.39"><a', 0, 0)).toThrow(/line 1/)
  })
})

describe('a node put into a wire', () => {
  const added = {
    ...document,
    children: [
      ...document.children,
      ...mtlx('<clamp name="held" type="float"/><texcoord name="other" type="vector2"/>').children,
    ],
  }
  it('is driven by what drove the input, and drives it', () => {
    const d = insertOnWire(added, 'held', 's', 'specular_roughness')
    expect(inputOf(childNamed(d, 's')!, 'specular_roughness')!.attributes.nodename).toBe('held')
    expect(inputOf(childNamed(d, 'held')!, 'in')!.attributes.nodename).toBe('half')
  })
  it('is refused where it does not fit', () => {
    expect(() => insertOnWire(added, 'other', 's', 'specular_roughness')).toThrow('no free input')
    expect(() => insertOnWire(added, 'half', 's', 'specular_roughness')).toThrow('at an end')
    expect(() => insertOnWire(added, 'held', 'half', 'in2')).toThrow('no wire')
  })
})
