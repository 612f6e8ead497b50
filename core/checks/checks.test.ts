import { describe, expect, it } from 'vitest'
import { compileNetwork } from '../network/compile'
import { groupNodes } from '../network/groups'
import { childNamed, inputOf } from '../network/document'
import { starters } from '../network/starters'
import { mtlx } from '../testing/setup'
import { canMend, checkDocument, checkParts, mend } from '.'
import { intervalOf } from './interval'

const surface = (inputs: string, tag = 'open_pbr_surface') =>
  `<${tag} name="s" type="surfaceshader">${inputs}</${tag}>`
const value = (name: string, type: string, v: string, more = '') =>
  `<input name="${name}" type="${type}" value="${v}" ${more}/>`
const wired = (name: string, type: string, from: string) =>
  `<input name="${name}" type="${type}" nodename="${from}"/>`
const image = (name: string, type: string, file: string, space = '') =>
  `<image name="${name}" type="${type}">
    <input name="file" type="filename" value="${file}" ${space ? `colorspace="${space}"` : ''}/></image>`
const rulesOf = (body: string, hasFile?: (f: string) => boolean) =>
  checkDocument(mtlx(body), hasFile).map(f => `${f.severity} ${f.rule} ${f.where}`)
const clean = (body: string) => expect(rulesOf(body)).toEqual([])

/**
 * Each rule: something that it must find, something near to it that it must let pass, and what its mending leaves.
 */
describe('colour space against use', () => {
  const data =
    image('map', 'color3', 'maps/rough.png', 'srgb_texture') +
    `<extract name="e" type="float">${wired('in', 'color3', 'map')}</extract>` +
    surface(wired('specular_roughness', 'float', 'e'))
  it('finds data read as sRGB, through an extract, and reads it as data', () => {
    expect(rulesOf(data)).toEqual(['warning colour space against use map'])
    const found = checkDocument(mtlx(data))[0]!
    const mended = mend(mtlx(data), found)
    expect(found.message).toContain('rough.png is read as sRGB, but it drives specular roughness of s')
    expect(checkDocument(mended)).toEqual([])
  })
  it('finds an 8-bit colour read as linear, not a float picture', () => {
    const colour = (file: string, space = '') =>
      image('map', 'color3', file, space) + surface(wired('base_color', 'color3', 'map'))
    expect(rulesOf(colour('a.png'))).toEqual(['warning colour space against use map'])
    expect(
      inputOf(childNamed(mend(mtlx(colour('a.png')), checkDocument(mtlx(colour('a.png')))[0]!), 'map')!, 'file')!
        .attributes.colorspace,
    ).toBe('srgb_texture')
    clean(colour('a.exr'))
    clean(colour('a.png', 'srgb_texture'))
  })
  it('lets plain data pass', () =>
    clean(image('map', 'float', 'a.png') + surface(wired('specular_roughness', 'float', 'map'))))
})

describe('value out of range', () => {
  it('finds it with the range, and mends it', () => {
    const body = surface(value('specular_roughness', 'float', '1.4'))
    const found = checkDocument(mtlx(body))
    expect(found.map(f => [f.where, f.message])).toEqual([
      ['s', 'specular roughness of s is 1.4; it takes 0 to 1.'],
    ])
    expect(inputOf(childNamed(mend(mtlx(body), found[0]!), 's')!, 'specular_roughness')!.attributes.value).toBe(
      '1',
    )
  })
  it('finds an IOR below 1 and an albedo brighter than snow; metals and coal-dark glass pass', () => {
    expect(rulesOf(surface(value('specular_ior', 'float', '0.8')))).toEqual(['warning value out of range s'])
    expect(rulesOf(surface(value('base_color', 'color3', '0.95, 0.95, 0.95')))).toEqual([
      'info value out of range s',
    ])
    expect(rulesOf(surface(value('base_color', 'color3', '0.005, 0.005, 0.005')))).toEqual([
      'info value out of range s',
    ])
    clean(surface(value('base_color', 'color3', '0.95, 0.95, 0.95') + value('base_metalness', 'float', '1')))
    clean(
      surface(value('base_color', 'color3', '0.001, 0.001, 0.001') + value('transmission_weight', 'float', '1')),
    )
    const bright = mtlx(surface(value('base_color', 'color3', '0.95, 0.95, 0.95')))
    expect(canMend(bright, checkDocument(bright)[0]!)).toBe(false)
  })
})

describe('missing file', () => {
  it('finds pictures that are not chosen or not there', () => {
    const body = image('a', 'float', 'there.png') + image('b', 'float', 'gone.png') + image('c', 'float', '')
    expect(rulesOf(body, f => f === 'there.png')).toEqual(['error missing file b', 'warning missing file c'])
    expect(rulesOf(image('a', 'float', 'x.png'))).toEqual([])
  })
})

