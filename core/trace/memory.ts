/**
 * Where a hierarchy lies: in one shared WebAssembly memory, so that the kernels of all threads work on the same
 * nodes and packets. At its start every thread that casts takes a slot of its own for the ray under way and the
 * nodes waiting; what no thread took is never touched.
 */
const PAGE = 65536
const LINE = 64
const toLine = (bytes: number): number => (bytes + LINE - 1) & ~(LINE - 1)
/**
 * Rays a call of the kernel, and bytes of each: its origin, direction, distance, u, v in float64 and its triangle,
 * arrays one behind the other.
 */
export const KERNEL_RAYS = 256
const RAY_BYTES = 76
/** What the kernel keeps of a ray under way, the nodes that wait among it; see kernel/ray.ts. */
const UNDERWAY = 16896
/** Batches of a slot: one that others are copied to, and those that are filled in place. */
const SLOT_BATCHES = 4
const BATCH_BYTES = KERNEL_RAYS * RAY_BYTES
const SLOT = toLine(UNDERWAY + SLOT_BATCHES * BATCH_BYTES)
/** Threads that may cast against one hierarchy; more use the plain code. */
const SLOTS = 64

export interface TraceArrays {
  memory: WebAssembly.Memory | null
  nodes: Float32Array
  packets: Float32Array
  instances: Float64Array
}

/**
 * Makes the arrays of a hierarchy, full of zeros.
 * @returns `memory` null where WebAssembly cannot share its memory or has too little: the arrays are then ordinary
 * ones
 */
export function allocateTrace(
  nodeWords: number,
  packetWords: number,
  allocate: (bytes: number) => ArrayBufferLike,
  instanceWords = 0,
): TraceArrays {
  const nodes = toLine(LINE + SLOTS * SLOT)
  const packets = nodes + toLine(nodeWords * 4)
  const instances = packets + toLine(packetWords * 4)
  const pages = Math.ceil((instances + instanceWords * 8) / PAGE)
  try {
    const memory = new WebAssembly.Memory({ initial: pages, maximum: pages, shared: true })
    return {
      memory,
      nodes: new Float32Array(memory.buffer, nodes, nodeWords),
      packets: new Float32Array(memory.buffer, packets, packetWords),
      instances: new Float64Array(memory.buffer, instances, instanceWords),
    }
  } catch {
    return {
      memory: null,
      nodes: new Float32Array(allocate(nodeWords * 4)),
      packets: new Float32Array(allocate(packetWords * 4)),
      instances: new Float64Array(allocate(instanceWords * 8)),
    }
  }
}

/**
 * Takes a slot of a memory for this thread.
 * @returns addresses of the ray under way and of the batches; undefined when all are taken
 */
export function takeSlot(memory: WebAssembly.Memory): { underway: number; batches: number[] } | undefined {
  const slot = Atomics.add(new Int32Array(memory.buffer, 0, 1), 0, 1)
  if (slot >= SLOTS) return undefined
  const underway = LINE + slot * SLOT
  return {
    underway,
    batches: Array.from({ length: SLOT_BATCHES }, (_, i) => underway + UNDERWAY + i * BATCH_BYTES),
  }
}
