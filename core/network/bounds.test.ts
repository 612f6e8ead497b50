import { describe, expect, it } from 'vitest'
import { mtlx } from '../testing/setup'
import { compileNetwork, type Program } from './compile'
import { instantiate } from './instantiate'
import { memory } from '../nodes/memory'
import { POINT_STRIDE } from '../point/slots'

/**
 * Networks that a few nodes blow up: each is refused on the node at fault, or compiled, in no more time than their
 * nodes are worth. (What blows up runs for minutes and fails by its time limit here; what does not takes a second.)
 */
const LIMIT = 20_000
const input = (name: string, type: string, wire: string) =>
  `<input name="${name}" type="${type}" nodename="${wire}"/>`
const value = (name: string, type: string, v: string) => `<input name="${name}" type="${type}" value="${v}"/>`
const node = (tag: string, name: string, type: string, body = '') =>
  `<${tag} name="${name}" type="${type}">${body}</${tag}>`
/** Nodes n1 … n(count), each made of the one before. */
const chain = (count: number, make: (name: string, before: string) => string) =>
  Array.from({ length: count }, (_, i) => make(`n${i + 1}`, `n${i}`)).join('')
const compiled = (body: string, root: string): Program => {
  const p = compileNetwork(mtlx(body), root)
  instantiate(p, [])
  return p
}
const errors = (p: Program) => p.faults.filter(f => f.severity === 'error')

const doubled = (tag: string, type: string, a: string, b: string) => (name: string, before: string) =>
  node(tag, name, type, input(a, type, before) + input(b, type, before))

