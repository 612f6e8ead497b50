/**
 * The builder in WebAssembly (`kernel/build.ts`), and the memory it works in, which is let go of when the
 * hierarchy stands.
 */
import { builderIn, buildShared, MOST_ENTRIES, MOST_HANDS, SCRATCH, type BuildShare } from './build-share'
import {
  fillPackets,
  linksOf,
  NODE_WORDS,
  PACKET_WORDS,
  slackOf,
  type Allocate,
  type Hierarchy,
} from './hierarchy'
import { allocateTrace } from './memory'

const PAGE = 65536
const LINE = 64
/** Bytes of a triangle's record, of a binary node and of an entry; what folding keeps beside them. */
const RECORD = 32
const BINARY = 64
const ENTRY = 48
const WAITING = 65536
/** Triangles from which on others are called to help. */
const WORTH = 60_000
/** Nodes that are folded in one call: the engine exchanges code for faster code between calls. */
const FOLDED = 4096

/**
 * Builds by the kernel.
 * @param call asks other threads to {@link joinBuild}; whether they come is up to them
 * @returns undefined where it cannot run: no WebAssembly with SIMD, or not enough memory
 */
export function buildByKernel(
  position: Float32Array,
  index: Uint32Array,
  allocate: Allocate,
  call?: (share: BuildShare) => void,
): Hierarchy | undefined {
  const count = index.length / 3
  if (count === 0) return undefined
  let end = LINE
  const take = (bytes: number): number => {
    const at = end
    end = (end + bytes + LINE - 1) & ~(LINE - 1)
    return end < at ? NaN : at
  }
  // a memory of 32 bits ends at 4 GiB; what is added up here must not wrap around on the way
  const bytes =
    position.byteLength +
    index.byteLength +
    (count + MOST_ENTRIES) * (RECORD + BINARY) +
    MOST_ENTRIES * ENTRY +
    MOST_HANDS * SCRATCH +
    WAITING +
    16 * LINE
  if (bytes > 2 ** 31 - PAGE) return undefined
  const root = take(LINE)
  const control = take(LINE)
  const queue = take(MOST_ENTRIES * ENTRY)
  const scratch = take(MOST_HANDS * SCRATCH)
  const waiting = take(WAITING)
  const records = take((count + MOST_ENTRIES) * RECORD)
  const nodes = take((count + MOST_ENTRIES) * BINARY)
  const positionAt = take(position.byteLength)
  const indexAt = take(index.byteLength)
  let memory: WebAssembly.Memory
  const pages = Math.ceil(end / PAGE)
  const most = Math.min(65536, pages + Math.ceil((count * 170) / PAGE) + 2)
  try {
    memory = new WebAssembly.Memory({ initial: pages, maximum: most, shared: true })
  } catch {
    return undefined
  }
  const builder = builderIn(memory)
  if (!builder) return undefined
  new Float32Array(memory.buffer, positionAt, position.length).set(position)
  new Uint32Array(memory.buffer, indexAt, index.length).set(index)
  const share: BuildShare = {
    memory,
    count,
    position: positionAt,
    index: indexAt,
    records,
    nodes,
    root,
    control,
    queue,
    scratch,
  }
  const built = buildShared(share, builder, count >= WORTH ? call : undefined)
  if (!built) return undefined
  builder.weigh(nodes, count, count + built.top, records, scratch)
  const rootReference = new Int32Array(memory.buffer, root, 1)[0]!
  const box = new Float32Array(memory.buffer, root + 16, 8)
  const bounds = Float32Array.of(box[0]!, box[1]!, box[2]!, box[4]!, box[5]!, box[6]!)
  const slack = slackOf(bounds)
  // positions and numbers have been read: the folded nodes may lie there, with what more they need
  const wide = positionAt
  const orderAt = wide + Math.max(1, built.used) * NODE_WORDS * 4
  const needed = orderAt + (built.used + 1) * 2 * 16 + count * 4
  if (needed > memory.buffer.byteLength) {
    try {
      memory.grow(Math.ceil((needed - memory.buffer.byteLength) / PAGE))
    } catch {
      return undefined
    }
  }
  builder.beginFold(rootReference, records, orderAt, waiting)
  while (builder.fold(nodes, records, wide, orderAt, slack, waiting, FOLDED));
  const [nodeCount, packetCount] = new Int32Array(memory.buffer, waiting, 2) as unknown as [number, number]
  const {
    memory: traced,
    nodes: N,
    packets,
  } = allocateTrace(Math.max(1, nodeCount) * NODE_WORDS, packetCount * PACKET_WORDS, allocate)
  N.set(new Float32Array(memory.buffer, wide, nodeCount * NODE_WORDS))
  const order = new Uint32Array(allocate(packetCount * 16))
  order.set(new Uint32Array(memory.buffer, orderAt, packetCount * 4))
  fillPackets(packets, order, position, index)
  return {
    memory: traced,
    nodes: N,
    links: linksOf(N),
    packets,
    order,
    bounds,
    root: rootReference >= 0 ? 0 : ~(packetCount - 1),
    instances: null,
  }
}
