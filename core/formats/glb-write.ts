import { Accessor, Document, WebIO } from '@gltf-transform/core'
import type { Model } from '../mesh/model'

/** Writes a model as binary glTF 2.0, one named node a part. */
export async function writeGlb(model: Model): Promise<Uint8Array> {
  const document = new Document(), buffer = document.createBuffer(), scene = document.createScene('Scene')
  const accessor = (type: 'VEC2' | 'VEC3' | 'VEC4' | 'SCALAR', array: Float32Array | Uint32Array) => document.createAccessor().setType(Accessor.Type[type]!).setArray(array as Float32Array<ArrayBuffer>).setBuffer(buffer)
  for (const p of model.parts) {
    const primitive = document.createPrimitive().setIndices(accessor('SCALAR', p.index)).setAttribute('POSITION', accessor('VEC3', p.position)).setAttribute('NORMAL', accessor('VEC3', p.normal))
    if (p.uv.length) primitive.setAttribute('TEXCOORD_0', accessor('VEC2', p.uv.map((x, i) => i % 2 ? 1 - x : x)))
    if (p.colour) primitive.setAttribute('COLOR_0', accessor('VEC4', p.colour))
    scene.addChild(document.createNode(p.name).setMesh(document.createMesh(p.name).addPrimitive(primitive)))
  }
  return new WebIO().writeBinary(document)
}
