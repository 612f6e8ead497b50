import { describe, expect, it } from 'vitest'
import { mtlx, valueAt } from '../testing/setup'
import { atTime, compileNetwork } from './compile'
import { childNamed, type Element } from './document'
import { instantiate } from './instantiate'
import { createTexture, type Texture } from '../maps/texture'
import { memory } from '../nodes/memory'

const { result } = memory

const input = (name: string, type: string, value: string) =>
  `<input name="${name}" type="${type}" value="${value}"/>`
const wired = (name: string, type: string, node: string, more = '') =>
  `<input name="${name}" type="${type}" nodename="${node}" ${more}/>`
const node = (tag: string, type: string, ...inputs: string[]) =>
  `<${tag} name="n" type="${type}">${inputs.join('')}</${tag}>`

function evaluate(document: Element, root = 'n', u = 0.3, v = 0.6, images: (Texture | null)[] = []): number[] {
  const p = compileNetwork(document, root)
  expect(p.faults.filter(f => f.severity === 'error')).toEqual([])
  return valueAt(instantiate(p, images), Float64Array.from(p.constants), result, u, v).slice(0, p.size)
}

/** Every case worked by hand from the formula in the MaterialX 1.39 specification. */
const CASES: [string, string, number[]][] = [
  ['constant', node('constant', 'color3', input('value', 'color3', '0.1, 0.2, 0.3')), [0.1, 0.2, 0.3]],
  ['add', node('add', 'float', input('in1', 'float', '0.25'), input('in2', 'float', '0.5')), [0.75]],
  [
    'add of a float to a colour',
    node('add', 'color3', input('in1', 'color3', '0.1, 0.2, 0.3'), input('in2', 'float', '0.5')),
    [0.6, 0.7, 0.8],
  ],
  [
    'subtract',
    node('subtract', 'vector3', input('in1', 'vector3', '1, 2, 3'), input('in2', 'vector3', '0.5, 0.5, 4')),
    [0.5, 1.5, -1],
  ],
  ['multiply', node('multiply', 'float', input('in1', 'float', '3'), input('in2', 'float', '-0.5')), [-1.5]],
  ['divide', node('divide', 'float', input('in1', 'float', '3'), input('in2', 'float', '4')), [0.75]],
  [
    'modulo of a negative',
    node('modulo', 'float', input('in1', 'float', '-0.25'), input('in2', 'float', '1')),
    [0.75],
  ],
  [
    'power',
    node('power', 'color3', input('in1', 'color3', '0.25, 0.5, 1'), input('in2', 'float', '2')),
    [0.0625, 0.25, 1],
  ],
  [
    'remap beyond its range: not clamped',
    node(
      'remap',
      'float',
      input('in', 'float', '2'),
      input('inlow', 'float', '0'),
      input('inhigh', 'float', '1'),
      input('outlow', 'float', '10'),
      input('outhigh', 'float', '20'),
    ),
    [30],
  ],
  ['clamp', node('clamp', 'float', input('in', 'float', '2')), [1]],
  [
    'smoothstep in the middle',
    node(
      'smoothstep',
      'float',
      input('in', 'float', '0.25'),
      input('low', 'float', '0'),
      input('high', 'float', '1'),
    ),
    [0.15625],
  ],
  [
    'contrast about its pivot',
    node(
      'contrast',
      'float',
      input('in', 'float', '0.75'),
      input('amount', 'float', '2'),
      input('pivot', 'float', '0.5'),
    ),
    [1],
  ],
  ['invert', node('invert', 'float', input('in', 'float', '0.3')), [0.7]],
  [
    'mix',
    node('mix', 'float', input('fg', 'float', '1'), input('bg', 'float', '0.2'), input('mix', 'float', '0.25')),
    [0.4],
  ],
  [
    'mix factor beyond 1: not clamped',
    node('mix', 'float', input('fg', 'float', '1'), input('bg', 'float', '0'), input('mix', 'float', '1.5')),
    [1.5],
  ],
  [
    'combine3',
    node(
      'combine3',
      'vector3',
      input('in1', 'float', '1'),
      input('in2', 'float', '2'),
      input('in3', 'float', '3'),
    ),
    [1, 2, 3],
  ],
  [
    'extract',
    node('extract', 'float', input('in', 'color3', '0.1, 0.2, 0.3'), input('index', 'integer', '2')),
    [0.3],
  ],
  ['convert float to color3', node('convert', 'color3', input('in', 'float', '0.4')), [0.4, 0.4, 0.4]],
  [
    'convert color3 to color4: alpha 1',
    node('convert', 'color4', input('in', 'color3', '0.1, 0.2, 0.3')),
    [0.1, 0.2, 0.3, 1],
  ],
  ['texcoord', node('texcoord', 'vector2'), [0.3, 0.6]],
  ['position', node('position', 'vector3'), [0.3, 0.6, 0]],
  ['normal', node('normal', 'vector3'), [0, 0, 1]],
  ['facingratio head-on', node('facingratio', 'float'), [1]],
  ['ramplr', node('ramplr', 'float', input('valuel', 'float', '0'), input('valuer', 'float', '10')), [3]],
  [
    'ramptb: top at v = 0',
    node('ramptb', 'float', input('valuet', 'float', '10'), input('valueb', 'float', '0')),
    [4],
  ],
  ['normalmap of flat blue', node('normalmap', 'vector3', input('in', 'vector3', '0.5, 0.5, 1')), [0, 0, 1]],
  [
    'normalmap tilted along u',
    node('normalmap', 'vector3', input('in', 'vector3', '1, 0.5, 0.5'), input('scale', 'float', '1')),
    [1, 0, 0],
  ],
  [
    'a length with a unit',
    node(
      'add',
      'float',
      '<input name="in1" type="float" value="2" unit="millimeter"/>',
      input('in2', 'float', '1'),
    ),
    [1.002],
  ],
]

