import { areaNormals } from './face-normals'

/** One named part of a model: triangles in world space, metres. */
export interface Part {
  name: string
  position: Float32Array
  /** Unit, one a vertex. */
  normal: Float32Array
  /** Two a vertex; v runs up. Empty where the file has none. */
  uv: Float32Array
  index: Uint32Array
  /**
   * Direction of growing u, unit, and whether growing v is that of normal × tangent (1) or against it (−1): four a
   * vertex, where the file has them; else they are made (`tangents.ts`).
   */
  tangent?: Float32Array
  /** Up to three more sets of coordinates like `uv`; an empty one where the file leaves one out. */
  uvMore?: Float32Array[]
  /** Where its vertices and their normals were before it was displaced, in the scene's space, if it was. */
  rest?: { position: Float32Array; normal: Float32Array }
  /**
   * The polygons that its triangles were cut from, where the file has larger ones: how many corners each has, and the
   * vertex at each corner. Subdivision asks for them.
   */
  polygons?: { sizes: Uint32Array; corners: Uint32Array }
  /** From the part's own space to the scene's, 3 × 4, row by row, where the file moved it there. */
  frame?: Float64Array
  /** Linear Rec.709 and opacity, four a vertex, where the file has colours. */
  colour?: Float32Array
  /**
   * Where the part is another one moved: that part's number, which is no copy itself, and the 3 × 4 transform of
   * its points, row by row, which does not mirror. The arrays above are then empty.
   */
  copy?: { of: number; transform: Float64Array }
}

/** A part of numbers that were collected: three a vertex, three, two, and three a triangle. */
export const partOf = (
  name: string,
  { position, normal, uv, index }: Record<'position' | 'normal' | 'uv' | 'index', readonly number[]>,
): Part => ({
  name,
  position: Float32Array.from(position),
  normal: Float32Array.from(normal),
  uv: Float32Array.from(uv),
  index: Uint32Array.from(index),
})

/** A model as its parts. */
export interface Model {
  parts: Part[]
}

/**
 * Numbers that were last put behind names, by the set they are unused in: thousands of nodes may have the same
 * name.
 */
const numbers = new WeakMap<Set<string>, Map<string, number>>()

/** Makes a name unused in a set, and adds it. */
export function uniqueName(name: string, taken: Set<string>): string {
  let n = name
  if (taken.has(n)) {
    const last = numbers.get(taken) ?? new Map<string, number>()
    numbers.set(taken, last)
    let i = last.get(name) ?? 1
    do n = `${name} ${++i}`
    while (taken.has(n))
    last.set(name, i)
  }
  taken.add(n)
  return n
}

/**
 * Vertex normals as area-weighted averages of the faces that share a vertex (the length of the cross product is
 * twice the area).
 */
export function smoothNormals(position: Float32Array, index: Uint32Array): Float32Array {
  const normal = new Float32Array(position.length)
  const face = areaNormals(position, index)
  for (let c = 0; c < index.length; c++) {
    const v = index[c]! * 3
    const t = c - (c % 3)
    normal[v]! += face[t]!
    normal[v + 1]! += face[t + 1]!
    normal[v + 2]! += face[t + 2]!
  }
  for (let v = 0; v < normal.length; v += 3) {
    const l = Math.sqrt(normal[v]! ** 2 + normal[v + 1]! ** 2 + normal[v + 2]! ** 2)
    if (l > 0) {
      normal[v]! /= l
      normal[v + 1]! /= l
      normal[v + 2]! /= l
    } else normal[v + 1] = 1
  }
  return normal
}