describe('metal with dielectric values', () => {
  it('finds half metals, dark metals and dielectrics of metallic IOR', () => {
    expect(rulesOf(surface(value('base_metalness', 'float', '0.5')))).toHaveLength(1)
    expect(
      rulesOf(surface(value('base_metalness', 'float', '1') + value('base_color', 'color3', '0.1, 0.12, 0.1'))),
    ).toHaveLength(1)
    expect(rulesOf(surface(value('specular_ior', 'float', '2.9')))).toHaveLength(1)
    clean(surface(value('base_metalness', 'float', '1') + value('base_color', 'color3', '0.1, 0.6, 0.5')))
    clean(surface(value('specular_ior', 'float', '2.42')))
  })
})

describe('mix factor outside 0..1', () => {
  const mix = (from: string) =>
    `${from}<mix name="m" type="color3"><input name="mix" type="float" nodename="x"/></mix>`
  it('follows ranges up the wires', () => {
    const of = (body: string) => {
      const d = mtlx(mix(body))
      return intervalOf(d, childNamed(d, 'm')!, 'mix')
    }
    expect(
      of(
        `<noise3d name="x" type="float"><input name="amplitude" type="float" value="0.5"/>
          <input name="pivot" type="float" value="0.5"/></noise3d>`,
      ),
    ).toEqual([0, 1])
    expect(
      of(
        `<wl_curvature name="c" type="float"/><multiply name="x" type="float">
          <input name="in1" type="float" nodename="c"/><input name="in2" type="float" value="-3"/></multiply>`,
      ),
    ).toEqual([-8, 0])
    expect(
      of(
        `<wl_curve name="x" type="float"><input name="count" type="integer" value="3"/>
          <input name="value1" type="float" value="0.2"/><input name="value2" type="float" value="-0.5"/></wl_curve>`,
      ),
    ).toEqual([-0.5, 1])
    expect(
      of(
        `<position name="p" type="vector3"/><extract name="x" type="float">
          <input name="in" type="vector3" nodename="p"/></extract>`,
      ),
    ).toEqual([-Infinity, Infinity])
    expect(of('<add name="x" type="float"><input name="in1" type="float" nodename="x"/></add>')).toEqual([
      -Infinity,
      Infinity,
    ])
  })
  it('follows them through the edge of a group too', () => {
    const d = mtlx(
      mix(
        `<noise3d name="n" type="float"><input name="amplitude" type="float" value="0.5"/></noise3d>
          <add name="x" type="float"><input name="in1" type="float" nodename="n"/>
          <input name="in2" type="float" value="2"/></add>`,
      ),
    )
    for (const names of [['n'], ['x'], ['n', 'x']]) {
      const g = groupNodes(d, names).document
      expect(intervalOf(g, childNamed(g, 'm')!, 'mix'), names.join()).toEqual([1.5, 2.5])
    }
  })
  it('finds a factor that reaches outside, and puts a visible clamp before it', () => {
    const d = mtlx(mix('<noise3d name="x" type="float"/>'))
    const found = checkDocument(d)
    expect(found[0]!.message).toBe('The factor of m comes from x and reaches -1 to 1; a share lies within 0 to 1.')
    const mended = mend(d, found[0]!)
    expect(checkDocument(mended)).toEqual([])
    expect(mended.children.find(e => e.tag === 'clamp')).toBeDefined()
    expect(compileNetwork(mended, 'm').faults).toEqual([])
  })
  it('holds a plain value', () => {
    const d = mtlx('<mix name="m" type="color3"><input name="mix" type="float" value="1.5"/></mix>')
    expect(inputOf(childNamed(mend(d, checkDocument(d)[0]!), 'm')!, 'mix')!.attributes.value).toBe('1')
  })
})

it('starters have no finding', () => {
  for (const s of starters) expect(checkDocument(s.make()), s.key).toEqual([])
})

describe('open shells', () => {
  it('are told of parts that do not close and wear what fills them', () => {
    const full = mtlx(
      `<open_pbr_surface name="s" type="surfaceshader">
        <input name="transmission_weight" type="float" value="1"/>
        <input name="transmission_depth" type="float" value="0.01"/></open_pbr_surface>`,
    )
    const clear = mtlx(
      `<open_pbr_surface name="s" type="surfaceshader">
        <input name="transmission_weight" type="float" value="1"/></open_pbr_surface>`,
    )
    const documents = new Map([
      ['full', full],
      ['clear', clear],
    ])
    const parts = ['open', 'shut'].flatMap(name => [
      { name, material: 'full' },
      { name: name + ' clear', material: 'clear' },
    ])
    const closed = new Map(parts.map(p => [p.name, p.name.startsWith('shut')]))
    expect(
      checkParts(parts, documents, { closed, mapped: new Map(), sizes: new Map() }).map(f => [f.rule, f.where]),
    ).toEqual([['open shell', 'open']])
  })
})

