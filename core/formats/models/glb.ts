import { MORE_SETS } from '../../point/slots'
import { worldTangents } from './gltf-tangents'
import { z } from 'zod'
import {
  Accessor,
  WebIO,
  type Document,
  type GLTF,
  type JSONDocument,
  type Node,
  type Primitive,
} from '@gltf-transform/core'
import {
  EXTMeshGPUInstancing,
  EXTMeshoptCompression,
  KHRDracoMeshCompression,
  KHRLightsPunctual,
  KHRMaterialsAnisotropy,
  KHRMaterialsClearcoat,
  KHRMaterialsDispersion,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsIridescence,
  KHRMaterialsSheen,
  KHRMaterialsSpecular,
  KHRMaterialsTransmission,
  KHRMaterialsUnlit,
  KHRMaterialsVolume,
  KHRMeshQuantization,
  KHRTextureTransform,
} from '@gltf-transform/extensions'
import { withCreases } from '../../mesh/crease'
import { uniqueName, type Model, type Part } from '../../mesh/model'
import { after, determinant, inverse, STILL } from '../../mesh/transform'
import { FormatError } from '../error'
import { checkPromise } from '../promises'
import { decodersFor } from './decoders'
import { notSurface, placesOf, rowsOf, triangleIndex } from './gltf-primitives'

/** Most triangles read from one file. */
const LARGEST = 20_000_000
/** Most parts read from one file, as many as a scene has room for. */
const MOST_PARTS = 100_000
/**
 * Fewest triangles of a mesh whose copies are kept as copies; below, a ray's way to the copy and back costs more
 * than it saves.
 */
const COPIED = 1000

const reader = () =>
  new WebIO().registerExtensions([
    EXTMeshGPUInstancing,
    EXTMeshoptCompression,
    KHRDracoMeshCompression,
    KHRLightsPunctual,
    KHRMaterialsAnisotropy,
    KHRMaterialsClearcoat,
    KHRMaterialsDispersion,
    KHRMaterialsEmissiveStrength,
    KHRMaterialsIOR,
    KHRMaterialsIridescence,
    KHRMaterialsSheen,
    KHRMaterialsSpecular,
    KHRMaterialsTransmission,
    KHRMaterialsUnlit,
    KHRMaterialsVolume,
    KHRMeshQuantization,
    KHRTextureTransform,
  ])

/**
 * Parses a binary glTF 2.0 with the extensions that are translated.
 * @throws FormatError where the file is damaged or refers to other files
 */
export async function parseGlb(bytes: Uint8Array): Promise<Document> {
  if (bytes.length < 20 || new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true) !== 0x46546c67)
    throw new FormatError('GLB', 'not a binary glTF file')
  const declared = new DataView(bytes.buffer, bytes.byteOffset).getUint32(8, true)
  if (declared > bytes.length)
    throw new FormatError(
      'GLB',
      `the file ends early: ${bytes.length} of ${declared} bytes`,
      `byte ${bytes.length}`,
    )
  return documentOf('GLB', io => io.binaryToJSON(bytes), bytes.length)
}

const whole = z.number().int().min(0).max(Number.MAX_SAFE_INTEGER)
const promising = z.object({
  accessors: z
    .array(
      z.object({
        count: whole,
        type: z.enum(Object.values(Accessor.Type)),
        componentType: z.literal(Object.values(Accessor.ComponentType)),
        bufferView: whole.optional(),
        byteOffset: whole.optional(),
      }),
    )
    .optional(),
  bufferViews: z.array(z.object({ byteLength: whole })).optional(),
})

/** Holds what accessors promise against what their views hold; those without one are zeros, which take room. */
function checkAccessors(format: string, json: unknown, file: number): void {
  const read = promising.safeParse(json)
  if (!read.success) {
    const { path, message } = read.error.issues[0]!
    throw new FormatError(format, message, path.join('/') || 'the document')
  }
  const { accessors = [], bufferViews = [] } = read.data
  let needs = 0
  accessors.forEach(({ count, type, componentType, bufferView, byteOffset = 0 }, i) => {
    const size = count * Accessor.getElementSize(type) * Accessor.getComponentSize(componentType)
    needs += size
    if (bufferView === undefined) return
    const there = bufferViews[bufferView]
    if (!there || byteOffset + size > there.byteLength)
      throw new FormatError(format, `it promises ${count} elements, more than its view holds`, `accessors/${i}`)
  })
  checkPromise({ format, what: `${accessors.length} accessors`, needs, least: 0, file })
}

/**
 * A document of what its text and its buffers are.
 * @throws FormatError where it is damaged, or promises more than it holds
 */
async function documentOf(
  format: string,
  open: (io: WebIO) => Promise<JSONDocument>,
  file: number,
): Promise<Document> {
  try {
    const io = reader()
    const parts = await open(io)
    checkAccessors(format, parts.json, file)
    io.registerDependencies(await decodersFor(parts.json.extensionsUsed ?? []))
    return await io.readJSON(parts)
  } catch (e) {
    if (e instanceof FormatError) throw e
    throw new FormatError(format, e instanceof Error ? e.message : 'the file is damaged')
  }
}

