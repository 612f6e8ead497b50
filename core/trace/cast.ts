/**
 * Casting rays against a hierarchy, a batch a call: by the kernel in WebAssembly (`kernel/cast.ts`), or by plain
 * code where that cannot run.
 *
 * Plain triangle test: Möller & Trumbore 1997, in double precision on exact float32 corners, both sides. Box test:
 * slabs (Kay & Kajiya 1986) with reciprocal directions. Tried in plain code with two children a node: near child
 * first with both boxes tested in one visit (+40 % over testing on pop); keeping the entry distance on the stack
 * to skip nodes behind the hit (+8 %); flags joined with & instead of branches. Eight children a node are for the
 * kernel; see docs/performance.md for both.
 */
import { GREATEST, LINKS, NODE_WORDS, placeWord, WIDTH, type Hierarchy, type Instances } from './hierarchy'
import { COPIES, INSTANCE_LINKS, INSTANCE_WORDS, MOVED, ROOT } from './instances'
import type { RayBatch } from './ray-batch'
import { batchInMemory, castByKernel } from './kernel'

export function createRayBatch(capacity: number): RayBatch {
  return {
    capacity,
    origin: new Float64Array(capacity * 3),
    direction: new Float64Array(capacity * 3),
    distance: new Float64Array(capacity),
    triangle: new Int32Array(capacity),
    u: new Float64Array(capacity),
    v: new Float64Array(capacity),
    memory: null,
    address: 0,
  }
}

/**
 * A batch for as many rays as `batch`, lying where the kernel reads it if it can: that batch again as long as the
 * hierarchy stays.
 * @param which number of the use it is put to, from 1 on; what is filled while another is still read needs another
 * number
 */
export function batchNear(h: Hierarchy, batch: RayBatch, which: number): RayBatch {
  if (batch.memory === h.memory) return batch
  const near = batchInMemory(h, which)
  return near && near.capacity >= batch.capacity
    ? near
    : batch.memory === null
      ? batch
      : createRayBatch(batch.capacity)
}

/** Finds the closest hit of the first `count` rays. */
export function castClosest(h: Hierarchy, rays: RayBatch, count: number): void {
  if (!castByKernel(h, rays, count, false)) castPlain(h, rays, count, false)
}

/**
 * Finds whether anything lies within each ray's distance: `triangle` is ≥ 0 where something does (any hit, not
 * the closest).
 */
export function castAny(h: Hierarchy, rays: RayBatch, count: number): void {
  if (!castByKernel(h, rays, count, true)) castPlain(h, rays, count, true)
}

/** References waiting, and the distances at which their boxes are entered; a node leaves at most seven behind. */
const waiting = new Int32Array(4096)
const entry = new Float64Array(4096)

/** Waits below all of an instance: the way back to the scene's space, as the leaf that the kernel takes for it. */
const BACK = ~0x7ffffffe

/** The plain version: the kernel's reference, and what stands in for it. */
export function castPlain(h: Hierarchy, rays: RayBatch, count: number, any: boolean): void {
  const nodes = h.nodes
  const links = h.links
  const r = space
  for (let i = 0; i < count; i++) {
    enterScene(rays, i)
    far = rays.distance[i]!
    hit = -1
    let top = 0
    let node = h.root
    for (;;) {
      if (node >= 0) {
        const o = node * NODE_WORDS
        const base = top
        const { ox, oy, oz, ix, iy, iz } = r
        // Word offsets of the entry and exit planes of a box for this direction.
        const nx = ix < 0 ? GREATEST : 0
        const ny = (iy < 0 ? GREATEST : 0) + WIDTH
        const nz = (iz < 0 ? GREATEST : 0) + 2 * WIDTH
        const fx = GREATEST - nx
        const fy = GREATEST + 2 * WIDTH - ny
        const fz = GREATEST + 4 * WIDTH - nz
        for (let k = o; k < o + WIDTH; k++) {
          let near = (nodes[k + nx]! - ox) * ix
          let exit = (nodes[k + fx]! - ox) * ix
          const nearY = (nodes[k + ny]! - oy) * iy
          const exitY = (nodes[k + fy]! - oy) * iy
          const nearZ = (nodes[k + nz]! - oz) * iz
          const exitZ = (nodes[k + fz]! - oz) * iz
          near = near > nearY ? near : nearY
          near = near > nearZ ? near : nearZ
          near = near > 0 ? near : 0
          exit = exit < exitY ? exit : exitY
          exit = exit < exitZ ? exit : exitZ
          if (!(near <= exit && near < far)) continue
          let q = top++
          for (; q > base && entry[q - 1]! < near; q--) {
            entry[q] = entry[q - 1]!
            waiting[q] = waiting[q - 1]!
          }
          entry[q] = near
          waiting[q] = links[k + LINKS]!
        }
      } else if (~node < COPIES) {
        const leaf = ~node
        const first = (leaf >> 2) << 2
        for (let place = first; place < first + ((leaf & 3) + 1) * 4; place++) test(h.packets, place)
        if (any && hit >= 0) break
      } else if (node === BACK) enterScene(rays, i)
      else {
        const instance = (~node - COPIES) >> 2
        entry[top] = -1
        waiting[top++] = BACK
        enterInstance(h.instances!, instance, rays, i)
        node = h.instances!.links[instance * INSTANCE_LINKS + ROOT]!
        continue
      }
      while (top > 0 && entry[top - 1]! >= far) top--
      if (top === 0) break
      node = waiting[--top]!
    }
    rays.triangle[i] = hit
    if (hit >= 0 && !any) {
      rays.distance[i] = far
      rays.u[i] = hitU
      rays.v[i] = hitV
    }
  }
}