describe('parts without coordinates', () => {
  const placed = mtlx(`<place2d name="place" type="vector2"/>${surface(wired('geometry_opacity', 'float', 'n'))}
    <noise2d name="n" type="float">${wired('texcoord', 'vector2', 'place')}</noise2d>`)
  const byPosition = mtlx(`<noise3d name="n" type="float"/>${surface(wired('geometry_opacity', 'float', 'n'))}`)
  const told = mtlx(`<texcoord name="uv" type="vector2"/><texcoord name="second" type="vector2">
    ${value('index', 'integer', '1')}</texcoord>${surface('')}`)
  it('are found where what they wear places by them, wired or not; nothing else is', () => {
    const documents = new Map([
      ['placed', placed],
      ['by position', byPosition],
      ['told', told],
    ])
    const parts = [
      { name: 'bare', material: 'placed' },
      { name: 'bare too', material: 'told' },
      { name: 'mapped', material: 'placed' },
      { name: 'solid', material: 'by position' },
      { name: 'unknown', material: 'placed' },
    ]
    const mapped = new Map([
      ['bare', false],
      ['bare too', false],
      ['mapped', true],
      ['solid', false],
    ])
    const found = checkParts(parts, documents, { closed: new Map(), mapped, sizes: new Map() })
    expect(found.map(f => f.where)).toEqual(['bare', 'bare too'])
    expect(found.map(f => f.message).join()).toContain('place of placed')
    expect(found.map(f => f.message).join()).toContain('uv of told')
  })
})

describe('radii and thicknesses beyond the part', () => {
  it('are found by their metres, in whatever unit they are stated; what fits is not', () => {
    const curved = (radius: string, unit = '') =>
      mtlx(`<wl_curvature name="bend" type="float">
        <input name="radius" type="float" value="${radius}"${unit}/></wl_curvature>
        ${surface(wired('geometry_opacity', 'float', 'bend'))}`)
    const documents = new Map([
      ['by metres', curved('0.09')],
      ['by millimetres', curved('90', ' unit="millimeter" unittype="distance"')],
      ['small', curved('0.07')],
    ])
    const parts = [...documents.keys()].map(material => ({ name: material, material }))
    // 8 cm long, each
    const sizes = new Map(parts.map(p => [p.name, { extent: 0.08, tile: [0, 0] as const }]))
    const found = checkParts(parts, documents, { closed: new Map(), mapped: new Map(), sizes })
    expect(found.map(f => f.where)).toEqual(['by metres', 'by millimetres'])
    expect(found.map(f => f.message).join()).toContain('90 mm')
    expect(found.map(f => f.message).join()).toContain('80 mm')
    expect(checkParts(parts, documents, { closed: new Map(), mapped: new Map(), sizes: new Map() })).toEqual([])
  })
})

describe('displacement', () => {
  const displaced = (
    height: string,
    scale: string,
    low = '-1',
  ) => `<open_pbr_surface name="s" type="surfaceshader"/>
    ${height}<clamp name="c" type="float">${wired('in', 'float', 'h')}${value('low', 'float', low)}</clamp>
    <displacement name="d" type="displacementshader">${wired('displacement', 'float', 'c')}
    ${value('scale', 'float', scale)}</displacement>
    <surfacematerial name="m" type="material">${wired('surfaceshader', 'surfaceshader', 's')}
    ${wired('displacementshader', 'displacementshader', 'd')}</surfacematerial>`
  const noise = (amplitude: string) =>
    `<noise3d name="h" type="float">${value('amplitude', 'float', amplitude)}</noise3d>`

  it('finds heights that their bounds flatten, and widens them; lets a noise within them pass', () => {
    const wide = mtlx(displaced(noise('4'), '0.01'))
    const found = checkDocument(wide)
    expect(found.map(f => `${f.rule} ${f.where}`)).toEqual(['height that is clipped c'])
    expect(found[0]!.message).toContain('from -4 to 4; its bounds keep 25 %')
    const mended = mend(wide, found[0]!)
    expect(checkDocument(mended)).toEqual([])
    expect(inputOf(childNamed(mended, 'c')!, 'high')!.attributes.value).toBe('4')
    clean(displaced(noise('1'), '0.01'))
    clean(displaced(noise('2'), '0.01'))
  })

  it('finds a surface that is moved by more than half of its part', () => {
    const facts = {
      closed: new Map(),
      mapped: new Map(),
      sizes: new Map([['Ball', { extent: 0.2, tile: [1, 1] as const }]]),
    }
    const of = (scale: string) =>
      checkParts([{ name: 'Ball', material: 'm' }], new Map([['m', mtlx(displaced(noise('0.5'), scale))]]), facts)
    expect(of('0.05')).toEqual([])
    const [found] = of('1')
    expect(found!.message).toBe('m moves the surface of Ball by up to 500 mm; the part is 200 mm long.')
    expect(found!.fix).toBe('Set its amount to 8 mm: amounts are lengths')
  })
})
