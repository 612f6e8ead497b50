/** The ray kernel in this thread: the compiled module, and an instance for each hierarchy's memory. */
import type { Hierarchy } from './hierarchy'
import type { RayBatch } from './cast'
import { KERNEL, RELAXED } from './kernel-code'
import { KERNEL_RAYS, RAY_BYTES, takeSlot } from './memory'

const WORDS = RAY_BYTES / 8

interface Kernel {
  cast(nodes: number, packets: number, root: number, rays: number, count: number, any: number, stack: number): void
  /** Addresses of this thread's waiting nodes and rays, and the rays as numbers. */
  stack: number
  rays: number
  words: Float64Array
  places: Int32Array
}

let compiled: WebAssembly.Module | null | undefined
const kernels = new WeakMap<WebAssembly.Memory, { kernel: Kernel | null }>()
/** The memory used last and its kernel: nearly every call is for the same. */
let memory: WebAssembly.Memory | null = null, kernel: Kernel | null = null

/** Bytes of a module that is kept in hexadecimal. */
export const hexBytes = (hex: string): Uint8Array<ArrayBuffer> => Uint8Array.from({ length: hex.length / 2 }, (_, i) => parseInt(hex.slice(i * 2, i * 2 + 2), 16))

/** The module, compiled once, the faster variant where the engine takes it; null where WebAssembly with SIMD is missing. */
export function compiledKernel(): WebAssembly.Module | null {
  for (const code of compiled === undefined ? [RELAXED, KERNEL] : []) {
    try { return compiled = new WebAssembly.Module(hexBytes(code)) }
    catch { compiled = null }
  }
  return compiled ?? null
}

function start(of: WebAssembly.Memory): Kernel | null {
  const module = compiledKernel(), slot = module && takeSlot(of)
  if (!module || !slot) return null
  const instance = new WebAssembly.Instance(module, { env: { memory: of } })
  return { cast: instance.exports.cast as Kernel['cast'], ...slot, words: new Float64Array(of.buffer, slot.rays, KERNEL_RAYS * WORDS), places: new Int32Array(of.buffer, slot.rays, KERNEL_RAYS * WORDS * 2) }
}

/** Kernel of this thread for a memory; null where it cannot work on it. */
function kernelOf(of: WebAssembly.Memory): Kernel | null {
  let known = kernels.get(of)
  if (!known) kernels.set(of, known = { kernel: start(of) })
  return known.kernel
}

/** Casts a batch by the kernel. @returns false where it cannot work: no WebAssembly with SIMD and shared memory, or more threads than a hierarchy has slots for */
export function castByKernel(h: Hierarchy, rays: RayBatch, count: number, any: boolean): boolean {
  if (h.memory === null) return false
  if (h.memory !== memory) {
    memory = h.memory
    kernel = kernelOf(h.memory)
  }
  if (kernel === null) return false
  const { words, places } = kernel, { origin, direction, distance, triangle, u, v } = rays
  for (let from = 0; from < count; from += KERNEL_RAYS) {
    const n = Math.min(KERNEL_RAYS, count - from)
    for (let i = 0, o = 0, r = from * 3; i < n; i++, o += WORDS, r += 3) {
      words[o] = origin[r]!; words[o + 1] = origin[r + 1]!; words[o + 2] = origin[r + 2]!
      words[o + 3] = direction[r]!; words[o + 4] = direction[r + 1]!; words[o + 5] = direction[r + 2]!
      words[o + 6] = distance[from + i]!
    }
    kernel.cast(h.nodes.byteOffset, h.packets.byteOffset, h.root, kernel.rays, n, any ? 1 : 0, kernel.stack)
    for (let i = 0, o = 0; i < n; i++, o += WORDS) {
      const place = places[o * 2 + 14]!
      triangle[from + i] = place
      if (place < 0 || any) continue
      distance[from + i] = words[o + 6]!
      u[from + i] = words[o + 8]!
      v[from + i] = words[o + 9]!
    }
  }
  return true
}
