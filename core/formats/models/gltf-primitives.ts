/** Primitives of glTF as triangles, and the places where a node's mesh stands. */
import { MathUtils, Primitive, type Node } from '@gltf-transform/core'
import type { InstancedMesh } from '@gltf-transform/extensions'
import { after } from '../../mesh/transform'

/** What is no surface, in words. */
const NO_SURFACE = new Map<number, string>([
  [Primitive.Mode.POINTS!, 'points'],
  [Primitive.Mode.LINES!, 'lines'],
  [Primitive.Mode.LINE_LOOP!, 'lines'],
  [Primitive.Mode.LINE_STRIP!, 'lines'],
])

/** What a primitive holds instead of a surface: points or lines; undefined where it is one. */
export const notSurface = (p: Primitive): string | undefined => NO_SURFACE.get(p.getMode())

/**
 * Vertices of a primitive's triangles, three each; those of strips and fans turn the way that glTF 2.0 §3.7.2.1 has it.
 * @param count of the vertices
 */
export function triangleIndex(p: Primitive, count: number): Uint32Array {
  const given = p.getIndices()?.getArray()
  const at = given ? (k: number) => given[k]! : (k: number) => k
  const n = given ? given.length : count
  const mode = p.getMode()
  if (mode === Primitive.Mode.TRIANGLES) {
    const whole = n - (n % 3)
    return Uint32Array.from({ length: given ? n : whole }, (_, k) => at(k))
  }
  const index = new Uint32Array(Math.max(0, n - 2) * 3)
  for (let k = 0; k + 2 < n; k++) {
    const odd = k % 2
    const corners =
      mode === Primitive.Mode.TRIANGLE_FAN
        ? [at(k + 1), at(k + 2), at(0)]
        : [at(k), at(k + 1 + odd), at(k + 2 - odd)]
    index.set(corners, k * 3)
  }
  return index
}

/** A matrix of the file, 4 × 4, column by column, as 3 × 4, row by row. */
export const rowsOf = (m: readonly number[]): Float64Array =>
  Float64Array.from({ length: 12 }, (_, i) => m[(i % 4) * 4 + Math.floor(i / 4)]!)

/** The way back. */
const columnsOf = (m: Float64Array): number[] =>
  Array.from({ length: 16 }, (_, i) => (i % 4 === 3 ? (i === 15 ? 1 : 0) : m[(i % 4) * 4 + Math.floor(i / 4)]!))

/**
 * Where a node's mesh stands, from its own space to the scene's, column by column: once, or as often as
 * EXT_mesh_gpu_instancing says.
 * @param most places that there may be
 */
export function placesOf(node: Node, most: number): readonly (readonly number[])[] {
  const world = node.getWorldMatrix()
  const many = node.getExtension<InstancedMesh>('EXT_mesh_gpu_instancing')
  if (!many) return [world]
  const [translation, rotation, scale] = (['TRANSLATION', 'ROTATION', 'SCALE'] as const).map(n =>
    many.getAttribute(n),
  )
  const count = Math.min(most, Math.max(...[translation, rotation, scale].map(a => a?.getCount() ?? 0)))
  const read = (a: typeof translation, i: number, otherwise: number[]): number[] =>
    a && i < a.getCount() ? a.getElement(i, otherwise.slice()) : otherwise
  return Array.from({ length: count }, (_, i) => {
    const q = read(rotation, i, [0, 0, 0, 1]) as [number, number, number, number]
    const t = read(translation, i, [0, 0, 0]) as [number, number, number]
    const s = read(scale, i, [1, 1, 1]) as [number, number, number]
    return columnsOf(after(rowsOf(world), rowsOf(MathUtils.compose(t, q, s, [] as never))))
  })
}
