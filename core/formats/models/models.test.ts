import { describe, expect, it } from 'vitest'
import { compileNetwork } from '../../network/compile'
import { findElement, inputOf } from '../../network/document'
import { sphere } from '../../mesh/sphere'
import { FormatError } from '../error'
import { readGlb } from './glb'
import { writeGlb } from './glb-write'
import { writePng } from '../pictures/png'
import { extentOf, scaleModel } from '../../mesh/extent'
import { readModelFiles } from '.'
import { materialsOfMtl } from './mtl'

const bytes = (text: string) => new TextEncoder().encode(text)
const OBJ = `mtllib crate.mtl
o Lid
v 0 0 0
v 2 0 0
v 2 3 0
v 0 3 0
usemtl Oak 1
f 1 2 3
usemtl Steel
f 1 3 4
`
const MTL = `# made by hand
newmtl Oak 1
Kd 0.4 0.2 0.1
Ns 98
map_Kd -s 1 1 1 textures\\oak grain.png
bump -bm 0.4 oak_height.png
newmtl Steel
Kd 0.5 0.5 0.5
Pm 1
Pr 0.3
Ni 1.45
d 0.25
Ke 1 0.5 0
`
const png = writePng(1, 1, Uint8Array.from([9, 9, 9, 255]))

describe('OBJ with its materials', () => {
  const files = [
    { name: 'crate.obj', bytes: bytes(OBJ) },
    { name: 'crate.mtl', bytes: bytes(MTL) },
    { name: 'oak grain.png', bytes: png },
  ]
  it('parts are told apart by object and material, and find theirs', async () => {
    const { model, materialOf, materials, unitKnown } = await readModelFiles(files)
    expect(model.parts.map(p => p.name)).toEqual(['Lid', 'Lid 2'])
    expect(materialOf.map(n => materials[n]?.name)).toEqual(['Oak 1', 'Steel'])
    expect(unitKnown).toBe(false)
    expect(extentOf(model)).toEqual([2, 3, 0])
    scaleModel(model, 0.001)
    expect(extentOf(model).map(x => +x.toFixed(9))).toEqual([0.002, 0.003, 0])
  })
  it('become networks that compile: maps by their names in any folder, Ns 98 as roughness √√(2/100)', async () => {
    const { materials } = await readModelFiles(files)
    const oak = materials[0]!
    const steel = materials[1]!
    const of = (m: typeof oak, name: string) => inputOf(findElement(m.document, 'stock')!, name)?.attributes
    expect(of(oak, 'base_color')).toMatchObject({ nodename: 'colour_map' })
    expect(oak.images.map(i => i.name)).toEqual(['oak grain.png'])
    expect(Number(of(oak, 'specular_roughness')!.value)).toBeCloseTo(Math.sqrt(Math.sqrt(0.02)), 4)
    expect(oak.lost).toEqual(['the map oak_height.png did not come with it'])
    expect(of(steel, 'base_metalness')!.value).toBe('1')
    expect(of(steel, 'specular_roughness')!.value).toBe('0.3')
    expect(of(steel, 'specular_ior')!.value).toBe('1.45')
    expect(of(steel, 'transmission_weight')!.value).toBe('0.75')
    expect(of(steel, 'emission_color')!.value).toBe('1, 0.5, 0')
    for (const m of materials)
      expect(compileNetwork(m.document, 'stock').faults.filter(f => f.severity === 'error')).toEqual([])
  })
  it('a height map drives bump with its own scale', () => {
    const [oak] = materialsOfMtl(MTL, new Map([['oak_height.png', png]]))
    const bump = findElement(oak!.document, 'relief')!
    expect(bump.tag).toBe('bump')
    expect(inputOf(bump, 'scale')!.attributes.value).toBe('0.4')
    expect(oak!.lost).toEqual(['the map oak grain.png did not come with it'])
  })
  it('what did not come is said, and the parts are there all the same', async () => {
    const r = await readModelFiles([files[0]!])
    expect(r.missing).toEqual(['the material library crate.mtl did not come with it'])
    expect(r.materialOf).toEqual([-1, -1])
  })
  it('faults name the line', () => {
    expect(() => materialsOfMtl('Kd 1 1 1', new Map())).toThrow('line 1')
    expect(() => materialsOfMtl('newmtl a\nKd red', new Map())).toThrow('line 2')
  })
})

describe('other models', () => {
  it('no model among the files is said', async () => {
    await expect(readModelFiles([{ name: 'a.png', bytes: png }])).rejects.toThrow('none of the files is a model')
  })
  it('glTF of several files is read with the files it names, and only by their names', async () => {
    const buffer = new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0])
    const gltf = (uri: string) =>
      bytes(
        JSON.stringify({
          asset: { version: '2.0' },
          scenes: [{ nodes: [0] }],
          nodes: [{ mesh: 0, name: 'Sail' }],
          meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
          accessors: [
            { bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [1, 1, 0] },
          ],
          bufferViews: [{ buffer: 0, byteLength: 36 }],
          buffers: [{ uri, byteLength: 36 }],
        }),
      )
    const bin = { name: 'sail 1.bin', bytes: new Uint8Array(buffer.buffer) }
    const { model, unitKnown } = await readModelFiles([
      { name: 'sail.gltf', bytes: gltf('../../sail%201.bin') },
      bin,
    ])
    expect(model.parts.map(p => [p.name, p.index.length])).toEqual([['Sail', 3]])
    expect(unitKnown).toBe(true)
    await expect(readModelFiles([{ name: 'sail.gltf', bytes: gltf('other.bin') }, bin])).rejects.toThrow(
      'other.bin, which did not come with it',
    )
    await expect(readModelFiles([{ name: 'sail.gltf', bytes: bytes('{}') }])).rejects.toThrow(FormatError)
  })
  it('a model written as GLB comes back with its vertex colours', async () => {
    const part = sphere('Float', 1, 4, 6)
    part.colour = new Float32Array((part.position.length / 3) * 4).fill(0.25)
    const back = (await readGlb(await writeGlb({ parts: [part] }))).parts[0]!
    expect(back.name).toBe('Float')
    expect(Array.from(back.colour!)).toEqual(Array.from(part.colour))
    expect(back.position).toEqual(part.position)
  })
})
