/**
 * The plain builder of the hierarchy, where the kernel's cannot run: binned surface-area heuristic (Wald 2007),
 * built binary and then folded to eight children a node.
 *
 * Tried, on the 500 k sphere of the peer comparison (ratio to three-mesh-bvh), in plain TypeScript with two
 * children a node: one box a node 1.7; both children's boxes in the parent 2.4; leaves of at most 4 against 2 and
 * 8 triangles: best at 4. Bins: 16 costs 1 % of speed against 32 and builds faster. Building the lantern (116 k
 * triangles): one closure for everything 950–1150 ms; functions of the module, warmed up (see `warmUp`), 8 bins
 * below 33 triangles 560–750 ms; the same with Math.min instead of branches 830–1000 ms.
 */
import type { Allocate, Hierarchy } from './hierarchy'
import { foldPlain } from './fold-plain'
import { box, measure, split, triangleBoxes } from './split-plain'

const LEAF = 4

/**
 * Builds the hierarchy.
 * @param position vertex coordinates, three a vertex
 * @param index three vertex numbers a triangle
 */
export function buildPlain(
  position: Float32Array,
  index: Uint32Array,
  allocate: Allocate = bytes => new ArrayBuffer(bytes),
): Hierarchy {
  if (!warm) warmUp()
  const count = index.length / 3
  const boxes = triangleBoxes(position, index)
  const ids = new Uint32Array(count)
  for (let t = 0; t < count; t++) ids[t] = t
  const scratch = new Float32Array(Math.max(1, count) * 16)
  const scratchLinks = new Int32Array(scratch.buffer)
  let used = 0
  let root = ~0
  const bounds = new Float32Array(6)
  // Explicit stack of [first, count, parent node, side]: a degenerate mesh must not exhaust the call stack.
  const stack = [0, count, -1, 0]
  while (stack.length) {
    const side = stack.pop()!
    const parent = stack.pop()!
    const n = stack.pop()!
    const first = stack.pop()!
    measure(boxes, first, n)
    if (parent >= 0) for (let k = 0, o = parent * 16 + side * 6; k < 6; k++) scratch[o + k] = box[k]!
    else bounds.set(box)
    const left = n <= LEAF ? 0 : split(boxes, ids, first, n)
    let reference
    if (left === 0) reference = ~((first << 4) | n)
    else {
      reference = used++
      stack.push(first + left, n - left, reference, 1, first, left, reference, 0)
    }
    if (parent >= 0) scratchLinks[parent * 16 + 12 + side] = reference
    else root = reference
  }
  if (count === 0) {
    root = ~0
    bounds.fill(0)
  }
  return foldPlain({ nodes: scratch, links: scratchLinks, used, root, bounds, ids, position, index }, allocate)
}

let warm = false
/**
 * Builds a small hierarchy once. V8 compiles a function while its first long loop still runs; what comes after
 * that loop has then never run, and the compiled code is left there each time it is entered again: a large first
 * mesh was built four times slower, and so was every mesh after it.
 */
function warmUp(): void {
  warm = true
  const n = 400
  const position = Float32Array.from({ length: n * 9 }, (_, i) => Math.sin(i * 12.9898) * (i % 7))
  for (let k = 0; k < 4; k++)
    buildPlain(
      position,
      Uint32Array.from({ length: n * 3 }, (_, i) => i),
    )
}
