/** The builder in WebAssembly (`kernel/build.ts`), and the memory it works in, which is let go of when the hierarchy stands. */
import { compiledKernel } from './kernel'
import { fillPackets, linksOf, NODE_WORDS, PACKET_WORDS, slackOf, type Allocate, type Hierarchy } from './hierarchy'
import { allocateTrace } from './memory'

const PAGE = 65536, LINE = 64
/** Bytes of a triangle's record and of a binary node; what the builder and the folding keep beside them. */
const RECORD = 32, BINARY = 64, SCRATCH = 8192, WAITING = 65536

interface Builder {
  measureTriangles(position: number, index: number, count: number, records: number): void
  buildBinary(records: number, count: number, nodes: number, scratch: number, root: number): number
  fold(nodes: number, used: number, root: number, records: number, wide: number, order: number, slack: number, waiting: number, packets: number): number
}

/** Builds by the kernel. @returns undefined where it cannot run: no WebAssembly with SIMD, or not enough memory */
export function buildByKernel(position: Float32Array, index: Uint32Array, allocate: Allocate): Hierarchy | undefined {
  const module = compiledKernel(), count = index.length / 3
  if (!module || count === 0) return undefined
  let end = LINE
  const take = (bytes: number): number => { const at = end; end = end + bytes + LINE - 1 & ~(LINE - 1); return end < at ? NaN : at }
  // a memory of 32 bits ends at 4 GiB; what is added up here must not wrap around on the way
  const bytes = position.byteLength + index.byteLength + count * (RECORD + BINARY) + SCRATCH + WAITING + 8 * LINE
  if (bytes > 2 ** 31 - PAGE) return undefined
  const head = take(LINE), records = take(count * RECORD), nodes = take(count * BINARY), scratch = take(SCRATCH + WAITING), positionAt = take(position.byteLength), indexAt = take(index.byteLength)
  let memory: WebAssembly.Memory
  const pages = Math.ceil(end / PAGE), most = Math.min(65536, pages + Math.ceil(count * 170 / PAGE) + 2)
  try { memory = new WebAssembly.Memory({ initial: pages, maximum: most, shared: true }) }
  catch { return undefined }
  const builder = new WebAssembly.Instance(module, { env: { memory } }).exports as unknown as Builder
  new Float32Array(memory.buffer, positionAt, position.length).set(position)
  new Uint32Array(memory.buffer, indexAt, index.length).set(index)
  builder.measureTriangles(positionAt, indexAt, count, records)
  const used = builder.buildBinary(records, count, nodes, scratch, head), rootReference = new Int32Array(memory.buffer, head, 1)[0]!
  const box = new Float32Array(memory.buffer, head + 16, 8), bounds = Float32Array.of(box[0]!, box[1]!, box[2]!, box[4]!, box[5]!, box[6]!)
  const slack = slackOf(bounds)
  // positions and numbers have been read: the folded nodes may lie there, with what more they need
  const wide = positionAt, orderAt = wide + Math.max(1, used) * NODE_WORDS * 4, needed = orderAt + (used + 1) * 2 * 16 + count * 4
  if (needed > memory.buffer.byteLength) {
    try { memory.grow(Math.ceil((needed - memory.buffer.byteLength) / PAGE)) }
    catch { return undefined }
  }
  const nodeCount = builder.fold(nodes, used, rootReference, records, wide, orderAt, slack, scratch + SCRATCH, head), packetCount = new Int32Array(memory.buffer, head, 1)[0]!
  const { memory: traced, nodes: N, packets } = allocateTrace(Math.max(1, nodeCount) * NODE_WORDS, packetCount * PACKET_WORDS, allocate)
  N.set(new Float32Array(memory.buffer, wide, nodeCount * NODE_WORDS))
  const order = new Uint32Array(allocate(packetCount * 16))
  order.set(new Uint32Array(memory.buffer, orderAt, packetCount * 4))
  fillPackets(packets, order, position, index)
  return { memory: traced, nodes: N, links: linksOf(N), packets, order, bounds, root: rootReference >= 0 ? 0 : ~(packetCount - 1), instances: null }
}
