/**
 * The builder of the hierarchy in WebAssembly SIMD: binned surface-area heuristic (Wald 2007) over all three axes
 * in one sweep of the triangles, then folding to eight children a node. The plain version in core/trace/build.ts
 * says what is built and stays as what stands in; splits may differ where rounding to float32 decides, hits do
 * not.
 *
 * A triangle is a record of 32 bytes: least x y z, its number (int32); greatest x y z, not used. A binary node is
 * 64 bytes, two such records, whose numbers are references: ≥ 0 a node, negative a leaf ~(first record << 4 |
 * triangles). Lane 3 of boxes carries numbers that are no floats: nothing here looks at what is computed with
 * them.
 *
 * Measured on the 500 k sphere and knot: see docs/performance.md.
 */
import { halfArea, INFINITE, NODE, RECORD } from './layout'

const LEAF: i32 = 4,
  MOST_IN_LEAF: i32 = 15
/** Bytes of a bin's box; bins of an axis. */
const BIN: usize = 32,
  BINS: i32 = 16,
  AXIS: usize = 512
/**
 * Bytes of an entry that waits: first record, triangles, address of its reference, unused; box of its doubled
 * centres. Where they wait in the scratch.
 */
const ENTRY: usize = 48,
  WAITING: usize = 3 * AXIS + 320

/** Writes the records of the triangles [from, to). */
export function measureTriangles(position: usize, index: usize, from: i32, to: i32, records: usize): void {
  for (let t = from; t < to; t++) {
    const i = index + <usize>t * 12
    const a = vertex(position + <usize>load<u32>(i) * 12),
      b = vertex(position + <usize>load<u32>(i, 4) * 12),
      c = vertex(position + <usize>load<u32>(i, 8) * 12)
    const r = records + <usize>t * RECORD
    v128.store(r, i32x4.replace_lane(f32x4.pmin(f32x4.pmin(a, b), c), 3, t))
    v128.store(r, f32x4.pmax(f32x4.pmax(a, b), c), 16)
  }
}

// @ts-ignore: a decorator of AssemblyScript
@inline
function vertex(p: usize): v128 {
  return f32x4(load<f32>(p), load<f32>(p, 4), load<f32>(p, 8), 0)
}

/** Lane 0, 1 or 2. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function lane(v: v128, axis: i32): f32 {
  return axis === 0 ? f32x4.extract_lane(v, 0) : axis === 1 ? f32x4.extract_lane(v, 1) : f32x4.extract_lane(v, 2)
}

/**
 * Writes the entry of all triangles.
 * @param root where the reference of the root is wanted, and 16 bytes behind it the box of everything: two vectors
 */
export function enterAll(records: usize, count: i32, root: usize, entry: usize): void {
  const full = f32x4.splat(INFINITE),
    empty = f32x4.splat(-INFINITE)
  // box of everything, and of all doubled centres
  let low = full,
    high = empty,
    cLow = full,
    cHigh = empty
  for (let r = records, end = records + <usize>count * RECORD; r < end; r += RECORD) {
    const a = v128.load(r),
      b = v128.load(r, 16),
      c = f32x4.add(a, b)
    low = f32x4.pmin(low, a)
    high = f32x4.pmax(high, b)
    cLow = f32x4.pmin(cLow, c)
    cHigh = f32x4.pmax(cHigh, c)
  }
  v128.store(root, low, 16)
  v128.store(root, high, 32)
  push(entry, 0, count, root, cLow, cHigh)
}

/**
 * Builds the binary hierarchy of an entry's triangles; records end in the order of the leaves.
 * @param scratch 8 KiB for bins and what waits; the entry that waits is at {@link WAITING}
 * @param used number of the first node
 * @param once whether the entry is split once only: its halves then wait there
 * @returns the number after that of the last node
 */
