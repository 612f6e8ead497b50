import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { writeGlb } from './models/glb-write'
import { sphere } from '../mesh/sphere'
import { nameOf } from '../network/document'
import { elementSchema } from '../network/document-schema'
import { FormatError } from './error'
import { fromHalf } from '../maps/formats'
import { readExr, writeExr } from './pictures/exr'
import { readGlb } from './models/glb'
import { readHdr } from './pictures/hdr'
import { writePng } from './pictures/png'
import { readPicture } from './pictures'
import { readMtlx, writeMtlx } from './mtlx/mtlx'
import { withOwnDefinitions } from './mtlx/own-definitions'
import { readObj } from './models/obj'
import { readPly } from './models/ply'
import { writePly } from './models/ply-write'

const text = (body: string, version = '1.39') =>
  `<?xml version="1.0"?>\n<materialx version="${version}" colorspace="lin_rec709">${body}</materialx>`

describe('MaterialX', () => {
  const rich = text(`<!-- made by hand -->
      <marvel name="x" type="float" zeta="1" alpha="2" made_up="&lt;b&gt;&quot;&amp;">
      <input name="in" type="float" value="1" unit="millimeter" unittype="distance"/></marvel>
    <nodegraph name="NG" xpos="1.5"><image name="i" type="color3">
    <input name="file" type="filename" value="tex.&lt;UDIM&gt;.png" colorspace="srgb_texture"/></image>
    <output name="o" type="color3" nodename="i"/></nodegraph><look name="l">
    <materialassign name="a" material="m" geom="/x"/></look>`)
  it('keeps unknown nodes and attributes in their order, comments, units, colour spaces and UDIM tokens', () => {
    const once = readMtlx(rich)
    const twice = readMtlx(writeMtlx(once))
    expect(twice).toEqual(once)
    const marvel = once.children.find(e => nameOf(e) === 'x')!
    expect(Object.keys(marvel.attributes)).toEqual(['name', 'type', 'zeta', 'alpha', 'made_up'])
    expect(marvel.attributes.made_up).toBe('<b>"&')
    expect(writeMtlx(once)).toContain('tex.&lt;UDIM&gt;.png')
    expect(once.children[0]!.tag).toBe('#comment')
  })
  it('reads 1.38: channels become extract nodes, tangent space of a normal map goes', () => {
    const d = readMtlx(
      text(
        `<image name="i" type="color3"/><normalmap name="n" type="vector3">
          <input name="space" type="string" value="tangent"/></normalmap><add name="a" type="float">
          <input name="in1" type="float" nodename="i" channels="g"/></add>`,
        '1.38',
      ),
    )
    expect(d.attributes.version).toBe('1.39')
    const extract = d.children.find(e => e.tag === 'extract')!
    expect(extract.children.find(c => nameOf(c) === 'index')!.attributes.value).toBe('1')
    expect(d.children.find(e => nameOf(e) === 'a')!.children[0]!.attributes.nodename).toBe(nameOf(extract))
    expect(d.children.find(e => nameOf(e) === 'n')!.children).toEqual([])
  })
  it.each([
    ['cut short', '<materialx version="1.39"><add name="a"', /line 1/],
    ['not closed', text('<add name="a" type="float">'), /add|line/],
    ['something else', '<svg/>', /materialx/],
    ['of no version', '<materialx/>', /version/],
    ['of the future', '<materialx version="9.0"/>', /9\.0/],
    ['with entities', '<!DOCTYPE x [<!ENTITY a "b">]><materialx version="1.39"/>', /document type/],
    [
      'too deep',
      `<materialx version="1.39">${'<nodegraph name="n">'.repeat(60)}${'</nodegraph>'.repeat(60)}</materialx>`,
      /deep|nested|exceed/i,
    ],
  ])('refuses a document that is %s, and says why', (_, source, why) =>
    expect(() => readMtlx(source)).toThrow(why),
  )
  it('keeps markup in names as text', () => {
    const d = readMtlx(text('<add name="&lt;img src=x onerror=alert(1)&gt;" type="float"/>'))
    expect(nameOf(d.children[0]!)).toBe('<img src=x onerror=alert(1)>')
    expect(writeMtlx(d)).not.toContain('<img')
  })
  it('refuses element names that are none', () =>
    expect(elementSchema.safeParse({ tag: 'a b', attributes: {}, children: [] }).success).toBe(false))
  it('exports our nodes with their definitions, once', () => {
    const d = withOwnDefinitions(readMtlx(text('<wl_curvature name="c" type="float"/>')))
    expect(d.children.filter(e => e.tag === 'nodedef').map(nameOf)).toEqual(['ND_wl_curvature_float'])
    expect(d.children.some(e => e.tag === 'nodegraph')).toBe(true)
    expect(withOwnDefinitions(d)).toBe(d)
  })
})

