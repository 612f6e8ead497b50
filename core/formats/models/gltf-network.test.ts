/** What glTF says of pictures, against three's own transform of coordinates; of opacity, vertex colours and maps. */
import { Document, type Material, type Texture } from '@gltf-transform/core'
import {
  KHRMaterialsSheen,
  KHRMaterialsSpecular,
  KHRMaterialsUnlit,
  KHRTextureTransform,
} from '@gltf-transform/extensions'
import { Texture as ThreeTexture, Vector2 } from 'three'
import { describe, expect, it } from 'vitest'
import { createTexture } from '../../maps/texture'
import { compileNetwork } from '../../network/compile'
import { childNamed, inputOf } from '../../network/document'
import { instantiate } from '../../network/instantiate'
import { memory } from '../../nodes/memory'
import { valueAt } from '../../testing/setup'
import { writePng } from '../pictures/png'
import { materialsOfGltf } from './gltf-materials'

const { result } = memory

const textureIn = (d: Document, rgba: readonly number[]): Texture =>
  d
    .createTexture('t')
    .setMimeType('image/png')
    .setImage(writePng(1, 1, Uint8Array.from(rgba)) as Uint8Array<ArrayBuffer>)

/** Value of a node of the only material of a document, its pictures of one pixel being as `rgba` says. */
function valueOf(
  d: Document,
  node: string,
  u = 0.5,
  v = 0.5,
  rgba: readonly number[] = [255, 255, 255, 255],
): number[] {
  const [material] = materialsOfGltf(d)
  const program = compileNetwork(material!.document, node)
  expect(program.faults.filter(f => f.severity === 'error')).toEqual([])
  const picture = createTexture(1, 1, Uint8Array.from(rgba), 'raw')
  const shader = instantiate(
    program,
    program.images.map(() => picture),
  )
  return valueAt(shader, Float64Array.from(program.constants), result, u, v)
}

const only = (build: (d: Document, m: Material) => void): Document => {
  const d = new Document()
  build(d, d.createMaterial('m'))
  return d
}

/** A material whose picture is moved by KHR_texture_transform. */
const moved = (offset: [number, number], rotation: number, scale: [number, number]): Document =>
  only((d, m) => {
    m.setBaseColorTexture(textureIn(d, [255, 255, 255, 255]))
    m.getBaseColorTextureInfo()!.setExtension(
      'KHR_texture_transform',
      d
        .createExtension(KHRTextureTransform)
        .createTransform()
        .setOffset(offset)
        .setRotation(rotation)
        .setScale(scale),
    )
  })

describe('pictures of glTF materials', () => {
  it.each([
    [[0.2, 0.3], 0, [2, 3]],
    [[0, 0], 0.6, [1, 1]],
    [[-0.4, 0.1], -1.1, [2.5, 2.5]],
    [[0.5, 0.5], Math.PI / 2, [1, 1]],
  ] as [[number, number], number, [number, number]][])(
    'lie where KHR_texture_transform puts them: offset %j, turned by %d, scale %j',
    (offset, rotation, scale) => {
      const d = moved(offset, rotation, scale)
      const three = new ThreeTexture()
      three.flipY = false
      three.offset.set(...offset)
      three.rotation = rotation
      three.repeat.set(...scale)
      three.updateMatrix()
      for (const [u, v] of [
        [0, 0],
        [1, 0],
        [0.3, 0.8],
        [0.9, 0.4],
      ] as const) {
        // ours runs up: v of the file is 1 − v
        const wanted = new Vector2(u, 1 - v).applyMatrix3(three.matrix)
        const got = valueOf(d, 'placement_1', u, v)
        expect(got[0]).toBeCloseTo(wanted.x, 5)
        expect(got[1]).toBeCloseTo(1 - wanted.y, 5)
      }
    },
  )

  it('scale before they turn, where both sides differ (the extension’s matrix: translation · rotation · scale)', () => {
    const [ox, oy, turn, sx, sy] = [0.1, 0.2, 0.5, 2, 3]
    const d = moved([ox, oy], turn, [sx, sy])
    for (const [u, v] of [
      [0.2, 0.7],
      [0.8, 0.1],
    ] as const) {
      const [x, y] = [u * sx, (1 - v) * sy]
      const got = valueOf(d, 'placement_1', u, v)
      expect(got[0]).toBeCloseTo(ox + Math.cos(turn) * x + Math.sin(turn) * y, 5)
      expect(1 - got[1]!).toBeCloseTo(oy - Math.sin(turn) * x + Math.cos(turn) * y, 5)
    }
  })

  it('keep their set of coordinates and their address modes', () => {
    const d = only((d, m) => {
      m.setBaseColorTexture(textureIn(d, [255, 255, 255, 255]))
      m.getBaseColorTextureInfo()!.setTexCoord(1).setWrapS(33071).setWrapT(33648)
    })
    const [material] = materialsOfGltf(d)
    const image = childNamed(material!.document, 'colour_map')!
    expect(inputOf(image, 'uaddressmode')!.attributes.value).toBe('clamp')
    expect(inputOf(image, 'vaddressmode')!.attributes.value).toBe('mirror')
    const coordinates = childNamed(material!.document, inputOf(image, 'texcoord')!.attributes.nodename!)!
    expect(inputOf(coordinates, 'index')!.attributes.value).toBe('1')
    expect(material!.lost).toEqual([])
  })
})

