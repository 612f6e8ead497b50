/** The ray kernel in this thread: the compiled module, and an instance for each hierarchy's memory. */
import type { Hierarchy } from './hierarchy'
import type { RayBatch } from './ray-batch'
import { KERNEL, RELAXED } from './kernel-code'
import { KERNEL_RAYS, takeSlot } from './memory'

interface Kernel {
  cast(
    nodes: number,
    packets: number,
    root: number,
    rays: number,
    count: number,
    any: number,
    underway: number,
    instances: number,
  ): void
  /** Address of this thread's ray under way. */
  underway: number
  /** This thread's batches: the first one is what others are copied to. */
  batches: RayBatch[]
}

let compiled: WebAssembly.Module | null | undefined
const kernels = new WeakMap<WebAssembly.Memory, { kernel: Kernel | null }>()
/** The memory used last and its kernel: nearly every call is for the same. */
let lastMemory: WebAssembly.Memory | null = null
let lastKernel: Kernel | null = null

/** Bytes of a module that is kept in hexadecimal. */
export const hexBytes = (hex: string): Uint8Array<ArrayBuffer> =>
  Uint8Array.from({ length: hex.length / 2 }, (_, i) => parseInt(hex.slice(i * 2, i * 2 + 2), 16))

/**
 * The module, compiled once, the faster variant where the engine takes it; null where WebAssembly with SIMD is
 * missing.
 */
export function compiledKernel(): WebAssembly.Module | null {
  for (const code of compiled === undefined ? [RELAXED, KERNEL] : []) {
    try {
      return (compiled = new WebAssembly.Module(hexBytes(code)))
    } catch {
      compiled = null
    }
  }
  return compiled ?? null
}

function start(of: WebAssembly.Memory): Kernel | null {
  const module = compiledKernel()
  const slot = module && takeSlot(of)
  if (!module || !slot) return null
  const instance = new WebAssembly.Instance(module, { env: { memory: of } })
  const batchAt = (address: number): RayBatch => {
    const doubles = (from: number, each = 1) =>
      new Float64Array(of.buffer, address + from * 8 * KERNEL_RAYS, each * KERNEL_RAYS)
    return {
      capacity: KERNEL_RAYS,
      memory: of,
      address,
      origin: doubles(0, 3),
      direction: doubles(3, 3),
      distance: doubles(6),
      u: doubles(7),
      v: doubles(8),
      triangle: new Int32Array(of.buffer, address + 72 * KERNEL_RAYS, KERNEL_RAYS),
    }
  }
  return {
    cast: instance.exports.cast as Kernel['cast'],
    underway: slot.underway,
    batches: slot.batches.map(batchAt),
  }
}

/** Kernel of this thread for a memory; null where it cannot work on it. */
function kernelOf(of: WebAssembly.Memory): Kernel | null {
  let known = kernels.get(of)
  if (!known) kernels.set(of, (known = { kernel: start(of) }))
  return known.kernel
}

/** Kernel of this thread for a hierarchy; null where it cannot work on it. */
function kernelFor(h: Hierarchy): Kernel | null {
  if (h.memory === null) return null
  if (h.memory !== lastMemory) {
    lastMemory = h.memory
    lastKernel = kernelOf(h.memory)
  }
  return lastKernel
}

/**
 * A batch of this thread that lies in the hierarchy's own memory, where the kernel reads it: what is cast with it
 * is not copied.
 * @param which its number, from 1 on: who asks for the same gets the same
 */
export function batchInMemory(h: Hierarchy, which: number): RayBatch | undefined {
  return kernelFor(h)?.batches[which]
}

/**
 * Casts a batch by the kernel.
 * @returns false where it cannot work: no WebAssembly with SIMD and shared memory, or more threads than a
 * hierarchy has slots for
 */
export function castByKernel(h: Hierarchy, rays: RayBatch, count: number, any: boolean): boolean {
  const kernel = kernelFor(h)
  if (kernel === null) return false
  if (rays.memory === h.memory) {
    run(kernel, h, rays.address, count, any)
    return true
  }
  const own = kernel.batches[0]!
  for (let from = 0; from < count; from += KERNEL_RAYS) {
    const n = Math.min(KERNEL_RAYS, count - from)
    copy(rays.origin, from * 3, own.origin, 0, n * 3)
    copy(rays.direction, from * 3, own.direction, 0, n * 3)
    copy(rays.distance, from, own.distance, 0, n)
    run(kernel, h, own.address, n, any)
    copy(own.triangle, 0, rays.triangle, from, n)
    if (any) continue
    copy(own.distance, 0, rays.distance, from, n)
    copy(own.u, 0, rays.u, from, n)
    copy(own.v, 0, rays.v, from, n)
  }
  return true
}

function run(kernel: Kernel, h: Hierarchy, rays: number, count: number, any: boolean): void {
  kernel.cast(
    h.nodes.byteOffset,
    h.packets.byteOffset,
    h.root,
    rays,
    count,
    any ? 1 : 0,
    kernel.underway,
    h.instances === null ? 0 : h.instances.words.byteOffset,
  )
}

/** Copies `n` numbers. */
function copy<T extends Float64Array | Int32Array>(
  source: T,
  from: number,
  target: T,
  to: number,
  n: number,
): void {
  if (n < 32) for (let i = 0; i < n; i++) target[to + i] = source[from + i]!
  else target.set(source.subarray(from, from + n) as Float64Array & Int32Array, to)
}