describe('nodes, by the formulae of the specification', () => {
  it.each(CASES)('%s', (_, body, expected) =>
    evaluate(mtlx(body)).forEach((x, k) => expect(x).toBeCloseTo(expected[k]!, 9)),
  )
  it('separate3 gives each channel by name', () => {
    const d = mtlx(
      `<separate3 name="s" type="multioutput">${input('in', 'color3', '0.1, 0.2, 0.3')}</separate3>
        ${node('add', 'float', wired('in1', 'float', 's', 'output="outg"'), input('in2', 'float', '1'))}`,
    )
    expect(evaluate(d)[0]).toBeCloseTo(1.2, 9)
  })
  it('image: bilinear between pixel centres, v upwards, sRGB decoded only where said', () => {
    // 2 × 2: top row 0, 255; bottom row 255, 0
    const bytes = Uint8Array.from([0, 255, 255, 0].flatMap(x => [x, x, x, 255]))
    const d = (space: string) =>
      mtlx(`<image name="n" type="color3"><input name="file" type="filename" value="f.png" ${space}/></image>`)
    const linear = createTexture(2, 2, bytes, 'raw')
    const srgb = createTexture(
      2,
      2,
      Uint8Array.from([128, 128, 128, 128].flatMap(x => [x, x, x, 255])),
      'srgb_texture',
    )
    expect(evaluate(d(''), 'n', 0.25, 0.75, [linear])[0]).toBe(0)
    expect(evaluate(d(''), 'n', 0.5, 0.75, [linear])[0]).toBeCloseTo(0.5, 9)
    expect(evaluate(d(''), 'n', 0.25, 0.25, [linear])[0]).toBe(1)
    // IEC 61966-2-1 at 128/255
    expect(evaluate(d('colorspace="srgb_texture"'), 'n', 0.5, 0.5, [srgb])[0]).toBeCloseTo(0.2158605, 5)
    expect(compileNetwork(d('colorspace="srgb_texture"'), 'n').images).toEqual([
      { file: 'f.png', colorspace: 'srgb_texture', colour: true },
    ])
  })
  it('tiledimage repeats by uvtiling', () => {
    const bytes = Uint8Array.from([0, 255].flatMap(x => [x, x, x, 255]))
    const d = mtlx(
      `<tiledimage name="n" type="float"><input name="file" type="filename" value="f"/>
        <input name="uvtiling" type="vector2" value="2, 1"/></tiledimage>`,
    )
    expect(evaluate(d, 'n', 0.125, 0.5, [createTexture(2, 1, bytes, 'raw')])[0]).toBe(0)
    expect(evaluate(d, 'n', 0.625, 0.5, [createTexture(2, 1, bytes, 'raw')])[0]).toBe(0)
    expect(evaluate(d, 'n', 0.375, 0.5, [createTexture(2, 1, bytes, 'raw')])[0]).toBe(1)
  })
})

