/**
 * Geometry as one block of bytes, so that a built hierarchy can be kept and need not be built again.
 * Little-endian; not a format for exchange.
 */
import { linksOf, type Allocate } from '../trace/hierarchy'
import { instancesIn } from '../trace/instances'
import { allocateTrace } from '../trace/memory'
import type { Geometry } from './geometry'

/** Changes whenever the layout of {@link Geometry} or of its hierarchy does: older packs are then built anew. */
export const GEOMETRY_VERSION = 10

interface Header {
  version: number
  root: number
  bounds: number[]
  partBounds: number[]
  partNames: string[]
  /** Places in all where meshes are there as copies; null where none are. */ places: number | null
  lengths: number[]
}

/** Arrays of a pack, in their order. */
const ARRAYS = [
  'nodes',
  'packets',
  'order',
  'index',
  'normal',
  'uv',
  'tangent',
  'uv1',
  'uv2',
  'uv3',
  'spaces',
  'restPosition',
  'restNormal',
  'restBy',
  'colour',
  'part',
  'copies',
] as const
type Arrays<T> = Record<(typeof ARRAYS)[number], T>

const NONE = new Float32Array(0)
const arraysOf = ({ hierarchy, uvMore, ...g }: Geometry): Arrays<ArrayBufferView> => ({
  nodes: hierarchy.nodes,
  packets: hierarchy.packets,
  order: hierarchy.order,
  index: g.index,
  normal: g.normal,
  uv: g.uv,
  tangent: g.tangent,
  uv1: uvMore[0] ?? NONE,
  uv2: uvMore[1] ?? NONE,
  uv3: uvMore[2] ?? NONE,
  spaces: g.spaces,
  restPosition: g.restPosition,
  restNormal: g.restNormal,
  restBy: g.restBy,
  colour: g.colour,
  part: g.part,
  copies: hierarchy.instances?.words ?? NONE,
})
const padded = (n: number) => (n + 3) & ~3

export function packGeometry(g: Geometry): Uint8Array {
  const named = arraysOf(g)
  const arrays = ARRAYS.map(name => named[name])
  const { root, bounds, instances } = g.hierarchy
  const header: Header = {
    version: GEOMETRY_VERSION,
    root,
    bounds: [...bounds],
    partBounds: [...g.partBounds],
    partNames: g.partNames,
    places: instances && instances.places,
    lengths: arrays.map(a => a.byteLength),
  }
  const text = new TextEncoder().encode(JSON.stringify(header))
  const out = new Uint8Array(4 + padded(text.length) + arrays.reduce((n, a) => n + padded(a.byteLength), 0))
  new DataView(out.buffer).setUint32(0, text.length, true)
  out.set(text, 4)
  let at = 4 + padded(text.length)
  for (const a of arrays) {
    out.set(new Uint8Array(a.buffer, a.byteOffset, a.byteLength), at)
    at += padded(a.byteLength)
  }
  return out
}

/** Reads what {@link packGeometry} wrote; undefined when it is of another version or cut short. */
export function unpackGeometry(bytes: Uint8Array, allocate: Allocate): Geometry | undefined {
  if (bytes.length < 8) return undefined
  const length = new DataView(bytes.buffer, bytes.byteOffset).getUint32(0, true)
  let header: Header
  try {
    header = JSON.parse(new TextDecoder().decode(bytes.subarray(4, 4 + length))) as Header
  } catch {
    return undefined
  }
  if (
    header.version !== GEOMETRY_VERSION ||
    bytes.length !== 4 + padded(length) + header.lengths.reduce((n, l) => n + padded(l), 0)
  )
    return undefined
  let at = 4 + padded(length)
  const stored = {} as Arrays<Uint8Array>
  ARRAYS.forEach((name, i) => {
    const length = header.lengths[i] ?? 0
    stored[name] = bytes.subarray(at, at + length)
    at += padded(length)
  })
  const filled = (from: Uint8Array): ArrayBufferLike => {
    const b = allocate(Math.max(4, padded(from.length)))
    new Uint8Array(b).set(from)
    return b
  }
  const floats = (from: Uint8Array) => new Float32Array(filled(from), 0, from.length / 4)
  const words = (from: Uint8Array) => new Uint32Array(filled(from), 0, from.length / 4)
  const { instances, ...trace } = allocateTrace(
    stored.nodes.length / 4,
    stored.packets.length / 4,
    allocate,
    stored.copies.length / 8,
  )
  for (const [array, from] of [
    [trace.nodes, stored.nodes],
    [trace.packets, stored.packets],
    [instances, stored.copies],
  ] as const)
    new Uint8Array(array.buffer, array.byteOffset, array.byteLength).set(from)
  return {
    hierarchy: {
      ...trace,
      links: linksOf(trace.nodes),
      order: words(stored.order),
      bounds: Float32Array.from(header.bounds),
      root: header.root,
      instances: header.places === null ? null : instancesIn(instances, header.places),
    },
    index: words(stored.index),
    normal: floats(stored.normal),
    uv: floats(stored.uv),
    tangent: new Int16Array(filled(stored.tangent), 0, stored.tangent.length / 2),
    uvMore: [stored.uv1, stored.uv2, stored.uv3].filter(set => set.length).map(floats),
    spaces: new Float64Array(filled(stored.spaces), 0, stored.spaces.length / 8),
    restPosition: floats(stored.restPosition),
    restNormal: floats(stored.restNormal),
    restBy: new Int32Array(filled(stored.restBy), 0, stored.restBy.length / 4),
    colour: floats(stored.colour),
    part: words(stored.part),
    partNames: header.partNames,
    partBounds: Float64Array.from(header.partBounds),
  }
}
