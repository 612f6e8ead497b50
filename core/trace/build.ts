import { buildByKernel } from './build-kernel'
import { buildPlain } from './build-plain'
import type { Allocate, Hierarchy } from './hierarchy'

/**
 * Builds the hierarchy, by the kernel where it can run.
 * @param position vertex coordinates, three a vertex
 * @param index three vertex numbers a triangle
 */
export function buildHierarchy(position: Float32Array, index: Uint32Array, allocate: Allocate = bytes => new ArrayBuffer(bytes)): Hierarchy {
  return buildByKernel(position, index, allocate) ?? buildPlain(position, index, allocate)
}
