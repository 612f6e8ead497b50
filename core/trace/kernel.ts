/**
 * The ray kernel in this thread: one instance, and the hierarchy it was given last in its own memory. One copy a thread keeps ordinary and shared arrays equally welcome.
 */
import type { Hierarchy } from './build'
import type { RayBatch } from './cast'
import { KERNEL } from './kernel-code'

/** Rays a call; words of a ray; addresses. The stack has room for four thousand waiting nodes. */
const BATCH = 256, WORDS = 10, STACK = 1024, RAYS = STACK + 4096 * 8, NODES = RAYS + BATCH * WORDS * 8 + 63 & ~63
const PAGE = 65536

interface Kernel { memory: WebAssembly.Memory, cast(nodes: number, packets: number, root: number, rays: number, count: number, any: number, stack: number): void, words: Float64Array, places: Int32Array }

let kernel: Kernel | null | undefined, held: Hierarchy | undefined, packets = 0

function start(): Kernel | null {
  try {
    const memory = new WebAssembly.Memory({ initial: 2 }), bytes = Uint8Array.from({ length: KERNEL.length / 2 }, (_, i) => parseInt(KERNEL.slice(i * 2, i * 2 + 2), 16))
    const instance = new WebAssembly.Instance(new WebAssembly.Module(bytes), { env: { memory } })
    return { memory, cast: instance.exports.cast as Kernel['cast'], words: new Float64Array(0), places: new Int32Array(0) }
  }
  catch { return null }
}

/** Brings a hierarchy into the kernel's memory. */
function hold(k: Kernel, h: Hierarchy): void {
  packets = NODES + h.nodes.byteLength + 63 & ~63
  const pages = Math.ceil((packets + h.packets.byteLength) / PAGE) - k.memory.buffer.byteLength / PAGE
  if (pages > 0) k.memory.grow(pages)
  new Float32Array(k.memory.buffer, NODES, h.nodes.length).set(h.nodes)
  new Float32Array(k.memory.buffer, packets, h.packets.length).set(h.packets)
  k.words = new Float64Array(k.memory.buffer, RAYS, BATCH * WORDS)
  k.places = new Int32Array(k.memory.buffer, RAYS, BATCH * WORDS * 2)
  held = h
}

/** Casts a batch by the kernel. @returns false where WebAssembly with SIMD is missing or has no room for the hierarchy */
export function castByKernel(h: Hierarchy, rays: RayBatch, count: number, any: boolean): boolean {
  if (kernel === undefined) kernel = start()
  if (kernel === null) return false
  if (held !== h) {
    try { hold(kernel, h) }
    catch { kernel = null; return false }
  }
  const { words, places } = kernel, { origin, direction, distance, triangle, u, v } = rays
  for (let from = 0; from < count; from += BATCH) {
    const n = Math.min(BATCH, count - from)
    for (let i = 0, o = 0, r = from * 3; i < n; i++, o += WORDS, r += 3) {
      words[o] = origin[r]!; words[o + 1] = origin[r + 1]!; words[o + 2] = origin[r + 2]!
      words[o + 3] = direction[r]!; words[o + 4] = direction[r + 1]!; words[o + 5] = direction[r + 2]!
      words[o + 6] = distance[from + i]!
    }
    kernel.cast(NODES, packets, h.root, RAYS, n, any ? 1 : 0, STACK)
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
