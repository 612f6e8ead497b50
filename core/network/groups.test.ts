import { describe, expect, it } from 'vitest'
import { mtlx, valueAt } from '../testing/setup'
import { compileNetwork } from './compile'
import { childNamed, findElement, nameOf, type Element } from './document'
import { EditError } from './edit'
import { connectAcross, groupNodes, ungroup } from './groups'
import { instantiate } from './instantiate'
import { memory } from '../nodes/memory'

const { result } = memory

const wire = (name: string, type: string, from: string, more = '') =>
  `<input name="${name}" type="${type}" nodename="${from}" ${more}/>`
const D = mtlx(`<texcoord name="uv" type="vector2" xpos="0" ypos="0"/>
    <separate2 name="s" type="multioutput" xpos="1" ypos="0">${wire('in', 'vector2', 'uv')}</separate2>
  <multiply name="a" type="float" xpos="2" ypos="0">
  ${wire('in1', 'float', 's', 'output="outx"')}<input name="in2" type="float" value="3"/></multiply>
  <add name="b" type="float" xpos="2" ypos="1">
  ${wire('in1', 'float', 's', 'output="outy"')}${wire('in2', 'float', 'a')}</add>
  <multiply name="end" type="float" xpos="3" ypos="0">
  ${wire('in1', 'float', 'a')}${wire('in2', 'float', 'b')}</multiply>
  <open_pbr_surface name="surface" type="surfaceshader">
  ${wire('specular_roughness', 'float', 'end')}</open_pbr_surface>`)
/** Value of `end` at a few places. */
function values(d: Element, root = 'end'): number[] {
  const p = compileNetwork(d, root)
  expect(p.faults).toEqual([])
  const run = instantiate(p, [])
  const C = Float64Array.from(p.constants)
  return [
    [0.2, 0.9],
    [0.7, 0.1],
  ].map(([u, v]) => valueAt(run, C, result, u!, v!)[0]!)
}
/** 3u · (v + 3u) */
const EXPECTED = [
  [0.2, 0.9],
  [0.7, 0.1],
].map(([u, v]) => 3 * u! * (v! + 3 * u!))

describe('groups', () => {
  const grouped = groupNodes(D, ['a', 'b'])
  it('hold their nodes, with an input for each wire in and an output for each node seen from outside', () => {
    const g = childNamed(grouped.document, grouped.name)!
    expect(g.children.map(c => `${c.tag} ${nameOf(c)}`)).toEqual([
      'input in1',
      'input in12',
      'multiply a',
      'add b',
      'output a_out',
      'output b_out',
    ])
    expect(findElement(grouped.document, 'group/a')?.attributes).toMatchObject({ xpos: '0', ypos: '0' })
    expect(g.attributes).toMatchObject({ xpos: '2', ypos: '0' })
  })
  it('give the same values, grouped and taken apart again', () => {
    for (const d of [D, grouped.document, ungroup(grouped.document, 'group').document])
      values(d).forEach((x, k) => expect(x).toBeCloseTo(EXPECTED[k]!, 12))
    expect(ungroup(grouped.document, 'group').names).toEqual(['a', 'b'])
  })
  it('a group of a group’s reader keeps the wire between them', () => {
    const twice = groupNodes(grouped.document, ['end']).document
    expect(compileNetwork(twice, 'surface').faults).toEqual([])
    expect(values(twice, 'group2/end')).toEqual(values(D))
    values(ungroup(ungroup(twice, 'group').document, 'group2').document).forEach((x, k) =>
      expect(x).toBeCloseTo(EXPECTED[k]!, 12),
    )
  })
  it('names that are taken outside are changed as a group is taken apart', () => {
    const clash = {
      ...grouped.document,
      children: [
        ...grouped.document.children,
        { tag: 'constant', attributes: { name: 'a', type: 'float' }, children: [] },
      ],
    }
    const r = ungroup(clash, 'group')
    expect(r.names).toEqual(['a2', 'b'])
    values(r.document).forEach((x, k) => expect(x).toBeCloseTo(EXPECTED[k]!, 12))
  })
  it('refuse surfaces and nothing at all, in words', () => {
    expect(() => groupNodes(D, ['a', 'surface'])).toThrow('surface gives a surface')
    expect(() => groupNodes(D, ['gone'])).toThrow(EditError)
    expect(() => ungroup(D, 'a')).toThrow('no group called a')
  })
})

describe('wires across the edge of a group', () => {
  const { document } = groupNodes(D, ['a', 'b'])
  it('into it make an input, out of it an output that serves again', () => {
    const into = connectAcross(document, 's', 'group/a', 'in2', 'outy')
    expect(childNamed(findElement(into, 'group')!, 'in2')?.attributes).toMatchObject({
      nodename: 's',
      output: 'outy',
    })
    // a = u·v, b = v + u·v
    values(into).forEach((x, k) => {
      const [u, v] = [
        [0.2, 0.9],
        [0.7, 0.1],
      ][k]!
      expect(x).toBeCloseTo(u! * v! * (v! + u! * v!), 12)
    })
    const out = connectAcross(document, 'group/b', 'end', 'in1')
    expect(findElement(out, 'group')!.children.filter(c => c.tag === 'output')).toHaveLength(2)
    values(out).forEach((x, k) => {
      const [u, v] = [
        [0.2, 0.9],
        [0.7, 0.1],
      ][k]!
      expect(x).toBeCloseTo((v! + 3 * u!) ** 2, 12)
    })
  })
  it('to a group’s own input replace what drove it', () => {
    const d = connectAcross(document, 's', 'group', 'in1', 'outy')
    values(d).forEach((x, k) => {
      const [, v] = [
        [0.2, 0.9],
        [0.7, 0.1],
      ][k]!
      expect(x).toBeCloseTo(3 * v! * (v! + 3 * v!), 12)
    })
  })
  it('within one container are plain wires', () =>
    expect(
      findElement(connectAcross(document, 'group/a', 'group/b', 'in1'), 'group/b')?.children[0]?.attributes
        .nodename,
    ).toBe('a'))
  it('that fit no type, or would close a loop, are refused', () => {
    expect(() => connectAcross(document, 'uv', 'group/a', 'in2')).toThrow('uv gives vector2')
    expect(() => connectAcross(document, 'end', 'group', 'in1')).toThrow('loop')
    expect(() => connectAcross(document, 'gone', 'group/a', 'in2')).toThrow('does not exist')
  })
})