export function build(records: usize, nodes: usize, scratch: usize, used: i32, once: bool): i32 {
  const bins = scratch,
    counts = scratch + 3 * AXIS,
    rightArea = counts + 192,
    rightCount = rightArea + 64,
    bottom = scratch + WAITING
  const full = f32x4.splat(INFINITE),
    empty = f32x4.splat(-INFINITE)
  let top = bottom + ENTRY
  while (top > bottom) {
    top -= ENTRY
    const first = load<i32>(top),
      n = load<i32>(top, 4),
      wanted = <usize>load<u32>(top, 8)
    const cLow = v128.load(top, 16),
      cHigh = v128.load(top, 32)
    if (n <= LEAF) {
      store<i32>(wanted, ~((first << 4) | n))
      continue
    }
    const from = records + <usize>first * RECORD,
      end = from + <usize>n * RECORD
    // few triangles need no fine bins, whose sweeping would cost more than the triangles
    const K: i32 = n > 32 ? BINS : 8,
      extent = f32x4.sub(cHigh, cLow)
    const scale = v128.bitselect(
      f32x4.div(f32x4.splat(<f32>K * (1 - 1e-6)), extent),
      f32x4.splat(0),
      f32x4.gt(extent, f32x4.splat(1e-30)),
    )
    for (let axis: usize = 0; axis < 3; axis++)
      for (let k: i32 = 0; k < K; k++) {
        const p = bins + axis * AXIS + <usize>k * BIN
        v128.store(p, full)
        v128.store(p, empty, 16)
        store<i32>(counts + axis * 64 + ((<usize>k) << 2), 0)
      }
    const greatest = i32x4.splat(K - 1),
      zero = i32x4.splat(0)
    for (let r = from; r < end; r += RECORD) {
      const a = v128.load(r),
        b = v128.load(r, 16),
        k = i32x4.max_s(
          i32x4.min_s(i32x4.trunc_sat_f32x4_s(f32x4.mul(f32x4.sub(f32x4.add(a, b), cLow), scale)), greatest),
          zero,
        )
      grow(bins, counts, <usize>i32x4.extract_lane(k, 0), a, b)
      grow(bins + AXIS, counts + 64, <usize>i32x4.extract_lane(k, 1), a, b)
      grow(bins + 2 * AXIS, counts + 128, <usize>i32x4.extract_lane(k, 2), a, b)
    }
    let best = INFINITE,
      bestAxis = -1,
      bestBin = 0
    for (let axis = 0; axis < 3; axis++) {
      if (lane(scale, axis) === 0) continue
      const B = bins + <usize>axis * AXIS,
        N = counts + <usize>axis * 64
      let mn = full,
        mx = empty,
        total = 0
      for (let k = K - 1; k > 0; k--) {
        const p = B + <usize>k * BIN
        mn = f32x4.pmin(mn, v128.load(p))
        mx = f32x4.pmax(mx, v128.load(p, 16))
        total += load<i32>(N + ((<usize>k) << 2))
        store<f32>(rightArea + ((<usize>k) << 2), halfArea(f32x4.sub(mx, mn)))
        store<i32>(rightCount + ((<usize>k) << 2), total)
      }
      mn = full
      mx = empty
      let left = 0
      for (let k = 0; k < K - 1; k++) {
        const p = B + <usize>k * BIN
        mn = f32x4.pmin(mn, v128.load(p))
        mx = f32x4.pmax(mx, v128.load(p, 16))
        left += load<i32>(N + ((<usize>k) << 2))
        const right = load<i32>(rightCount + ((<usize>(k + 1)) << 2))
        if (left === 0 || right === 0) continue
        const cost =
          halfArea(f32x4.sub(mx, mn)) * <f32>((left + 3) >> 2) +
          load<f32>(rightArea + ((<usize>(k + 1)) << 2)) * <f32>((right + 3) >> 2)
        if (cost < best) {
          best = cost
          bestAxis = axis
          bestBin = k
        }
      }
    }
    if (bestAxis < 0 && n <= MOST_IN_LEAF) {
      store<i32>(wanted, ~((first << 4) | n))
      continue
    }
    const node = nodes + <usize>used * NODE
    store<i32>(wanted, used++)
    let half = n >> 1,
      leftLow = full,
      leftHigh = empty,
      rightLow = full,
      rightHigh = empty,
      lLow = cLow,
      lHigh = cHigh,
      rLow = cLow,
      rHigh = cHigh
    if (bestAxis < 0) {
      // all centres coincide, or no split separates anything: halves as they lie
      const middle = from + <usize>half * RECORD
      for (let r = from; r < middle; r += RECORD) {
        leftLow = f32x4.pmin(leftLow, v128.load(r))
        leftHigh = f32x4.pmax(leftHigh, v128.load(r, 16))
      }
      for (let r = middle; r < end; r += RECORD) {
        rightLow = f32x4.pmin(rightLow, v128.load(r))
        rightHigh = f32x4.pmax(rightHigh, v128.load(r, 16))
      }
    } else {
      const B = bins + <usize>bestAxis * AXIS
      for (let k = 0; k < K; k++) {
        const p = B + <usize>k * BIN
        if (k <= bestBin) {
          leftLow = f32x4.pmin(leftLow, v128.load(p))
          leftHigh = f32x4.pmax(leftHigh, v128.load(p, 16))
        } else {
          rightLow = f32x4.pmin(rightLow, v128.load(p))
          rightHigh = f32x4.pmax(rightHigh, v128.load(p, 16))
        }
      }
      lLow = full
      lHigh = empty
      rLow = full
      rHigh = empty
      const at = (<usize>bestAxis) << 2,
        base = lane(cLow, bestAxis),
        s = lane(scale, bestAxis)
      let i = from,
        j = end - RECORD
      while (i <= j) {
        const a = v128.load(i),
          b = v128.load(i, 16),
          c = f32x4.add(a, b)
        const k = i32x4.extract_lane(
          i32x4.min_s(
            i32x4.trunc_sat_f32x4_s(f32x4.splat((load<f32>(i + at) + load<f32>(i + at, 16) - base) * s)),
            greatest,
          ),
          0,
        )
        if (k <= bestBin) {
          lLow = f32x4.pmin(lLow, c)
          lHigh = f32x4.pmax(lHigh, c)
          i += RECORD
          continue
        }
        rLow = f32x4.pmin(rLow, c)
        rHigh = f32x4.pmax(rHigh, c)
        v128.store(i, v128.load(j))
        v128.store(i, v128.load(j, 16), 16)
        v128.store(j, a)
        v128.store(j, b, 16)
        j -= RECORD
      }
      half = <i32>((i - from) >> 5)
    }
    v128.store(node, leftLow)
    v128.store(node, leftHigh, 16)
    v128.store(node, rightLow, 32)
    v128.store(node, rightHigh, 48)
    // the larger half waits: what waits then never exceeds the logarithm of the triangles
    if (half * 2 > n) {
      top = push(top, first, half, node + 12, lLow, lHigh)
      top = push(top, first + half, n - half, node + 44, rLow, rHigh)
    } else {
      top = push(top, first + half, n - half, node + 44, rLow, rHigh)
      top = push(top, first, half, node + 12, lLow, lHigh)
    }
    if (once) break
  }
  return used
}

// @ts-ignore: a decorator of AssemblyScript
@inline
function grow(bins: usize, counts: usize, k: usize, a: v128, b: v128): void {
  const p = bins + k * BIN,
    c = counts + (k << 2)
  v128.store(p, f32x4.pmin(v128.load(p), a))
  v128.store(p, f32x4.pmax(v128.load(p, 16), b), 16)
  store<i32>(c, load<i32>(c) + 1)
}

// @ts-ignore: a decorator of AssemblyScript
@inline
function push(top: usize, first: i32, n: i32, wanted: usize, low: v128, high: v128): usize {
  store<i32>(top, first)
  store<i32>(top, n, 4)
  store<u32>(top, <u32>wanted, 8)
  v128.store(top, low, 16)
  v128.store(top, high, 32)
  return top + ENTRY
}
