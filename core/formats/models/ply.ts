import type { Model } from '../../mesh/model'
import { withoutCopy } from '../../mesh/transform'
import { FormatError } from '../error'
import { smoothNormals } from '../../mesh/model'
import type { ModelFiles, ModelFormat } from './model-format'

/**
 * Reads a binary little-endian PLY of float32 vertices (first three properties x y z) and triangle faces (one list
 * property).
 * @throws FormatError where the file is something else or cut short
 */
export function readPly(bytes: Uint8Array): { position: Float32Array; index: Uint32Array } {
  const text = new TextDecoder('latin1').decode(bytes.subarray(0, 4096))
  const end = text.indexOf('end_header\n')
  if (!text.startsWith('ply\n') || end < 0) throw new FormatError('PLY', 'no PLY header at the start of the file')
  const head = text.slice(0, end)
  if (!head.includes('format binary_little_endian 1.0'))
    throw new FormatError('PLY', 'only binary little-endian files are read', 'header line 2')
  const vertices = Number(/element vertex (\d+)/.exec(head)?.[1])
  const faces = Number(/element face (\d+)/.exec(head)?.[1])
  if (!(vertices >= 0) || !(faces >= 0))
    throw new FormatError('PLY', 'the header names no vertices or no faces', 'header')
  const properties = /element vertex \d+\n((?:property .*\n)*)/.exec(head)?.[1]?.trim().split('\n') ?? []
  if (
    properties.slice(0, 3).join() !== 'property float x,property float y,property float z' ||
    properties.some(p => !p.startsWith('property float '))
  )
    throw new FormatError('PLY', 'vertices must be float properties beginning with x, y, z', 'header')
  const stride = properties.length * 4
  const start = end + 11
  if (bytes.length < start + vertices * stride + faces * 13)
    throw new FormatError('PLY', 'the file ends before its last face', `byte ${bytes.length}`)
  const view = new DataView(bytes.buffer, bytes.byteOffset)
  const position = new Float32Array(vertices * 3)
  const index = new Uint32Array(faces * 3)
  for (let i = 0; i < vertices; i++)
    for (let k = 0; k < 3; k++) {
      const x = view.getFloat32(start + i * stride + k * 4, true)
      if (!Number.isFinite(x)) throw new FormatError('PLY', 'a position is not a number', `vertex ${i}`)
      position[i * 3 + k] = x
    }
  for (let f = 0, o = start + vertices * stride; f < faces; f++, o += 13) {
    if (bytes[o] !== 3) throw new FormatError('PLY', 'only triangles are read', `face ${f}`)
    for (let k = 0; k < 3; k++) {
      const vertex = view.getUint32(o + 1 + k * 4, true)
      if (vertex >= vertices) throw new FormatError('PLY', `vertex ${vertex} does not exist`, `face ${f}`)
      index[f * 3 + k] = vertex
    }
  }
  return { position, index }
}

/** Writes the parts of a model as one binary little-endian PLY with normals. */
export function writePly(model: Model): Uint8Array {
  const parts = model.parts.map(p => withoutCopy(model, p))
  const vertices = parts.reduce((n, p) => n + p.position.length / 3, 0)
  const faces = parts.reduce((n, p) => n + p.index.length / 3, 0)
  const head = new TextEncoder().encode(
    `ply\nformat binary_little_endian 1.0\nelement vertex ` +
      `${vertices}\n${['x', 'y', 'z', 'nx', 'ny', 'nz'].map(n => `property float ${n}\n`).join('')}element face ` +
      `${faces}\nproperty list uchar int vertex_indices\nend_header\n`,
  )
  const out = new Uint8Array(head.length + vertices * 24 + faces * 13)
  const view = new DataView(out.buffer)
  out.set(head)
  let at = head.length
  let first = 0
  for (const p of parts)
    for (let v = 0; v < p.position.length; v += 3)
      for (const array of [p.position, p.normal])
        for (let k = 0; k < 3; k++, at += 4) view.setFloat32(at, array[v + k]!, true)
  for (const p of parts) {
    for (let t = 0; t < p.index.length; t += 3) {
      out[at++] = 3
      for (let k = 0; k < 3; k++, at += 4) view.setInt32(at, p.index[t + k]! + first, true)
    }
    first += p.position.length / 3
  }
  return out
}

/** All of a PLY as one part. */
function readFiles(bytes: Uint8Array): ModelFiles {
  const { position, index } = readPly(bytes)
  return {
    model: {
      parts: [{ name: 'Model', position, index, normal: smoothNormals(position, index), uv: new Float32Array(0) }],
    },
    materialOf: [-1],
    materials: [],
    unitKnown: false,
    missing: [],
    lights: [],
  }
}

export const ply: ModelFormat = { ending: 'ply', read: readFiles }
