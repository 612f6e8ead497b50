/** Meshes packed by other writers: draco3dgltf's and meshoptimizer's own encoders, by gltf-transform. */
import { Document, Primitive, WebIO } from '@gltf-transform/core'
import {
  EXTMeshGPUInstancing,
  EXTMeshoptCompression,
  KHRDracoMeshCompression,
  KHRMeshQuantization,
} from '@gltf-transform/extensions'
import draco from 'draco3dgltf'
import { MeshoptEncoder } from 'meshoptimizer'
import { beforeAll, describe, expect, it } from 'vitest'
import { loadDraco } from '../../../cli/draco'
import { volumeOf } from '../../mesh/measures'
import { sphere } from '../../mesh/sphere'
import { setDraco } from './decoders'
import { glb } from './gltf'

beforeAll(() => setDraco(loadDraco))

const ball = sphere('ball', 1, 24, 48)

/** A document of one mesh. @param shift of its node */
function documentOf(index: Uint32Array | null, mode = Primitive.Mode.TRIANGLES!): Document {
  const document = new Document()
  const buffer = document.createBuffer()
  const accessor = (type: 'VEC3' | 'SCALAR', array: Float32Array | Uint32Array) =>
    document.createAccessor().setType(type).setArray(array.slice()).setBuffer(buffer)
  const primitive = document
    .createPrimitive()
    .setMode(mode as never)
    .setAttribute('POSITION', accessor('VEC3', ball.position))
    .setAttribute('NORMAL', accessor('VEC3', ball.normal))
  if (index) primitive.setIndices(accessor('SCALAR', index))
  const mesh = document.createMesh('ball').addPrimitive(primitive)
  document.createScene().addChild(document.createNode('ball').setMesh(mesh).setTranslation([0, 2, 0]))
  return document
}

const io = async () =>
  new WebIO()
    .registerExtensions([
      EXTMeshGPUInstancing,
      EXTMeshoptCompression,
      KHRDracoMeshCompression,
      KHRMeshQuantization,
    ])
    .registerDependencies({
      'draco3d.encoder': await draco.createEncoderModule(),
      'meshopt.encoder': (await MeshoptEncoder.ready, MeshoptEncoder),
    })

const read = async (document: Document) => glb.read(await (await io()).writeBinary(document), new Map())

