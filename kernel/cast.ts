/**
 * The ray kernel in WebAssembly SIMD: closest and any hits of a batch of rays in an eight-wide hierarchy with
 * leaves of four-triangle packets. Layouts: core/trace/hierarchy.ts.
 *
 * Boxes and triangles are tested in float32, four at a time; see triangle.ts. Box test: slabs, each plane by one
 * multiply-add; what rounding may take from a distance is given to the entry and exit constants beforehand (after
 * Ize, "Robust BVH Ray Traversal", JCGT 2013). Boxes are widened when they are built.
 *
 * One ray to its end, eight boxes a step in two halves: what a ray waits for is the processor's own guessing of
 * branches and loads, and a third fewer steps are a third fewer guesses. Measured in turns in one process, ns a
 * ray on the 500 k sphere and the knot of shared/peers/rays:
 * four boxes a step, one ray to its end 1069 and 670; three rays in turns, a step each, so that one loads while
 * another waits for memory, 890 and 695 (878 and 611 in another hour);
 * eight boxes a step, three rays in turns 897 and 661, two 914 and 644, four 932 and 698; one ray at a time in
 * that loop 997 and 622, in a loop of its own 965 and 601.
 * Turns gain where the hierarchy is far larger than the second cache, and cost where it is not; in the renderer
 * one ray to its end was 3 % faster on both scenes. What waits on the stack as one number of 64 bits, ordered as a
 * whole: 1 to 2 %. The box test stands in the loop: as a function that says whether any box was hit, V8 keeps the
 * answer as a value, 5 % slower.
 */
import { fma } from './fma'
import {
  BOUND,
  FAR,
  FX,
  FY,
  FZ,
  HIT,
  INSTANCES,
  IX,
  IY,
  IZ,
  NEAR,
  NX,
  NY,
  NZ,
  PLANES,
  SPACE,
  STACK,
  begin,
  enter,
  leave,
} from './ray'
import { finish, testLeaf } from './triangle'

export { SPACE }
/** No reference: nothing is hit, or nothing waits. */
const NONE: i32 = i32.MIN_VALUE
/** Leaves from here on are instances, in steps of four. */
const COPIES: i32 = 1 << 30
/**
 * What waits below all of an instance: the way back to the space of the scene, as a leaf that no hierarchy has; it
 * comes first whatever was hit.
 */
const BACK: i32 = i32.MAX_VALUE - 1,
  BACK_WAITS: u64 = (0xbf800000 << 32) | (<u64>(<u32>~BACK))

/**
 * Casts rays.
 * @param nodes address of the nodes; packets likewise
 * @param root reference of the root
 * @param rays address of the batch's arrays; see ray.ts
 * @param any whether any hit will do
 * @param c where the ray under way lies
 * @param instances address of the first instance
 */