/** What a document says of other files, before anything is read of it. */
const file = z.object({ uri: z.string().optional() })
const namedFiles = z.object({ buffers: z.array(file).optional(), images: z.array(file).optional() })

/** Last name of a URI, with its escapes undone where they are well formed. */
function plainName(uri: string): string {
  let path = uri
  try {
    path = decodeURIComponent(uri)
  } catch {
    // a name with a bare % is taken as it stands
  }
  return path.split(/[\\/]/).at(-1)!
}

/**
 * Parses a glTF 2.0 of several files.
 * @param files by name, as the document names them
 * @throws FormatError where the document is damaged or names a file that is not there
 */
export async function parseGltf(text: string, files: ReadonlyMap<string, Uint8Array>): Promise<Document> {
  let json: GLTF.IGLTF
  try {
    json = JSON.parse(text) as GLTF.IGLTF
  } catch (e) {
    throw new FormatError('glTF', e instanceof Error ? e.message : 'not JSON')
  }
  const named = namedFiles.safeParse(json)
  if (!named.success) {
    const { path, message } = named.error.issues[0]!
    throw new FormatError('glTF', `${path.join('/') || 'the document'}: ${message}`)
  }
  if (!Array.isArray(json?.scenes) && !Array.isArray(json?.nodes))
    throw new FormatError('glTF', 'not a glTF document: it has no scenes')
  const resources = Object.create(null) as Record<string, Uint8Array<ArrayBuffer>>
  for (const { uri } of [...(named.data.buffers ?? []), ...(named.data.images ?? [])]) {
    if (uri === undefined || uri.startsWith('data:')) continue
    const bytes = files.get(plainName(uri))
    if (!bytes) throw new FormatError('glTF', `it names the file ${uri.slice(0, 120)}, which did not come with it`)
    resources[uri] = bytes as Uint8Array<ArrayBuffer>
  }
  return documentOf('glTF', () => Promise.resolve({ json, resources }), text.length)
}

/**
 * Reads a binary glTF 2.0: every triangle primitive of the default scene becomes a part, transforms applied, v
 * turned upwards. Larger meshes that several nodes carry become one part and its copies.
 * @throws FormatError where the file is damaged, refers to other files, or holds no triangles
 */
export const readGlb = async (bytes: Uint8Array): Promise<Model> => modelOf(await parseGlb(bytes)).model

/**
 * The model of a parsed file.
 * @returns also the number of each part's material in the file's list, −1 for none; and what is no surface, in words
 */
export function modelOf(document: Document): { model: Model; materialOf: number[]; left: string[] } {
  const left: string[] = []
  const materials = document.getRoot().listMaterials()
  const materialOf: number[] = []
  const root = document.getRoot()
  const scene = root.getDefaultScene() ?? root.listScenes()[0]
  if (!scene) throw new FormatError('GLB', 'the file has no scene')
  const parts: Model['parts'] = []
  const taken = new Set<string>()
  /** Number of the first part that a primitive became, and how it was moved. */
  const first = new Map<Primitive, { of: number; m: readonly number[] }>()
  let triangles = 0
  const visit = (node: Node): void => {
    if (node.getMesh()) for (const m of placesOf(node, MOST_PARTS - parts.length + 1)) place(node, m)
    node.listChildren().forEach(visit)
  }
  const place = (node: Node, m: readonly number[]): void => {
    const mesh = node.getMesh()
    const primitives = mesh?.listPrimitives() ?? []
    primitives.forEach((p, i) => {
      const positions = p.getAttribute('POSITION')
      const title = node.getName() || mesh!.getName() || 'Part'
      const other = notSurface(p)
      if (other) left.push(`${title}: its ${other} are no surface`)
      if (!positions || other) return
      const count = positions.getCount()
      const name = uniqueName(
        (primitives.length > 1 ? `${title} ${p.getMaterial()?.getName() || i + 1}` : title).slice(0, 120),
        taken,
      )
      if (parts.length >= MOST_PARTS) throw new FormatError('GLB', `more than ${MOST_PARTS} parts`)
      const copy = copyOf(first.get(p), m)
      if (copy) {
        parts.push({
          name,
          position: new Float32Array(0),
          normal: new Float32Array(0),
          uv: new Float32Array(0),
          index: new Uint32Array(0),
          copy,
        })
        materialOf.push(materialOf[copy.of]!)
        return
      }
      const index = triangleIndex(p, count)
      triangles += index.length / 3
      if (triangles > LARGEST) throw new FormatError('GLB', `more than ${LARGEST} triangles`)
      for (let k = 0; k < index.length; k++)
        if (index[k]! >= count)
          throw new FormatError('GLB', `triangle ${Math.floor(k / 3)} uses vertex ${index[k]} of ${count}`, name)
      const position = new Float32Array(count * 3)
      const v = [0, 0, 0]
      for (let k = 0; k < count; k++) {
        positions.getElement(k, v)
        for (let r = 0; r < 3; r++)
          position[k * 3 + r] = m[r]! * v[0]! + m[4 + r]! * v[1]! + m[8 + r]! * v[2]! + m[12 + r]!
        if (!Number.isFinite(position[k * 3]! + position[k * 3 + 1]! + position[k * 3 + 2]!))
          throw new FormatError('GLB', `vertex ${k} has no finite position`, name)
      }
      const mirrored =
        m[0]! * (m[5]! * m[10]! - m[6]! * m[9]!) -
          m[4]! * (m[1]! * m[10]! - m[2]! * m[9]!) +
          m[8]! * (m[1]! * m[6]! - m[2]! * m[5]!) <
        0
      if (mirrored)
        for (let k = 0; k < index.length; k += 3) {
          const t = index[k + 1]!
          index[k + 1] = index[k + 2]!
          index[k + 2] = t
        }
      const normals = p.getAttribute('NORMAL')
      const known = normals && normals.getCount() === count ? worldNormals(normals, m, count) : undefined
      const [uv, ...more] = Array.from({ length: MORE_SETS + 1 }, (_, set) =>
        coordinates(p.getAttribute(`TEXCOORD_${set}`), count),
      ) as [Float32Array, ...Float32Array[]]
      while (more.length && !more.at(-1)!.length) more.pop()
      const frame = rowsOf(m)
      const tangent = worldTangents(p.getAttribute('TANGENT'), m, count, mirrored)
      const colours = p.getAttribute('COLOR_0')
      const colour = colours && colours.getCount() === count ? new Float32Array(count * 4).fill(1) : undefined
      // glTF's vertex colours are linear
      if (colour)
        for (let k = 0, e = [1, 1, 1, 1]; k < count; k++) {
          colours!.getElement(k, e)
          colour.set(e.slice(0, colours!.getElementSize()), k * 4)
        }
      if (index.length / 3 >= COPIED && !first.has(p)) first.set(p, { of: parts.length, m })
      const part: Part = {
        name,
        position,
        normal: known ?? new Float32Array(count * 3),
        uv,
        index,
        ...(colour ? { colour } : {}),
        ...(tangent ? { tangent } : {}),
        ...(more.length ? { uvMore: more } : {}),
        ...(frame.every((x, i) => x === STILL[i]) ? {} : { frame }),
      }
      parts.push(known ? part : withCreases(part))
      materialOf.push(p.getMaterial() ? materials.indexOf(p.getMaterial()!) : -1)
    })
  }
  scene.listChildren().forEach(visit)
  if (!parts.length) throw new FormatError('GLB', 'the file holds no triangles')
  return { model: { parts }, materialOf, left }
}