describe('packed meshes of glTF', () => {
  it.each(['draco', 'meshopt', 'quantized'])('%s is the mesh that was packed', async kind => {
    const document = documentOf(ball.index)
    if (kind === 'draco') document.createExtension(KHRDracoMeshCompression).setRequired(true)
    if (kind === 'meshopt')
      document
        .createExtension(EXTMeshoptCompression)
        .setRequired(true)
        .setEncoderOptions({ method: EXTMeshoptCompression.EncoderMethod.QUANTIZE })
    if (kind === 'quantized') {
      document.createExtension(KHRMeshQuantization).setRequired(true)
      const p = document.getRoot().listMeshes()[0]!.listPrimitives()[0]!.getAttribute('POSITION')!
      p.setArray(Int16Array.from(ball.position, x => Math.round(x * 32767))).setNormalized(true)
    }
    const { model, missing } = await read(document)
    expect(missing).toEqual([])
    const part = model.parts[0]!
    const { position } = part
    expect(part.index.length).toBe(ball.index.length)
    const bounds = [Infinity, -Infinity]
    for (let i = 1; i < position.length; i += 3) {
      bounds[0] = Math.min(bounds[0]!, position[i]!)
      bounds[1] = Math.max(bounds[1]!, position[i]!)
      // on the ball about (0, 2, 0)
      const r = Math.hypot(position[i - 1]!, position[i]! - 2, position[i + 1]!)
      expect(Math.abs(r - 1)).toBeLessThan(2e-3)
    }
    expect(Math.abs(bounds[0]! - 1)).toBeLessThan(2e-3)
    expect(Math.abs(bounds[1]! - 3)).toBeLessThan(2e-3)
    expect(volumeOf(part) / volumeOf(ball)).toBeCloseTo(1, 2)
  })

  it('copies of EXT_mesh_gpu_instancing stand where they are placed', async () => {
    const document = documentOf(ball.index)
    const buffer = document.getRoot().listBuffers()[0]!
    const accessor = (type: 'VEC3' | 'VEC4', array: number[]) =>
      document.createAccessor().setType(type).setArray(new Float32Array(array)).setBuffer(buffer)
    const node = document.getRoot().listNodes()[0]!
    const h = Math.SQRT1_2
    node.setExtension(
      'EXT_mesh_gpu_instancing',
      document
        .createExtension(EXTMeshGPUInstancing)
        .createInstancedMesh()
        .setAttribute('TRANSLATION', accessor('VEC3', [0, 0, 0, 5, 0, 0, 0, 0, -5]))
        .setAttribute('ROTATION', accessor('VEC4', [0, 0, 0, 1, 0, h, 0, h, 0, 0, 0, 1]))
        .setAttribute('SCALE', accessor('VEC3', [1, 1, 1, 2, 1, 1, 1, 1, 1])),
    )
    const { model } = await read(document)
    expect(model.parts).toHaveLength(3)
    // the second is twice as wide along x, then turned by 90° about y, so it is wide along z
    const where = (part: number, k: number) => {
      const p = model.parts[part]!
      const source = p.copy ? model.parts[p.copy.of]! : p
      let low = Infinity
      let high = -Infinity
      for (let i = 0; i < source.position.length; i += 3) {
        const v = source.position.subarray(i, i + 3)
        const t = p.copy?.transform
        const x = t ? t[k * 4]! * v[0]! + t[k * 4 + 1]! * v[1]! + t[k * 4 + 2]! * v[2]! + t[k * 4 + 3]! : v[k]!
        low = Math.min(low, x)
        high = Math.max(high, x)
      }
      return [low, high]
    }
    for (const [part, k, low, high] of [
      [0, 0, -1, 1],
      [1, 0, 4, 6],
      [1, 2, -2, 2],
      [1, 1, 1, 3],
      [2, 2, -6, -4],
    ] as const) {
      expect(where(part, k)[0]).toBeCloseTo(low, 4)
      expect(where(part, k)[1]).toBeCloseTo(high, 4)
    }
  })

  it('strips and fans are triangles that turn one way (glTF 2.0 §3.7.2.1); lines and points are said', async () => {
    const square = (mode: Parameters<Primitive['setMode']>[0], index: number[]) => {
      const document = documentOf(Uint32Array.from(index), mode)
      const p = document.getRoot().listMeshes()[0]!.listPrimitives()[0]!
      p.getAttribute('POSITION')!.setArray(new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]))
      p.getAttribute('NORMAL')!.setArray(new Float32Array([0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1]))
      return document
    }
    for (const [mode, order] of [
      [Primitive.Mode.TRIANGLE_STRIP!, [0, 1, 3, 2]],
      [Primitive.Mode.TRIANGLE_FAN!, [0, 1, 2, 3]],
    ] as const) {
      const { model } = await read(square(mode, [...order]))
      const { position, index } = model.parts[0]!
      expect(index.length).toBe(6)
      let area = 0
      for (let t = 0; t < 6; t += 3) {
        const [a, b, c] = [0, 1, 2].map(k => index[t + k]! * 3) as [number, number, number]
        const twice =
          (position[b]! - position[a]!) * (position[c + 1]! - position[a + 1]!) -
          (position[b + 1]! - position[a + 1]!) * (position[c]! - position[a]!)
        expect(twice).toBeGreaterThan(0)
        area += twice / 2
      }
      expect(area).toBeCloseTo(1, 6)
    }
    const both = square(Primitive.Mode.TRIANGLES!, [0, 1, 2])
    const lines = both
      .getRoot()
      .listMeshes()[0]!
      .listPrimitives()[0]!
      .clone()
      .setMode(Primitive.Mode.LINES as never)
    both.getRoot().listMeshes()[0]!.addPrimitive(lines)
    const { missing } = await read(both)
    expect(missing).toEqual(['ball: its lines are no surface'])
  })
})
