/**
 * The ray kernel in WebAssembly SIMD: closest and any hits of a batch of rays in a four-wide hierarchy with leaves of four-triangle packets. Layouts: core/trace/hierarchy.ts.
 *
 * Boxes and triangles are tested in float32, four at a time; see triangle.ts. Box test: slabs, each plane by one multiply-add; what rounding may take from a distance is given
 * to the entry and exit constants beforehand (after Ize, "Robust BVH Ray Traversal", JCGT 2013). Boxes are widened when they are built.
 *
 * Three rays go on in turns, a node or a leaf each: while one waits for memory the processor already loads what the next one needs. Measured in turns in one process, ns a ray on
 * the 500 k sphere and the knot of shared/peers/rays: one ray to its end 1069 and 670; in turns two 905 and 590, three 878 and 611, four 850 and 630, eight 855 and 626.
 * Tried on top of that, without gain: all boxes of the rays first, without a branch, then what was found (865 and 650); one and two children by selection and not by a branch (895 and 640).
 * What waits as one number of 64 bits, ordered as a whole: 1 to 2 %. The box test stands in the loop: as a function that says whether any box was hit, V8 keeps the answer as a value, 5 % slower.
 */
import { fma } from './fma'
import { BOUND, FAR, FX, FY, FZ, HIT, IX, IY, IZ, NEAR, NX, NY, NZ, PLANES, REFERENCE, STACK, TOP, UNDERWAY, begin, move } from './ray'
import { finish, testLeaf } from './triangle'

/** Rays in turns, and bytes that they take. */
const TURNS: usize = 3
export const SPACE: usize = TURNS * UNDERWAY
/** No reference: nothing is hit, or nothing waits. */
const NONE: i32 = i32.MIN_VALUE

/**
 * Casts rays.
 * @param nodes address of the nodes; packets likewise
 * @param root reference of the root
 * @param rays address of the batch's arrays; see ray.ts
 * @param any whether any hit will do
 * @param space where rays under way lie
 */
export function cast(nodes: usize, packets: usize, root: i32, rays: usize, count: i32, any: bool, space: usize): void {
  const end = <usize>max(count, 0)
  let next: usize = 0, last = space
  while (next < TURNS && next < end) { begin(last, rays, next++, root); last += UNDERWAY }
  while (last > space) {
    for (let c = space; c < last; c += UNDERWAY) {
      let reference = load<i32>(c, REFERENCE), top = <usize>load<u32>(c, TOP)
      if (reference >= 0) {
        const p = nodes + (<usize>reference << 7), ix = v128.load(c, IX), iy = v128.load(c, IY), iz = v128.load(c, IZ)
        let near = fma(v128.load(p + <usize>load<u32>(c, PLANES)), ix, v128.load(c, NX)), exit = f32x4.pmin(v128.load(c, FAR), fma(v128.load(p + <usize>load<u32>(c, PLANES + 12)), ix, v128.load(c, FX)))
        near = f32x4.pmax(near, fma(v128.load(p + <usize>load<u32>(c, PLANES + 4)), iy, v128.load(c, NY)))
        exit = f32x4.pmin(exit, fma(v128.load(p + <usize>load<u32>(c, PLANES + 16)), iy, v128.load(c, FY)))
        near = f32x4.pmax(near, f32x4.pmax(fma(v128.load(p + <usize>load<u32>(c, PLANES + 8)), iz, v128.load(c, NZ)), f32x4.splat(0)))
        exit = f32x4.pmin(exit, fma(v128.load(p + <usize>load<u32>(c, PLANES + 20)), iz, v128.load(c, FZ)))
        let mask = i32x4.bitmask(f32x4.le(near, exit))
        if (mask !== 0) {
          const first = ctz(mask)
          mask &= mask - 1
          if (mask === 0) { store<i32>(c, link(p, first), REFERENCE); continue }
          v128.store(c, near, NEAR)
          const second = ctz(mask)
          mask &= mask - 1
          const a = entry(p, c, first), b = entry(p, c, second)
          if (mask === 0) {
            const swap = b < a
            store<u64>(top, select<u64>(a, b, swap))
            store<u32>(c, <u32>(top + 8), TOP)
            store<i32>(c, <i32>select<u64>(b, a, swap), REFERENCE)
            continue
          }
          // three or four: all go to the stack in order of distance, the nearest on top
          const base = top
          store<u64>(top, a)
          top = insert(base, top + 8, b)
          do {
            const lane = ctz(mask)
            top = insert(base, top, entry(p, c, lane))
            mask &= mask - 1
          } while (mask !== 0)
          top -= 8
          store<u32>(c, <u32>top, TOP)
          store<i32>(c, load<i32>(top), REFERENCE)
          continue
        }
      }
      else {
        testLeaf(c, packets, ~reference, rays)
        if (any && load<i32>(c, HIT) >= 0) top = c + STACK
      }
      const bound = load<f32>(c, BOUND)
      reference = NONE
      while (top > c + STACK) {
        top -= 8
        if (load<f32>(top, 4) < bound) { reference = load<i32>(top); break }
      }
      if (reference !== NONE) {
        store<u32>(c, <u32>top, TOP)
        store<i32>(c, reference, REFERENCE)
        continue
      }
      finish(c, packets, rays, any)
      if (next < end) { begin(c, rays, next++, root); continue }
      last -= UNDERWAY
      if (c !== last) move(c, last)
      c -= UNDERWAY
    }
  }
}

/** Reference of a node's child. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function link(p: usize, lane: i32): i32 { return load<i32>(p + (<usize>lane << 2), 96) }

/** What waits on the stack: the distance, whose bits order as it does where it is not negative; below it the reference. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function entry(p: usize, c: usize, lane: i32): u64 { return <u64>load<u32>(c + (<usize>lane << 2), NEAR) << 32 | <u64>load<u32>(p + (<usize>lane << 2), 96) }

/** Puts an entry into the ordered part of the stack that begins at `base`; the nearest stays on top. @returns the new top */
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