/**
 * How a node's mesh is a copy of one that was read before, from where that lies in the scene; undefined where it
 * cannot be one: it is mirrored against that, or one of them is flat.
 */
function copyOf(
  first: { of: number; m: readonly number[] } | undefined,
  m: readonly number[],
): { of: number; transform: Float64Array } | undefined {
  if (!first) return undefined
  const back = inverse(rowsOf(first.m))
  const transform = back && after(rowsOf(m), back)
  return transform && determinant(transform) > 0 && inverse(transform) ? { of: first.of, transform } : undefined
}

/** Normals through the inverse transpose (cofactors) of the transform. */
function coordinates(
  uvs: { getCount(): number; getElement(i: number, target: number[]): unknown } | null,
  count: number,
): Float32Array {
  const uv = new Float32Array(uvs && uvs.getCount() === count ? count * 2 : 0)
  const v = [0, 0]
  for (let k = 0; k * 2 < uv.length; k++) {
    uvs!.getElement(k, v)
    uv[k * 2] = v[0]!
    uv[k * 2 + 1] = 1 - v[1]!
  }
  return uv
}

function worldNormals(
  normals: { getElement(i: number, target: number[]): unknown },
  m: readonly number[],
  count: number,
): Float32Array {
  // cofactors, column by column
  const c = [
    m[5]! * m[10]! - m[6]! * m[9]!,
    m[6]! * m[8]! - m[4]! * m[10]!,
    m[4]! * m[9]! - m[5]! * m[8]!,
    m[2]! * m[9]! - m[1]! * m[10]!,
    m[0]! * m[10]! - m[2]! * m[8]!,
    m[1]! * m[8]! - m[0]! * m[9]!,
    m[1]! * m[6]! - m[2]! * m[5]!,
    m[2]! * m[4]! - m[0]! * m[6]!,
    m[0]! * m[5]! - m[1]! * m[4]!,
  ]
  const sign = m[0]! * c[0]! + m[1]! * c[1]! + m[2]! * c[2]! < 0 ? -1 : 1
  const out = new Float32Array(count * 3)
  const v = [0, 0, 0]
  for (let k = 0; k < count; k++) {
    normals.getElement(k, v)
    const x = c[0]! * v[0]! + c[3]! * v[1]! + c[6]! * v[2]!
    const y = c[1]! * v[0]! + c[4]! * v[1]! + c[7]! * v[2]!
    const z = c[2]! * v[0]! + c[5]! * v[1]! + c[8]! * v[2]!
    const l = Math.hypot(x, y, z)
    out.set(l > 0 ? [(sign * x) / l, (sign * y) / l, (sign * z) / l] : [0, 1, 0], k * 3)
  }
  return out
}
