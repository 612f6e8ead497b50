import { buildByKernel } from './build-kernel'
import type { BuildShare } from './build-share'
import { buildPlain } from './build-plain'
import type { Allocate, Hierarchy } from './hierarchy'

/**
 * Builds the hierarchy, by the kernel where it can run.
 * @param position vertex coordinates, three a vertex
 * @param index three vertex numbers a triangle
 * @param call asks other threads to help; see {@link buildByKernel}
 */
export function buildHierarchy(
  position: Float32Array,
  index: Uint32Array,
  allocate: Allocate = bytes => new ArrayBuffer(bytes),
  call?: (share: BuildShare) => void,
): Hierarchy {
  return buildByKernel(position, index, allocate, call) ?? buildPlain(position, index, allocate)
}