describe('graphs', () => {
  it('follows nodegraphs, their outputs and interface inputs', () => {
    const d = mtlx(`<nodegraph name="g">${input('gain', 'float', '3')}<multiply name="m" type="float">
        <input name="in1" type="float" interfacename="gain"/>${input('in2', 'float', '2')}</multiply>
        <output name="o" type="float" nodename="m"/></nodegraph>
      <add name="n" type="float"><input name="in1" type="float" nodegraph="g" output="o"/>
      ${input('in2', 'float', '1')}</add>`)
    expect(evaluate(d)[0]).toBe(7)
    expect(evaluate(d, 'g/m')[0]).toBe(6)
  })
  it('inlines node definitions that the document brings', () => {
    const d = mtlx(`<nodedef name="ND_twice" node="twice">
        ${input('x', 'float', '1')}<output name="out" type="float"/></nodedef>
        <nodegraph name="NG" nodedef="ND_twice"><add name="a" type="float">
        <input name="in1" type="float" interfacename="x"/><input name="in2" type="float" interfacename="x"/>
        </add><output name="out" type="float" nodename="a"/></nodegraph>
      <twice name="t" type="float">${input('x', 'float', '4')}</twice><twice name="u" type="float"/>
      ${node('add', 'float', wired('in1', 'float', 't'), wired('in2', 'float', 'u'))}`)
    expect(evaluate(d)[0]).toBe(10)
  })
  it('finds loops, says where, and computes the rest', () => {
    const d = mtlx(
      `<add name="a" type="float">${wired('in1', 'float', 'n')}</add><add name="n" type="float">
        ${wired('in1', 'float', 'a')}${input('in2', 'float', '5')}</add>`,
    )
    const p = compileNetwork(d, 'n')
    expect(p.faults[0]!.message).toContain('loop')
    expect(valueAt(instantiate(p, []), Float64Array.from(p.constants), result, 0, 0)[0]).toBe(5)
  })
  it('faults on a wrong type name both ends and the remedy', () => {
    const p = compileNetwork(
      mtlx(`<constant name="c" type="color3"/>${node('add', 'float', wired('in1', 'float', 'c'))}`),
      'n',
    )
    expect(p.faults[0]).toMatchObject({ where: 'n', input: 'in1' })
    expect(p.faults[0]!.message).toMatch(/color3.*float.*convert or extract/)
  })
  it('reports unknown nodes, missing wires and values that are none', () => {
    const messages = (body: string) =>
      compileNetwork(mtlx(body), 'n')
        .faults.map(f => f.message)
        .join()
    expect(messages('<marvel name="n" type="float"/>')).toContain('marvel')
    expect(messages(node('add', 'float', wired('in1', 'float', 'gone')))).toContain('gone')
    expect(messages(node('add', 'float', input('in1', 'float', 'three')))).toContain('three')
  })
})

