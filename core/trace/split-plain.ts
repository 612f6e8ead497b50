/** Splitting of triangles for the plain builder, by a binned surface-area heuristic (Wald 2007). */

const BINS = 16

/** Box of each triangle: min x y z, max x y z. */
export function triangleBoxes(position: Float32Array, index: Uint32Array): Float32Array {
  const count = index.length / 3
  const boxes = new Float32Array(count * 6)
  for (let t = 0; t < count; t++) {
    const a = index[t * 3]! * 3
    const b = index[t * 3 + 1]! * 3
    const c = index[t * 3 + 2]! * 3
    for (let k = 0; k < 3; k++) {
      const x = position[a + k]!
      const y = position[b + k]!
      const z = position[c + k]!
      boxes[t * 6 + k] = x < y ? (x < z ? x : z) : y < z ? y : z
      boxes[t * 6 + 3 + k] = x > y ? (x > z ? x : z) : y > z ? y : z
    }
  }
  return boxes
}

/** Box of the triangles measured last, and the box of their doubled centres. */
export const box = new Float64Array(6)
const middle = new Float64Array(6)

/** Measures the triangles [first, first + n) into `box` and `middle`. */
export function measure(boxes: Float32Array, first: number, n: number): void {
  let x0 = Infinity
  let y0 = Infinity
  let z0 = Infinity
  let x1 = -Infinity
  let y1 = -Infinity
  let z1 = -Infinity
  let cx0 = Infinity
  let cy0 = Infinity
  let cz0 = Infinity
  let cx1 = -Infinity
  let cy1 = -Infinity
  let cz1 = -Infinity
  for (let o = first * 6, end = o + n * 6; o < end; o += 6) {
    const ax = boxes[o]!
    const ay = boxes[o + 1]!
    const az = boxes[o + 2]!
    const bx = boxes[o + 3]!
    const by = boxes[o + 4]!
    const bz = boxes[o + 5]!
    x0 = Math.min(x0, ax)
    y0 = Math.min(y0, ay)
    z0 = Math.min(z0, az)
    x1 = Math.max(x1, bx)
    y1 = Math.max(y1, by)
    z1 = Math.max(z1, bz)
    const cx = ax + bx
    const cy = ay + by
    const cz = az + bz
    cx0 = Math.min(cx0, cx)
    cy0 = Math.min(cy0, cy)
    cz0 = Math.min(cz0, cz)
    cx1 = Math.max(cx1, cx)
    cy1 = Math.max(cy1, cy)
    cz1 = Math.max(cz1, cz)
  }
  box[0] = x0
  box[1] = y0
  box[2] = z0
  box[3] = x1
  box[4] = y1
  box[5] = z1
  middle[0] = cx0
  middle[1] = cy0
  middle[2] = cz0
  middle[3] = cx1
  middle[4] = cy1
  middle[5] = cz1
}

/** Bins of one axis: count and box of each. */
const binCount = new Int32Array(BINS)
const binBox = new Float64Array(BINS * 6)
const rightArea = new Float64Array(BINS)
const rightCount = new Int32Array(BINS)
/** Best split found so far: cost, bin after which it lies. */
const found = new Float64Array(2)

/**
 * Partitions ids[first … first + n) by the best split of what was measured last; returns the size of the left
 * half, or 0 for a leaf.
 */
export function split(boxes: Float32Array, ids: Uint32Array, first: number, n: number): number {
  // few triangles need no fine bins, whose sweeping would cost more than the triangles
  const bins = n > 32 ? BINS : 8
  let best = Infinity
  let bestAxis = -1
  let bestBin = 0
  for (let axis = 0; axis < 3; axis++) {
    const extent = middle[3 + axis]! - middle[axis]!
    if (!((bins * (1 - 1e-6)) / extent < 1e30)) continue
    fillBins(boxes, first, n, axis, middle[axis]!, (bins * (1 - 1e-6)) / extent, bins)
    sweepBins(bins)
    if (found[0]! < best) {
      best = found[0]!
      bestAxis = axis
      bestBin = found[1]!
    }
  }
  if (bestAxis < 0) return n <= 15 ? 0 : n >> 1 // all centres coincide
  return partition(
    boxes,
    ids,
    first,
    n,
    bestAxis,
    middle[bestAxis]!,
    (bins * (1 - 1e-6)) / (middle[3 + bestAxis]! - middle[bestAxis]!),
    bestBin,
  )
}