describe('OpenEXR', () => {
  const width = 37
  const height = 21
  const R = Float32Array.from({ length: width * height }, (_, i) => Math.fround(Math.sin(i) * 10 ** ((i % 7) - 3)))
  const file = writeExr({
    width,
    height,
    channels: new Map([
      ['R', R],
      ['G', R.map(x => -x)],
      ['B', new Float32Array(R.length)],
      ['albedo.R', R.map(x => x / 2)],
    ]),
    attributes: { 'wavelume:seed': '7' },
  })
  it('comes back bit for bit, with its attributes', () => {
    const back = readExr(file)
    expect([back.width, back.height, back.attributes['wavelume:seed']]).toEqual([width, height, '7'])
    expect(back.channels.get('R')).toEqual(R)
    expect(back.space).toBeUndefined()
    expect(
      readPicture(writeExr({ width, height, channels: new Map([['R', R]]), attributes: {}, space: 'acescg' }))
        .space,
    ).toBe('acescg')
    expect(back.channels.get('albedo.R')).toEqual(R.map(x => x / 2))
  })
  it.skipIf(!existsSync('/usr/bin/exrheader') || !existsSync('/usr/bin/oiiotool'))(
    'is read by Debian’s openexr and openimageio',
    () => {
      const path = join(mkdtempSync(join(tmpdir(), 'wl-')), 'a.exr')
      writeFileSync(path, file)
      const head = execFileSync('exrheader', [path], { encoding: 'utf8' })
      expect(head).toMatch(/chromaticities/)
      expect(head).toMatch(/albedo\.R/)
      const half = path.replace('a.exr', 'h.exr')
      execFileSync('oiiotool', [path, '--ch', 'R,G,B', '-d', 'half', '--compression', 'zips', '-o', half])
      const back = readExr(new Uint8Array(readFileSync(half)))
      R.forEach((x, i) =>
        expect(Math.abs(back.channels.get('R')![i]! - x)).toBeLessThanOrEqual(Math.abs(x) / 1024 + 1e-7),
      )
    },
  )
  it('half floats agree with IEEE 754 at known codes', () => {
    expect([0x3c00, 0xc000, 0x7bff, 0x0001, 0x3555].map(fromHalf)).toEqual([
      1,
      -2,
      65504,
      2 ** -24,
      0.333251953125,
    ])
  })
  it('says what is wrong with a damaged file', () => {
    expect(() => readExr(file.slice(0, 200))).toThrow(FormatError)
    expect(() => readExr(new Uint8Array(100))).toThrow(/not an OpenEXR/)
    const piz = file.slice()
    const at = Buffer.from(piz).indexOf('compression\0compression\0')
    piz[at + 28] = 4
    expect(() => readExr(piz)).toThrow(/PIZ/)
  })
})

describe('pictures', () => {
  it('PNG comes back as it was', () => {
    const data = Uint8Array.from({ length: 5 * 3 * 4 }, (_, i) => i * 4)
    const back = readPicture(writePng(5, 3, data))
    expect([back.width, back.height]).toEqual([5, 3])
    expect(back.data).toEqual(data)
  })
  it('damaged PNG, JPEG and strangers are refused by name', () => {
    const png = writePng(8, 8, new Uint8Array(256).fill(9))
    png[45]! ^= 255
    expect(() => readPicture(png)).toThrow(/PNG/)
    expect(() => readPicture(writePng(8, 8, new Uint8Array(256)).slice(0, 30))).toThrow(/PNG/)
    expect(() => readPicture(Uint8Array.from([0xff, 0xd8, 0xff, 0, 1, 2]))).toThrow(/JPEG/)
    expect(() => readPicture(new TextEncoder().encode('hello'))).toThrow(/neither/)
  })
  it('Radiance pixels follow (mantissa + exponent − 136) of the format’s description', () => {
    const head = new TextEncoder().encode('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 1 +X 2\n')
    const bytes = new Uint8Array([...head, 128, 64, 32, 129, 255, 0, 0, 136])
    expect(Array.from(readHdr(bytes).data)).toEqual([1, 0.5, 0.25, 1, 255, 0, 0, 1])
    expect(() => readHdr(bytes.slice(0, -3))).toThrow(/last row/)
  })
})

describe('models', () => {
  const model = { parts: [sphere('Ball <b>', 1, 8, 16), sphere('Ball <b>', 0.5, 6, 9, [2, 0, 0])] }
  it('GLB comes back with parts, normals and coordinates', async () => {
    const back = await readGlb(await writeGlb(model))
    expect(back.parts.map(p => p.name)).toEqual(['Ball <b>', 'Ball <b> 2'])
    back.parts[1]!.position.forEach((x, i) => expect(x).toBeCloseTo(model.parts[1]!.position[i]!, 6))
    back.parts[0]!.uv.forEach((x, i) => expect(x).toBeCloseTo(model.parts[0]!.uv[i]!, 6))
    back.parts[0]!.normal.forEach((x, i) => expect(x).toBeCloseTo(model.parts[0]!.normal[i]!, 5))
  })
  it('damaged GLB files are refused in words', async () => {
    const good = await writeGlb(model)
    await expect(readGlb(good.slice(0, good.length - 40))).rejects.toThrow(/ends early/)
    await expect(readGlb(new Uint8Array(40))).rejects.toThrow(/not a binary glTF/)
    const bad = good.slice()
    bad.fill(0x7a, 30, 90)
    await expect(readGlb(bad)).rejects.toThrow(FormatError)
  })
  it('OBJ: fans, negative numbers, parts; faults with their line', () => {
    const m = readObj('o A\nv 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 3 4\ng B\nf -4 -3 -2\n')
    expect(m.parts.map(p => [p.name, p.index.length / 3])).toEqual([
      ['A', 2],
      ['B', 1],
    ])
    expect(Array.from(m.parts[0]!.normal.slice(0, 3))).toEqual([0, 0, 1])
    expect(() => readObj('v 0 0 0\nf 1 2 9\n')).toThrow(/line 2/)
    expect(() => readObj('')).toThrow(/no faces/)
  })
  it('PLY is written as it is read', () => {
    const back = readPly(writePly({ parts: [model.parts[0]!] }))
    expect(back.position).toEqual(model.parts[0]!.position)
    expect(back.index).toEqual(model.parts[0]!.index)
    expect(() => readPly(new TextEncoder().encode('ply\nnope'))).toThrow(FormatError)
  })
})