export function cast(
  nodes: usize,
  packets: usize,
  root: i32,
  rays: usize,
  count: i32,
  any: bool,
  c: usize,
  instances: usize,
): void {
  store<u32>(c, <u32>instances, INSTANCES)
  for (let next: usize = 0, end = <usize>max(count, 0); next < end; next++) {
    begin(c, rays, next)
    let reference = root,
      top = c + STACK,
      bound = load<f32>(c, BOUND)
    for (;;) {
      if (reference >= 0) {
        const p = nodes + ((<usize>reference) << 8),
          ix = v128.load(c, IX),
          iy = v128.load(c, IY),
          iz = v128.load(c, IZ),
          nx = v128.load(c, NX),
          ny = v128.load(c, NY),
          nz = v128.load(c, NZ)
        const fx = v128.load(c, FX),
          fy = v128.load(c, FY),
          fz = v128.load(c, FZ),
          far = v128.load(c, FAR),
          zero = f32x4.splat(0)
        const px = p + <usize>load<u32>(c, PLANES),
          py = p + <usize>load<u32>(c, PLANES + 4),
          pz = p + <usize>load<u32>(c, PLANES + 8)
        const qx = p + <usize>load<u32>(c, PLANES + 12),
          qy = p + <usize>load<u32>(c, PLANES + 16),
          qz = p + <usize>load<u32>(c, PLANES + 20)
        let near = fma(v128.load(px), ix, nx),
          exit = f32x4.pmin(far, fma(v128.load(qx), ix, fx))
        let near2 = fma(v128.load(px, 16), ix, nx),
          exit2 = f32x4.pmin(far, fma(v128.load(qx, 16), ix, fx))
        near = f32x4.pmax(near, fma(v128.load(py), iy, ny))
        exit = f32x4.pmin(exit, fma(v128.load(qy), iy, fy))
        near2 = f32x4.pmax(near2, fma(v128.load(py, 16), iy, ny))
        exit2 = f32x4.pmin(exit2, fma(v128.load(qy, 16), iy, fy))
        near = f32x4.pmax(near, f32x4.pmax(fma(v128.load(pz), iz, nz), zero))
        exit = f32x4.pmin(exit, fma(v128.load(qz), iz, fz))
        near2 = f32x4.pmax(near2, f32x4.pmax(fma(v128.load(pz, 16), iz, nz), zero))
        exit2 = f32x4.pmin(exit2, fma(v128.load(qz, 16), iz, fz))
        let mask = i32x4.bitmask(f32x4.le(near, exit)) | (i32x4.bitmask(f32x4.le(near2, exit2)) << 4)
        if (mask !== 0) {
          const first = ctz(mask)
          mask &= mask - 1
          if (mask === 0) {
            reference = link(p, first)
            continue
          }
          v128.store(c, near, NEAR)
          v128.store(c, near2, NEAR + 16)
          const second = ctz(mask)
          mask &= mask - 1
          const a = entry(p, c, first),
            b = entry(p, c, second)
          if (mask === 0) {
            const swap = b < a
            store<u64>(top, select<u64>(a, b, swap))
            top += 8
            reference = <i32>select<u64>(b, a, swap)
            continue
          }
          // three or more: all go to the stack in order of distance, the nearest on top
          const base = top
          store<u64>(top, a)
          top = insert(base, top + 8, b)
          do {
            const lane = ctz(mask)
            top = insert(base, top, entry(p, c, lane))
            mask &= mask - 1
          } while (mask !== 0)
          top -= 8
          reference = load<i32>(top)
          continue
        }
      } else if (~reference >= COPIES) {
        if (~reference !== BACK) {
          store<u64>(top, BACK_WAITS)
          top += 8
          reference = enter(c, rays, (~reference - COPIES) >> 2)
          continue
        }
        leave(c, rays)
      } else {
        testLeaf(c, packets, ~reference)
        if (any && load<i32>(c, HIT) >= 0) break
        bound = load<f32>(c, BOUND)
      }
      reference = NONE
      while (top > c + STACK) {
        top -= 8
        if (load<f32>(top, 4) < bound) {
          reference = load<i32>(top)
          break
        }
      }
      if (reference === NONE) break
    }
    finish(c, rays, any)
  }
}

/** Reference of a node's child. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function link(p: usize, lane: i32): i32 {
  return load<i32>(p + ((<usize>lane) << 2), 192)
}

/**
 * What waits on the stack: the distance, whose bits order as it does where it is not negative; below it the
 * reference.
 */
// @ts-ignore: a decorator of AssemblyScript
@inline
function entry(p: usize, c: usize, lane: i32): u64 {
  return ((<u64>load<u32>(c + ((<usize>lane) << 2), NEAR)) << 32) | (<u64>load<u32>(p + ((<usize>lane) << 2), 192))
}

/**
 * Puts an entry into the ordered part of the stack that begins at `base`; the nearest stays on top.
 * @returns the new top
 */
// @ts-ignore: a decorator of AssemblyScript
@inline
function insert(base: usize, top: usize, e: u64): usize {
  let q = top
  while (q > base && load<u64>(q - 8) < e) {
    store<u64>(q, load<u64>(q - 8))
    q -= 8
  }
  store<u64>(q, e)
  return top + 8
}
