import type { Model } from '../mesh/model'
import { buildHierarchy } from '../trace/build'
import type { Allocate, Hierarchy } from '../trace/hierarchy'

/** Triangles of a model, ready for tracing and shading. Flat arrays; with a shared allocator, workers use the same memory. */
export interface Geometry {
  hierarchy: Hierarchy
  /** Three vertices a triangle, original order. */
  index: Uint32Array
  normal: Float32Array
  /** Two a vertex; 0, 0 where a part has no coordinates. */
  uv: Float32Array
  /** Vertex colours, four a vertex; empty where no part has any. */
  colour: Float32Array
  /** Part of each triangle, original order. */
  part: Uint16Array
  partNames: string[]
  /** Bounds of each part: six numbers, min then max. */
  partBounds: Float64Array
}

/**
 * Joins the parts of a model and builds the hierarchy.
 * @param hidden names of parts to leave out
 */
export function createGeometry(model: Model, hidden: ReadonlySet<string> = new Set(), allocate: Allocate = n => new ArrayBuffer(n)): Geometry {
  let vertices = 0, corners = 0
  for (const p of model.parts) if (!hidden.has(p.name)) { vertices += p.position.length / 3; corners += p.index.length }
  const position = new Float32Array(vertices * 3), normal = new Float32Array(allocate(Math.max(4, vertices * 12))), uv = new Float32Array(allocate(Math.max(4, vertices * 8)))
  const index = new Uint32Array(allocate(Math.max(4, corners * 4))), part = new Uint16Array(allocate(Math.max(4, Math.ceil(corners / 3) * 2)))
  const coloured = model.parts.some(p => p.colour && !hidden.has(p.name)), colour = new Float32Array(allocate(coloured ? vertices * 16 : 4), 0, coloured ? vertices * 4 : 0).fill(1)
  const partBounds = new Float64Array(model.parts.length * 6)
  let v = 0, c = 0
  model.parts.forEach((p, number) => {
    const b = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]
    for (let i = 0; i < p.position.length; i++) { b[i % 3] = Math.min(b[i % 3]!, p.position[i]!); b[3 + i % 3] = Math.max(b[3 + i % 3]!, p.position[i]!) }
    partBounds.set(b, number * 6)
    if (hidden.has(p.name)) return
    position.set(p.position, v * 3)
    normal.set(p.normal, v * 3)
    if (p.uv.length) uv.set(p.uv, v * 2)
    if (p.colour) colour.set(p.colour, v * 4)
    for (let i = 0; i < p.index.length; i++) index[c + i] = p.index[i]! + v
    part.fill(number, c / 3, (c + p.index.length) / 3)
    v += p.position.length / 3
    c += p.index.length
  })
  return { hierarchy: buildHierarchy(position, index.subarray(0, corners), allocate), index, normal, uv, colour, part, partNames: model.parts.map(p => p.name), partBounds }
}