/**
 * The ray under way in the space it is tested in: origin, direction and its reciprocal; what places there are
 * moved by.
 */
const space = { ox: 0.5, oy: 0.5, oz: 0.5, dx: 0.5, dy: 0.5, dz: 0.5, ix: 0.5, iy: 0.5, iz: 0.5, moved: 0 }

function enterScene({ origin, direction }: RayBatch, i: number): void {
  space.ox = origin[i * 3]!
  space.oy = origin[i * 3 + 1]!
  space.oz = origin[i * 3 + 2]!
  space.dx = direction[i * 3]!
  space.dy = direction[i * 3 + 1]!
  space.dz = direction[i * 3 + 2]!
  space.moved = 0
  invert()
}

function enterInstance(
  { words: m, links }: Instances,
  instance: number,
  { origin, direction }: RayBatch,
  i: number,
): void {
  const o = instance * INSTANCE_WORDS
  const ox = origin[i * 3]!
  const oy = origin[i * 3 + 1]!
  const oz = origin[i * 3 + 2]!
  const dx = direction[i * 3]!
  const dy = direction[i * 3 + 1]!
  const dz = direction[i * 3 + 2]!
  space.ox = m[o]! * ox + m[o + 1]! * oy + m[o + 2]! * oz + m[o + 3]!
  space.oy = m[o + 4]! * ox + m[o + 5]! * oy + m[o + 6]! * oz + m[o + 7]!
  space.oz = m[o + 8]! * ox + m[o + 9]! * oy + m[o + 10]! * oz + m[o + 11]!
  space.dx = m[o]! * dx + m[o + 1]! * dy + m[o + 2]! * dz
  space.dy = m[o + 4]! * dx + m[o + 5]! * dy + m[o + 6]! * dz
  space.dz = m[o + 8]! * dx + m[o + 9]! * dy + m[o + 10]! * dz
  space.moved = links[o * 2 + MOVED]!
  invert()
}

function invert(): void {
  const { dx, dy, dz } = space
  // A zero component would make 0 · ∞ = NaN in the slabs; a huge finite reciprocal does not.
  space.ix = dx !== 0 ? 1 / dx : 1e300
  space.iy = dy !== 0 ? 1 / dy : 1e300
  space.iz = dz !== 0 ? 1 / dz : 1e300
}

/** Closest hit of the ray under way. */
let far = Infinity
let hit = -1
let hitU = 0.5
let hitV = 0.5

function test(packets: Float32Array, place: number): void {
  const { ox, oy, oz, dx, dy, dz } = space
  const c = placeWord(place)
  const ax = packets[c]!
  const ay = packets[c + 4]!
  const az = packets[c + 8]!
  const e1x = packets[c + 12]! - ax
  const e1y = packets[c + 16]! - ay
  const e1z = packets[c + 20]! - az
  const e2x = packets[c + 24]! - ax
  const e2y = packets[c + 28]! - ay
  const e2z = packets[c + 32]! - az
  const px = dy * e2z - dz * e2y
  const py = dz * e2x - dx * e2z
  const pz = dx * e2y - dy * e2x
  const det = e1x * px + e1y * py + e1z * pz
  if (det === 0) return
  const inverse = 1 / det
  const sx = ox - ax
  const sy = oy - ay
  const sz = oz - az
  const u = (sx * px + sy * py + sz * pz) * inverse
  if (u < 0 || u > 1) return
  const qx = sy * e1z - sz * e1y
  const qy = sz * e1x - sx * e1z
  const qz = sx * e1y - sy * e1x
  const v = (dx * qx + dy * qy + dz * qz) * inverse
  if (v < 0 || u + v > 1) return
  const distance = (e2x * qx + e2y * qy + e2z * qz) * inverse
  if (distance > 0 && distance < far) {
    far = distance
    hit = place + space.moved
    hitU = u
    hitV = v
  }
}