export const halfArea = (x: number, y: number, z: number): number => x * y + y * z + z * x

function fillBins(
  boxes: Float32Array,
  first: number,
  n: number,
  axis: number,
  low: number,
  scale: number,
  bins: number,
): void {
  for (let b = 0; b < bins; b++) {
    binCount[b] = 0
    const q = b * 6
    binBox[q] = Infinity
    binBox[q + 1] = Infinity
    binBox[q + 2] = Infinity
    binBox[q + 3] = -Infinity
    binBox[q + 4] = -Infinity
    binBox[q + 5] = -Infinity
  }
  for (let o = first * 6, end = o + n * 6; o < end; o += 6) {
    const bin = ((boxes[o + axis]! + boxes[o + 3 + axis]! - low) * scale) | 0
    const q = bin * 6
    binCount[bin] = binCount[bin]! + 1
    const ax = boxes[o]!
    const ay = boxes[o + 1]!
    const az = boxes[o + 2]!
    const bx = boxes[o + 3]!
    const by = boxes[o + 4]!
    const bz = boxes[o + 5]!
    if (ax < binBox[q]!) binBox[q] = ax
    if (ay < binBox[q + 1]!) binBox[q + 1] = ay
    if (az < binBox[q + 2]!) binBox[q + 2] = az
    if (bx > binBox[q + 3]!) binBox[q + 3] = bx
    if (by > binBox[q + 4]!) binBox[q + 4] = by
    if (bz > binBox[q + 5]!) binBox[q + 5] = bz
  }
}

/** Cheapest split of the filled bins into `found`. */
function sweepBins(bins: number): void {
  let x0 = Infinity
  let y0 = Infinity
  let z0 = Infinity
  let x1 = -Infinity
  let y1 = -Infinity
  let z1 = -Infinity
  let total = 0
  for (let b = bins - 1; b > 0; b--) {
    const q = b * 6
    x0 = Math.min(x0, binBox[q]!)
    y0 = Math.min(y0, binBox[q + 1]!)
    z0 = Math.min(z0, binBox[q + 2]!)
    x1 = Math.max(x1, binBox[q + 3]!)
    y1 = Math.max(y1, binBox[q + 4]!)
    z1 = Math.max(z1, binBox[q + 5]!)
    total += binCount[b]!
    rightArea[b] = halfArea(x1 - x0, y1 - y0, z1 - z0)
    rightCount[b] = total
  }
  x0 = Infinity
  y0 = Infinity
  z0 = Infinity
  x1 = -Infinity
  y1 = -Infinity
  z1 = -Infinity
  let left = 0
  let best = Infinity
  let bestBin = 0
  for (let b = 0; b < bins - 1; b++) {
    const q = b * 6
    x0 = Math.min(x0, binBox[q]!)
    y0 = Math.min(y0, binBox[q + 1]!)
    z0 = Math.min(z0, binBox[q + 2]!)
    x1 = Math.max(x1, binBox[q + 3]!)
    y1 = Math.max(y1, binBox[q + 4]!)
    z1 = Math.max(z1, binBox[q + 5]!)
    left += binCount[b]!
    const cost =
      left === 0 || rightCount[b + 1]! === 0
        ? Infinity
        : halfArea(x1 - x0, y1 - y0, z1 - z0) * ((left + 3) >> 2) +
          rightArea[b + 1]! * ((rightCount[b + 1]! + 3) >> 2)
    if (cost < best) {
      best = cost
      bestBin = b
    }
  }
  found[0] = best
  found[1] = bestBin
}

function partition(
  boxes: Float32Array,
  ids: Uint32Array,
  first: number,
  n: number,
  axis: number,
  low: number,
  scale: number,
  lastLeft: number,
): number {
  let i = first
  let j = first + n - 1
  while (i <= j) {
    const o = i * 6
    if ((((boxes[o + axis]! + boxes[o + 3 + axis]! - low) * scale) | 0) <= lastLeft) {
      i++
      continue
    }
    const p = j * 6
    const t = ids[i]!
    ids[i] = ids[j]!
    ids[j] = t
    for (let k = 0; k < 6; k++) {
      const x = boxes[o + k]!
      boxes[o + k] = boxes[p + k]!
      boxes[p + k] = x
    }
    j--
  }
  return i - first
}