describe('what glTF materials say', () => {
  const alpha = (mode: 'MASK' | 'BLEND', value: number, cutoff: number) =>
    only((d, m) =>
      m
        .setAlphaMode(mode)
        .setAlphaCutoff(cutoff)
        .setBaseColorFactor([1, 1, 1, value])
        .setBaseColorTexture(textureIn(d, [255, 255, 255, 128])),
    )
  it('opacity is the picture’s alpha, cut off or blended (glTF 2.0 §3.9.4)', () => {
    const half = [255, 255, 255, 128]
    expect(valueOf(alpha('BLEND', 0.5, 0), 'alpha_scaled', 0.5, 0.5, half)[0]).toBeCloseTo(128 / 255 / 2, 4)
    expect(valueOf(alpha('MASK', 1, 0.4), 'cut_off', 0.5, 0.5, half)[0]).toBe(1)
    expect(valueOf(alpha('MASK', 1, 0.6), 'cut_off', 0.5, 0.5, half)[0]).toBe(0)
  })

  it('vertex colours are multiplied in', () => {
    const d = only((d, m) => {
      m.setBaseColorFactor([0.5, 1, 1, 1])
      const buffer = d.createBuffer()
      const accessor = (array: Float32Array) =>
        d.createAccessor().setType('VEC3').setArray(array).setBuffer(buffer)
      const p = d
        .createPrimitive()
        .setMaterial(m)
        .setAttribute('POSITION', accessor(new Float32Array(9)))
        .setAttribute('COLOR_0', accessor(new Float32Array(9)))
      d.createMesh().addPrimitive(p)
    })
    const surface = childNamed(materialsOfGltf(d)[0]!.document, 'stock')!
    const node = inputOf(surface, 'base_color')!.attributes.nodename!
    // the plane of the test has white vertices
    expect(valueOf(d, node).slice(0, 3)).toEqual([0.5, 1, 1])
    expect(node).toContain('vertex_colour')
  })

  it('sheen and specular maps are read from their alpha; what is unlit shines by itself', () => {
    const d = only((d, m) => {
      m.setExtension(
        'KHR_materials_sheen',
        d
          .createExtension(KHRMaterialsSheen)
          .createSheen()
          .setSheenColorFactor([1, 1, 1])
          .setSheenRoughnessFactor(0.5)
          .setSheenRoughnessTexture(textureIn(d, [0, 0, 0, 128])),
      )
      m.setExtension(
        'KHR_materials_specular',
        d
          .createExtension(KHRMaterialsSpecular)
          .createSpecular()
          .setSpecularTexture(textureIn(d, [0, 0, 0, 51])),
      )
    })
    expect(valueOf(d, 'fuzz_roughness_scaled', 0.5, 0.5, [0, 0, 0, 128])[0]).toBeCloseTo(128 / 255 / 2, 4)
    expect(valueOf(d, 'specular_weight_of_specular_map', 0.5, 0.5, [0, 0, 0, 51])[0]).toBeCloseTo(0.2, 4)
    const unlit = only((d, m) =>
      m
        .setBaseColorFactor([0.2, 0.4, 0.6, 1])
        .setExtension('KHR_materials_unlit', d.createExtension(KHRMaterialsUnlit).createUnlit()),
    )
    const surface = childNamed(materialsOfGltf(unlit)[0]!.document, 'stock')!
    expect(inputOf(surface, 'emission_color')!.attributes.value).toBe('0.2, 0.4, 0.6')
    expect(inputOf(surface, 'base_weight')!.attributes.value).toBe('0')
  })
})