describe('bounds', () => {
  it(
    'a surface mixed with itself is one surface',
    () => {
      const p = compiled(
        node('open_pbr_surface', 'n0', 'surfaceshader') + chain(30, doubled('mix', 'surfaceshader', 'fg', 'bg')),
        'n30',
      )
      expect(errors(p)).toEqual([])
      expect(p.source.match(/pushOpenPbr\(/g)).toHaveLength(1)
    },
    LIMIT,
  )
  it.each([
    ['scattering mixed with itself', 'oren_nayar_diffuse_bsdf', 'BSDF', 'mix', 'fg', 'bg'],
    ['scattering added to itself', 'oren_nayar_diffuse_bsdf', 'BSDF', 'add', 'in1', 'in2'],
    ['emission added to itself', 'uniform_edf', 'EDF', 'add', 'in1', 'in2'],
    ['emission mixed with itself', 'uniform_edf', 'EDF', 'mix', 'fg', 'bg'],
  ] as const)(
    '%s is refused where it gets out of hand',
    (_, leaf, type, tag, a, b) => {
      const p = compiled(node(leaf, 'n0', type) + chain(30, doubled(tag, type, a, b)), 'n30')
      expect(errors(p)).toHaveLength(1)
      expect(errors(p)[0]!.message).toContain('unfolds to more than')
      expect(errors(p)[0]!.where).toMatch(/^n\d+$/)
      expect(compiled(node(leaf, 'n0', type) + chain(3, doubled(tag, type, a, b)), 'n3').faults).toEqual([])
    },
    LIMIT,
  )
  it(
    'coats over mixes of coats are refused',
    () => {
      const coat = (name: string, below: string) =>
        node('wl_coat_over', name, 'surfaceshader', input('base', 'surfaceshader', below))
      const body = chain(
        25,
        (name, before) =>
          coat(`${name}a`, before) +
          coat(`${name}b`, before) +
          node(
            'mix',
            name,
            'surfaceshader',
            input('fg', 'surfaceshader', `${name}a`) + input('bg', 'surfaceshader', `${name}b`),
          ),
      )
      expect(
        errors(compiled(node('open_pbr_surface', 'n0', 'surfaceshader') + body, 'n25'))[0]!.message,
      ).toContain('unfolds')
    },
    LIMIT,
  )
  it(
    'relief of relief is computed a few deep, and refused beyond',
    () => {
      const relief = (name: string, before: string) =>
        node('heighttonormal', `${name}h`, 'vector3', input('in', 'float', before)) +
        node('magnitude', name, 'float', input('in', 'vector3', `${name}h`))
      const deep = compiled(node('noise2d', 'n0', 'float') + chain(28, relief), 'n28')
      expect(errors(deep)[0]!.message).toContain('relief of relief')
      expect(errors(deep)[0]!.where).toMatch(/^n\d+h$/)
      expect(errors(compiled(node('noise2d', 'n0', 'float') + chain(3, relief), 'n3'))).toEqual([])
    },
    LIMIT,
  )
  it(
    'reliefs that all feed each other are refused',
    () => {
      const wide = Array.from({ length: 4 }, (_, level) =>
        Array.from({ length: 12 }, (_, i) => {
          const name = `r${level}_${i}`
          const sum = Array.from({ length: 12 }, (_, k) => `r${level - 1}_${k}`)
          const height =
            level === 0
              ? node('noise2d', `${name}s11`, 'float')
              : sum
                  .map((r, k) =>
                    node(
                      'add',
                      `${name}s${k}`,
                      'float',
                      input('in1', 'float', `${r}m`) + (k ? input('in2', 'float', `${name}s${k - 1}`) : ''),
                    ),
                  )
                  .join('')
          return (
            height +
            node('heighttonormal', name, 'vector3', input('in', 'float', `${name}s11`)) +
            node('magnitude', `${name}m`, 'float', input('in', 'vector3', name))
          )
        }).join(''),
      ).join('')
      expect(errors(compiled(wide, 'r3_0m'))[0]!.message).toContain('reliefs')
    },
    LIMIT,
  )
  it(
    'a radius of a curvature may come from many sums, not from another curvature',
    () => {
      const sums = chain(30, doubled('add', 'float', 'in1', 'in2'))
      const curvature = node('wl_curvature', 'c', 'float', input('radius', 'float', 'n30'))
      expect(
        errors(compiled(node('constant', 'n0', 'float', value('value', 'float', '1e-9')) + sums + curvature, 'c')),
      ).toEqual([])
      const nested = compiled(node('wl_curvature', 'n0', 'float') + sums + curvature, 'c')
      expect(errors(nested)[0]!.message).toContain('cannot depend on the shape')
    },
    LIMIT,
  )
  it(
    'chains of ten thousand nodes compile, and give their sum',
    () => {
      const p = compileNetwork(
        mtlx(
          node('constant', 'n0', 'float', value('value', 'float', '1')) +
            chain(10_000, (name, before) =>
              node('add', name, 'float', input('in1', 'float', before) + value('in2', 'float', '1')),
            ),
        ),
        'n10000',
      )
      expect(p.faults).toEqual([])
      expect(p.constants).toHaveLength(10_001)
      expect(new Set(p.source.match(/C\[\d+\]/g)).size).toBe(10_001)
      instantiate(p, []).value(new Float64Array(POINT_STRIDE), Float64Array.from(p.constants), [])
      expect(memory.result[0]).toBe(10_001)
    },
    4 * LIMIT,
  )
  it(
    'ten thousand mixes of one surface compile or are refused',
    () => {
      const p = compileNetwork(
        mtlx(
          node('open_pbr_surface', 'n0', 'surfaceshader') +
            chain(10_000, (name, before) =>
              node(
                'mix',
                name,
                'surfaceshader',
                input('fg', 'surfaceshader', 'n0') + input('bg', 'surfaceshader', before),
              ),
            ),
        ),
        'n10000',
      )
      expect(errors(p)[0]!.message).toContain('unfolds')
    },
    4 * LIMIT,
  )
  it(
    'graphs of graphs that double are refused, and graphs that only lead into each other end',
    () => {
      const laughs = Array.from(
        { length: 25 },
        (_, i) =>
          `<nodedef name="ND_g${i}" node="g${i}"><output name="out" type="float"/></nodedef>
           <nodegraph name="NG_g${i}" nodedef="ND_g${i}">` +
          (i === 0
            ? node('constant', 's', 'float')
            : node(`g${i - 1}`, 'a', 'float') +
              node(`g${i - 1}`, 'b', 'float') +
              node('add', 's', 'float', input('in1', 'float', 'a') + input('in2', 'float', 'b'))) +
          `<output name="out" type="float" nodename="s"/></nodegraph>`,
      ).join('')
      const p = compileNetwork(
        mtlx(laughs + node('g24', 'n', 'float') + node('floor', 'f', 'float', input('in', 'float', 'n'))),
        'f',
      )
      expect(errors(p)[0]!.message).toContain('nodes once its graphs are opened')
      const pass = (name: string, other: string) =>
        `<nodegraph name="${name}"><input name="i" type="float" nodegraph="${other}" output="o"/>
         <output name="o" type="float" interfacename="i"/></nodegraph>`
      const loop = compileNetwork(
        mtlx(
          pass('A', 'B') +
            pass('B', 'A') +
            node('floor', 'f', 'float', '<input name="in" type="float" nodegraph="A" output="o"/>'),
        ),
        'f',
      )
      expect(errors(loop)[0]!.message).toContain('only pass through')
    },
    LIMIT,
  )
  it('an instance within an instance keeps its own inputs', () => {
    const body =
      `<nodedef name="ND_inner" node="inner">
         <input name="x" type="float" value="0"/><output name="out" type="float"/>
       </nodedef>
       <nodegraph name="NG_inner" nodedef="ND_inner">
         <add name="s" type="float">
           <input name="in1" type="float" interfacename="x"/><input name="in2" type="float" value="1"/>
         </add>
         <output name="out" type="float" nodename="s"/>
       </nodegraph>
       <nodedef name="ND_outer" node="outer">
         <input name="y" type="float" value="0"/><output name="out" type="float"/>
       </nodedef>
       <nodegraph name="NG_outer" nodedef="ND_outer">
         <inner name="i" type="float"><input name="x" type="float" interfacename="y"/></inner>
         <multiply name="s" type="float">
           <input name="in1" type="float" nodename="i"/><input name="in2" type="float" value="10"/>
         </multiply>
         <output name="out" type="float" nodename="s"/>
       </nodegraph>` +
      node('outer', 'a', 'float', value('y', 'float', '1')) +
      node('outer', 'b', 'float', value('y', 'float', '2')) +
      node('subtract', 'n', 'float', input('in1', 'float', 'b') + input('in2', 'float', 'a'))
    const p = compileNetwork(mtlx(body), 'n')
    expect(p.faults).toEqual([])
    instantiate(p, []).value(new Float64Array(64), Float64Array.from(p.constants), [])
    expect(memory.result[0]).toBeCloseTo(10, 12)
  })
})

describe('words of a document that a plain object would know', () => {
  it.each([
    [
      'an address mode',
      node('image', 'n', 'float', value('uaddressmode', 'string', 'constructor')),
      /address mode/,
    ],
    ['a type', node('add', 'n', 'constructor'), /no version of add/],
    ['a node', node('valueOf', 'n', 'float'), /not one that Wavelume computes/],
    ['a unit', node('floor', 'n', 'float', '<input name="in" type="float" value="1" unit="toString"/>'), /unit/],
    [
      'a way to fade',
      node('wl_curve', 'n', 'float', value('interpolation', 'string', 'valueOf')),
      /interpolation/,
    ],
  ])('%s is refused in words, and never becomes code', (_, body, says) => {
    const p = compiled(body, 'n')
    expect(p.faults.map(f => f.message).join('; ')).toMatch(says)
    expect(p.source).not.toMatch(/function [A-Z]|native/)
  })
})
