import type { Model } from '../../mesh/model'
import { withoutCopy } from '../../mesh/transform'

/**
 * Writes the parts of a model as one binary little-endian PLY with normals, and coordinates where all parts have them.
 * @param field a number for each vertex, part by part, which goes into a property of that name
 */
export function writePly(model: Model, field?: { name: string; values: readonly Float32Array[] }): Uint8Array {
  const parts = model.parts.map(p => withoutCopy(model, p))
  const vertices = parts.reduce((n, p) => n + p.position.length / 3, 0)
  const faces = parts.reduce((n, p) => n + p.index.length / 3, 0)
  const mapped = parts.every(p => p.uv.length > 0)
  const names = ['x', 'y', 'z', 'nx', 'ny', 'nz', ...(mapped ? ['s', 't'] : []), ...(field ? [field.name] : [])]
  const head = new TextEncoder().encode(
    `ply\nformat binary_little_endian 1.0\nelement vertex ` +
      `${vertices}\n${names.map(n => `property float ${n}\n`).join('')}element face ` +
      `${faces}\nproperty list uchar int vertex_indices\nend_header\n`,
  )
  const out = new Uint8Array(head.length + vertices * names.length * 4 + faces * 13)
  const view = new DataView(out.buffer)
  out.set(head)
  let at = head.length
  parts.forEach((p, i) => {
    const arrays: [ArrayLike<number>, number][] = [
      [p.position, 3],
      [p.normal, 3],
    ]
    if (mapped) arrays.push([p.uv, 2])
    if (field) arrays.push([field.values[i]!, 1])
    for (let v = 0; v < p.position.length / 3; v++)
      for (const [array, width] of arrays)
        for (let k = 0; k < width; k++, at += 4) view.setFloat32(at, array[v * width + k]!, true)
  })
  let first = 0
  for (const p of parts) {
    for (let t = 0; t < p.index.length; t += 3) {
      out[at++] = 3
      for (let k = 0; k < 3; k++, at += 4) view.setInt32(at, p.index[t + k]! + first, true)
    }
    first += p.position.length / 3
  }
  return out
}
