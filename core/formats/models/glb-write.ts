import { Accessor, Document, WebIO, type Mesh } from '@gltf-transform/core'
import type { Model, Part } from '../../mesh/model'
import { withoutCopy } from '../../mesh/transform'

/**
 * Writes a model as binary glTF 2.0, one named node a part; copies share their mesh where the format's turn, scale
 * and shift of a node can say how they lie.
 */
export async function writeGlb(model: Model): Promise<Uint8Array> {
  const document = new Document()
  const buffer = document.createBuffer()
  const scene = document.createScene('Scene')
  const meshes = new Map<Part, Mesh>()
  const accessor = (type: 'VEC2' | 'VEC3' | 'VEC4' | 'SCALAR', array: Float32Array | Uint32Array) =>
    document
      .createAccessor()
      .setType(Accessor.Type[type]!)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer)
  const meshOf = (p: Part): Mesh => {
    const known = meshes.get(p)
    if (known) return known
    const primitive = document
      .createPrimitive()
      .setIndices(accessor('SCALAR', p.index))
      .setAttribute('POSITION', accessor('VEC3', p.position))
      .setAttribute('NORMAL', accessor('VEC3', p.normal))
    const mesh = document.createMesh(p.name).addPrimitive(primitive)
    if (p.uv.length)
      primitive.setAttribute(
        'TEXCOORD_0',
        accessor(
          'VEC2',
          p.uv.map((x, i) => (i % 2 ? 1 - x : x)),
        ),
      )
    p.uvMore?.forEach((set, k) => {
      if (set.length)
        primitive.setAttribute(
          `TEXCOORD_${k + 1}`,
          accessor(
            'VEC2',
            set.map((x, i) => (i % 2 ? 1 - x : x)),
          ),
        )
    })
    if (p.tangent) primitive.setAttribute('TANGENT', accessor('VEC4', p.tangent))
    if (p.colour) primitive.setAttribute('COLOR_0', accessor('VEC4', p.colour))
    meshes.set(p, mesh)
    return mesh
  }
  for (const p of model.parts) {
    const node = document.createNode(p.name)
    const t = p.copy?.transform
    scene.addChild(node)
    if (t) {
      // column by column
      const wanted = Array.from({ length: 16 }, (_, i) =>
        i % 4 < 3 ? t[(i % 4) * 4 + Math.floor(i / 4)]! : i === 15 ? 1 : 0,
      )
      const said = node.setMatrix(wanted as Parameters<typeof node.setMatrix>[0]).getMatrix()
      const size = Math.max(...wanted.map(Math.abs))
      if (said.every((x, i) => Math.abs(x - wanted[i]!) <= 1e-6 * size)) {
        node.setMesh(meshOf(model.parts[p.copy!.of]!))
        continue
      }
      node.setMatrix([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])
    }
    node.setMesh(meshOf(withoutCopy(model, p)))
  }
  return new WebIO().writeBinary(document)
}
