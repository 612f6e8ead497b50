import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { decode } from 'fast-png'
import { afterAll, describe, expect, it } from 'vitest'
import { readExr } from '../core/formats/pictures/exr'
import { writePly } from '../core/formats/models/ply-write'
import { sphere } from '../core/mesh/sphere'
import { command } from './commands/bake'
import { parseOptions } from './options'

const folder = mkdtempSync(join(tmpdir(), 'wavelume-bake-'))
afterAll(() => rmSync(folder, { recursive: true }))
const at = (name: string) => join(folder, name)
const file = (name: string, content: string | Uint8Array): string => {
  writeFileSync(at(name), content)
  return at(name)
}
/** A square of one metre; its coordinates run from 0 to `most`. */
const square = (name: string, most: number): string =>
  file(
    name,
    `v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nvt 0 0\nvt ${most} 0\nvt ${most} ${most}\nvt 0 ${most}\nf 1/1 2/2 3/3 4/4\n`,
  )
const plane = square('plane.obj', 1)
const document = file(
  'm.mtlx',
  `<?xml version="1.0"?><materialx version="1.39">
  <texcoord name="uv" type="vector2"/>
  <position name="p" type="vector3"><input name="space" type="string" value="world"/></position>
  <constant name="half" type="float"><input name="value" type="float" value="0.5"/></constant>
  <separate2 name="sep" type="multioutput"><input name="in" type="vector2" nodename="uv"/></separate2>
  <multiply name="slope" type="float"><input name="in1" type="float" nodename="sep" output="outx"/>
  <input name="in2" type="float" value="0.1"/></multiply>
  <displacement name="d" type="displacementshader">
  <input name="displacement" type="float" nodename="slope"/></displacement>
  <open_pbr_surface name="s" type="surfaceshader"/>
  <surfacematerial name="m" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s"/>
  <input name="displacementshader" type="displacementshader" nodename="d"/></surfacematerial></materialx>`,
)

interface Result {
  components: number
  files: { file: string; covered: number; twice: number; clipped: number }[]
}
const bake = (...args: string[]): Promise<Result> =>
  command.run(parseOptions(args, command.takes(args))) as Promise<Result>
const channel = (path: string, name: string) => readExr(new Uint8Array(readFileSync(path))).channels.get(name)!

describe('bake', () => {
  it('gives texel centres of coordinates, row 0 at v = 1', async () => {
    const { files } = await bake(document, '--on', plane, '--node', 'uv', '--size', '8x4', '-o', at('uv.exr'))
    expect(files).toEqual([{ file: at('uv.exr'), covered: 1, twice: 0, clipped: 0 }])
    const [r, g] = [channel(at('uv.exr'), 'R'), channel(at('uv.exr'), 'G')]
    for (let y = 0; y < 4; y++)
      for (let x = 0; x < 8; x++) {
        expect(r[y * 8 + x]).toBeCloseTo((x + 0.5) / 8, 6)
        expect(g[y * 8 + x]).toBeCloseTo(1 - (y + 0.5) / 4, 6)
      }
  })

  it('gives where the surface lies, and goes on beyond the edges of charts', async () => {
    const half = square('half.obj', 0.5)
    const args = [document, '--on', half, '--node', 'p', '--size', '16x16', '-o', at('p.exr')]
    const without = await bake(...args, '--padding', '0')
    expect(without.files[0]!.covered).toBe(0.25)
    const bare = channel(at('p.exr'), 'R')
    await bake(...args, '--padding', '2')
    const padded = channel(at('p.exr'), 'R')
    const row = 12 * 16
    expect(bare[row + 7]).toBeCloseTo(7.5 / 8, 6)
    expect([bare[row + 8], bare[row + 9]]).toEqual([0, 0])
    expect(padded[row + 8]).toBeCloseTo(7.5 / 8, 6)
    expect(padded[row + 9]).toBeCloseTo(7.5 / 8, 6)
    expect(padded[row + 10]).toBe(0)
  })

  it('writes a file for each square of UDIM', async () => {
    const { files } = await bake(
      ...[document, '--on', square('two.obj', 2), '--node', 'uv', '--size', '4x4', '-o', at('t.<UDIM>.exr')],
    )
    expect(files.map(f => f.file)).toEqual(['1001', '1002', '1011', '1012'].map(n => at(`t.${n}.exr`)))
    expect(channel(at('t.1012.exr'), 'R')[0]).toBeCloseTo(1.125, 6)
    expect(channel(at('t.1012.exr'), 'G')[0]).toBeCloseTo(1.875, 6)
    expect(existsSync(at('t.1003.exr'))).toBe(false)
  })

  it('bakes the height and the normal of a displacement: a slope of 0.1', async () => {
    await bake(document, '--on', plane, '--relief', 'height', '--size', '8x8', '-o', at('h.exr'))
    expect(channel(at('h.exr'), 'Y')[3]).toBeCloseTo(0.1 * (3.5 / 8), 6)
    await bake(document, '--on', plane, '--relief', 'normal', '--size', '8x8', '-o', at('n.png'))
    const { data, depth } = decode(readFileSync(at('n.png')))
    expect(depth).toBe(16)
    const l = Math.hypot(0.1, 1)
    for (const [k, n] of [-0.1 / l, 0, 1 / l].entries()) expect(data[k]! / 65535).toBeCloseTo(n / 2 + 0.5, 4)
  })

  it('encodes PNGs of colours when asked (IEC 61966-2-1: 0.5 is 0.7354)', async () => {
    await bake(...[document, '--on', plane, '--node', 'half', '--size', '2x2', '--srgb', '-o', at('c.png')])
    expect(decode(readFileSync(at('c.png'))).data[0]! / 65535).toBeCloseTo(0.7354, 4)
  })

  it('bakes fields over coordinates that it makes: the curvature of a sphere', async () => {
    const ball = file(
      'ball.ply',
      writePly({ parts: [{ ...sphere('ball', 0.5, 64, 128), uv: new Float32Array(0) }] }),
    )
    const field = ['--field', 'curvature', '--radius', '100mm', '--size', '32x32', '-o', at('f.exr')]
    await expect(bake('--on', ball, ...field)).rejects.toThrow('no part has texture coordinates in set 1')
    const { files } = await bake('--on', ball, '--unwrap', '--padding', '0', ...field)
    expect(files[0]!.twice).toBe(0)
    const values = channel(at('f.exr'), 'Y').filter(x => x !== 0)
    const mean = values.reduce((s, x) => s + x, 0) / values.length
    expect(Math.abs(mean - 2)).toBeLessThan(0.1)
  })

  it('says what is wrong', async () => {
    const rest = ['--on', plane, '-o', at('x.exr')]
    await expect(bake(document, ...rest)).rejects.toThrow('one of --node, --relief and --field')
    await expect(bake(document, ...rest, '--node', 's')).rejects.toThrow('is a surface')
    await expect(bake(document, ...rest, '--node', 'uv', '--part', '../x')).rejects.toThrow(
      'there is no part ../x',
    )
    await expect(bake(document, ...rest, '--node', 'uv', '--set', '2')).rejects.toThrow('set 2')
    await expect(bake(document, ...rest, '--node', 'uv', '--srgb')).rejects.toThrow('linear')
  })
})