describe('compiled source', () => {
  const document = (value: string, name = 'n') =>
    mtlx(`<noise3d name="${name}" type="float">${input('amplitude', 'float', value)}</noise3d>`)
  it('is the same for two networks that differ in constants', () => {
    expect(compileNetwork(document('0.5'), 'n').source).toBe(compileNetwork(document('0.7'), 'n').source)
    expect(compileNetwork(document('0.5'), 'n').constants).not.toEqual(
      compileNetwork(document('0.7'), 'n').constants,
    )
  })
  it('carries no text of the document', () => {
    const evil = 'x"];globalThis.hacked=1;//'
    const d = mtlx(
      `<image name="n" type="color3">
        <input name="file" type="filename" value="${evil.replace(/"/g, '&quot;')}"/>
        <input name="uaddressmode" type="string" value="periodic"/></image>`,
    )
    const named = { ...d, children: d.children.map(c => ({ ...c, attributes: { ...c.attributes, name: evil } })) }
    for (const p of [compileNetwork(d, 'n'), compileNetwork(named, evil)]) expect(p.source).not.toContain('hacked')
    expect(
      compileNetwork(
        mtlx('<image name="n" type="color3"><input name="uaddressmode" type="string" value="alert(1)"/></image>'),
        'n',
      ).faults[0]!.message,
    ).toContain('address mode')
  })
  it('computes what only a hidden layer needs inside that layer’s block', () => {
    const p = compileNetwork(
      mtlx(`<noise3d name="deep" type="float"/><open_pbr_surface name="a" type="surfaceshader">
        <input name="specular_roughness" type="float" nodename="deep"/></open_pbr_surface>
        <open_pbr_surface name="b" type="surfaceshader"/>
      <mix name="n" type="surfaceshader"><input name="fg" type="surfaceshader" nodename="a"/>
      <input name="bg" type="surfaceshader" nodename="b"/><input name="mix" type="float" value="0"/></mix>`),
      'n',
    )
    const lines = p.source.split('\n')
    const at = lines.findIndex(l => l.includes('noise3('))
    expect(lines.slice(0, at).some(l => l.includes('if ((w'))).toBe(true)
  })
  it('asks for the radius of a curvature before shading, driven by other nodes', () => {
    const p = compileNetwork(
      mtlx(
        `<noise3d name="k" type="float"/><wl_curvature name="n" type="float">
          <input name="radius" type="float" nodename="k"/></wl_curvature>`,
      ),
      'n',
    )
    expect(p.fields).toEqual([{ field: 'curvature', side: 'convex' }])
    expect(p.source).toMatch(/function requests[\s\S]*R\[0\] =[\s\S]*noise3[\s\S]*function shade/)
    expect(childNamed(mtlx('<constant name="c" type="float"/>'), 'c')).toBeDefined()
  })
})

describe('time', () => {
  it('is a constant that programs are given, baked or not; without a time node nothing asks for it', () => {
    const body = `<time name="t" type="float"/>
      ${node('multiply', 'float', wired('in1', 'float', 't') + input('in2', 'float', '3'))}`
    for (const bake of [false, true]) {
      const p = atTime(compileNetwork(mtlx(body), 'n', { bake }), 2.5)
      const shader = instantiate(p, [])
      expect(valueAt(shader, Float64Array.from(p.constants), result, 0.5, 0.5)[0]).toBe(7.5)
    }
    const plain = compileNetwork(mtlx('<constant name="n" type="float"/>'), 'n')
    expect(atTime(plain, 4)).toBe(plain)
  })
})

it('a picture beside a position leaves the position, also where a point stands for nothing but itself', () => {
  const d = mtlx(
    `<image name="i" type="float"><input name="file" type="filename" value="a.png"/></image>
     <position name="p" type="vector3"/>
     <separate3 name="x" type="multioutput"><input name="in" type="vector3" nodename="p"/></separate3>
     <add name="n" type="float"><input name="in1" type="float" nodename="i"/>
       <input name="in2" type="float" nodename="x" output="outx"/></add>`,
  )
  const picture = createTexture(1, 1, Float32Array.of(0.25, 0, 0, 1), 'raw')
  expect(evaluate(d, 'n', 0.5, 0.75, [picture])[0]).toBe(0.75)
})
