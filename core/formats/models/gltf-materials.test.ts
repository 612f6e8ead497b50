import { Document, WebIO } from '@gltf-transform/core'
import {
  KHRMaterialsClearcoat,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsTransmission,
  KHRMaterialsVolume,
} from '@gltf-transform/extensions'
import { describe, expect, it } from 'vitest'
import { compileNetwork } from '../../network/compile'
import { instantiate } from '../../network/instantiate'
import { createTexture } from '../../maps/texture'
import { childNamed, inputOf, nameOf } from '../../network/document'
import { valueAt } from '../../testing/setup'
import { modelOf, parseGlb } from './glb'
import { materialsOfGltf } from './gltf-materials'
import { writePng } from '../pictures/png'
import { memory } from '../../nodes/memory'

const { result } = memory

/** A file made by the reference library: one triangle of each material. */
async function file(): Promise<Uint8Array> {
  const d = new Document()
  const buffer = d.createBuffer()
  const scene = d.createScene()
  const position = d
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]))
    .setBuffer(buffer)
  const texture = (name: string, rgba: number[]) =>
    d
      .createTexture(name)
      .setMimeType('image/png')
      .setImage(writePng(1, 1, Uint8Array.from(rgba)) as Uint8Array<ArrayBuffer>)
  const mapped = d
    .createMaterial('Mapped <1>')
    .setBaseColorFactor([1, 0.5, 1, 1])
    .setBaseColorTexture(texture('colour', [255, 255, 255, 255]))
    .setMetallicFactor(1)
    .setRoughnessFactor(0.5)
    .setMetallicRoughnessTexture(texture('mr', [0, 128, 255, 255]))
    .setNormalTexture(texture('normal', [128, 128, 255, 255]))
    .setNormalScale(0.7)
    .setAlphaMode('BLEND')
    .setOcclusionTexture(texture('ao', [9, 9, 9, 255]))
  const glass = d
    .createMaterial('Glass')
    .setMetallicFactor(0)
    .setRoughnessFactor(0)
    .setExtension('KHR_materials_ior', d.createExtension(KHRMaterialsIOR).createIOR().setIOR(1.45))
    .setExtension(
      'KHR_materials_transmission',
      d.createExtension(KHRMaterialsTransmission).createTransmission().setTransmissionFactor(1),
    )
    .setExtension(
      'KHR_materials_volume',
      d
        .createExtension(KHRMaterialsVolume)
        .createVolume()
        .setAttenuationColor([0.9, 0.5, 0.5])
        .setThicknessFactor(0.01)
        .setAttenuationDistance(0.02),
    )
  const lamp = d
    .createMaterial('Lamp')
    .setEmissiveFactor([1, 0.5, 0.25])
    .setExtension(
      'KHR_materials_emissive_strength',
      d.createExtension(KHRMaterialsEmissiveStrength).createEmissiveStrength().setEmissiveStrength(5),
    )
    .setExtension(
      'KHR_materials_clearcoat',
      d
        .createExtension(KHRMaterialsClearcoat)
        .createClearcoat()
        .setClearcoatFactor(0.8)
        .setClearcoatRoughnessFactor(0.1),
    )
  for (const m of [mapped, glass, lamp, null])
    scene.addChild(
      d
        .createNode(m?.getName() ?? 'Bare')
        .setMesh(
          d.createMesh().addPrimitive(d.createPrimitive().setAttribute('POSITION', position).setMaterial(m)),
        ),
    )
  return new WebIO()
    .registerExtensions([
      KHRMaterialsClearcoat,
      KHRMaterialsEmissiveStrength,
      KHRMaterialsIOR,
      KHRMaterialsTransmission,
      KHRMaterialsVolume,
    ])
    .writeBinary(d)
}

describe('materials of a glTF', () => {
  it('become networks that compile, each part knowing its own', async () => {
    const document = await parseGlb(await file())
    const materials = materialsOfGltf(document)
    expect(modelOf(document).materialOf).toEqual([0, 1, 2, -1])
    expect(materials.map(m => m.name)).toEqual(['Mapped <1>', 'Glass', 'Lamp'])
    for (const m of materials)
      expect(
        compileNetwork(m.document, nameOf(m.document.children.find(c => c.tag === 'surfacematerial')!)).faults,
        m.name,
      ).toEqual([])
  })
  it('maps are read in their space and channel, times their factor', async () => {
    const [mapped] = materialsOfGltf(await parseGlb(await file()))
    const d = mapped!.document
    expect(mapped!.images.map(i => i.name)).toEqual(['colour.png', 'mr.png', 'normal.png'])
    expect(inputOf(childNamed(d, 'colour_map')!, 'file')!.attributes.colorspace).toBe('srgb_texture')
    expect(inputOf(childNamed(d, 'metal_roughness_map')!, 'file')!.attributes.colorspace).toBeUndefined()
    const value = (input: string, rgba: number[]) => {
      const p = compileNetwork(d, inputOf(childNamed(d, 'stock')!, input)!.attributes.nodename!)
      return valueAt(
        instantiate(p, [createTexture(1, 1, Uint8Array.from(rgba), p.images[0]!.colorspace)]),
        Float64Array.from(p.constants),
        result,
        0.5,
        0.5,
      ).slice(0, p.size)
    }
    expect(value('specular_roughness', [0, 51, 255, 255])[0]).toBeCloseTo(0.1, 6) // 0.2 in green, factor 0.5
    expect(value('base_metalness', [0, 51, 255, 255])[0]).toBeCloseTo(1, 6)
    value('base_color', [255, 255, 255, 255]).forEach((x, k) => expect(x).toBeCloseTo([1, 0.5, 1][k]!, 6))
    expect(inputOf(childNamed(d, 'relief')!, 'scale')!.attributes.value).toBe('0.7')
    expect(mapped!.lost.join(' ')).toMatch(/occlusion/)
  })
  it('extensions become inputs of the surface', async () => {
    const [, glass, lamp] = materialsOfGltf(await parseGlb(await file()))
    const of = (m: typeof glass, i: string) => inputOf(childNamed(m!.document, 'stock')!, i)?.attributes.value
    expect(
      ['specular_ior', 'transmission_weight', 'transmission_color', 'transmission_depth'].map(i => of(glass, i)),
    ).toEqual(['1.45', '1', '0.9, 0.5, 0.5', '0.02'])
    expect(
      ['emission_luminance', 'emission_color', 'coat_weight', 'coat_roughness', 'coat_darkening'].map(i =>
        of(lamp, i),
      ),
    ).toEqual(['5', '1, 0.5, 0.25', '0.8', '0.1', '0'])
  })
})
