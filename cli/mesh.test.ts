import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { readPly } from '../core/formats/models/ply'
import { writePly } from '../core/formats/models/ply-write'
import { sphere } from '../core/mesh/sphere'
import { command } from './commands/mesh'
import { parseOptions } from './options'

const folder = mkdtempSync(join(tmpdir(), 'wavelume-mesh-'))
afterAll(() => rmSync(folder, { recursive: true }))
const file = (name: string, content: string | Uint8Array): string => {
  const path = join(folder, name)
  writeFileSync(path, content)
  return path
}
const corners = [0, 1, 2, 3, 4, 5, 6, 7].map(i => `v ${i & 1 ? 1 : -1} ${i & 2 ? 1 : -1} ${i & 4 ? 1 : -1}\n`)
const cube = file(
  'cube.obj',
  `${corners.join('')}f 1 3 4 2\nf 5 6 8 7\nf 1 2 6 5\nf 3 7 8 4\nf 1 5 7 3\nf 2 4 8 6\n`,
)
const ball = file('ball.ply', writePly({ parts: [sphere('ball', 0.5, 48, 96)] }))
const even = file(
  'even.mtlx',
  `<?xml version="1.0"?><materialx version="1.39"><open_pbr_surface name="s" type="surfaceshader"/>
  <displacement name="d" type="displacementshader"><input name="displacement" type="float" value="0.1"/></displacement>
  <surfacematerial name="m" type="material"><input name="surfaceshader" type="surfaceshader" nodename="s"/>
  <input name="displacementshader" type="displacementshader" nodename="d"/></surfacematerial></materialx>`,
)

interface Facts {
  vertices: number
  triangles: number
  closed: boolean
  volume: number
  area: number
  bounds: { min: number[]; max: number[] }
  bytes: number
  seconds: number
  field?: { min: number; max: number; mean: number }
}
const mesh = (...args: string[]): Promise<Facts> =>
  command.run(parseOptions(args, command.takes(args))) as Promise<Facts>

describe('mesh', () => {
  it('says what a mesh is', async () => {
    const facts = await mesh(cube)
    expect(facts).toMatchObject({ triangles: 12, closed: true, volume: 8, area: 24 })
    expect(facts.bounds).toEqual({ min: [-1, -1, -1], max: [1, 1, 1] })
    expect(facts.bytes).toBeGreaterThan(0)
  })

  it('subdivides: four faces of one, the corner of a cube at 5/9; sharp edges stay', async () => {
    const out = join(folder, 'cube1.ply')
    expect(await mesh(cube, '--subdivide', '1', '-o', out)).toMatchObject({ triangles: 48, closed: true })
    const { position } = readPly(new Uint8Array(readFileSync(out)))
    const at = Array.from({ length: position.length / 3 }, (_, v) => [...position.subarray(v * 3, v * 3 + 3)])
    expect(at.filter(p => p.every(x => Math.abs(Math.abs(x) - 5 / 9) < 1e-6)).length).toBeGreaterThanOrEqual(8)
    expect((await mesh(cube, '--subdivide', '2', '--crease', '45')).volume).toBeCloseTo(8, 5)
  })

  it('displaces: a sphere moved by d has the volume of R + d', async () => {
    const before = await mesh(ball)
    const after = await mesh(ball, '--displace', even, '--edge', '20mm')
    expect(after.closed).toBe(true)
    expect(after.triangles).toBeGreaterThan(before.triangles)
    expect(after.volume / before.volume).toBeCloseTo((0.6 / 0.5) ** 3, 3)
    expect(after.bytes / after.triangles).toBeLessThan(110)
  })

  it('writes fields to the vertices of a PLY', async () => {
    const out = join(folder, 'field.ply')
    const { field } = await mesh(ball, '--field', 'curvature', '--radius', '100mm', '-o', out)
    expect(Math.abs(field!.mean - 2)).toBeLessThan(0.15)
    const text = readFileSync(out).subarray(0, 400).toString('latin1')
    expect(text).toContain('property float curvature\n')
    expect((await mesh(ball, '--field', 'occlusion', '--radius', '10cm')).field).toEqual({
      min: 0,
      max: 0,
      mean: 0,
    })
  })

  it.each([
    ['a field without a radius', [cube, '--field', 'curvature'], /needs a --radius/],
    ['a field of its own', [cube, '--field', 'constructor', '--radius', '1mm'], /no field constructor/],
    ['a side of its own', [cube, '--field', 'curvature', '--radius', '1mm', '--side', 'up'], /no side up/],
    ['half a step', [cube, '--subdivide', '1.5'], /whole number/],
    ['too many steps', [cube, '--subdivide', '9'], /from 0 to 6/],
    ['an edge of nothing', [cube, '--displace', even, '--edge', '0mm'], /above 0/],
    ['a material that is not there', [cube, '--displace', even, '--material', 'x'], /no material x/],
    ['an ending that is not written', [cube, '-o', 'x.stl'], /has to end in/],
  ])('%s is refused', async (_, args, says) => {
    await expect(mesh(...args)).rejects.toThrow(says)
  })
})
