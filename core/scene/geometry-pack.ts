/**
 * Geometry as one block of bytes, so that a built hierarchy can be kept and need not be built again.
 * Little-endian; not a format for exchange.
 */
import { linksOf, type Allocate } from '../trace/hierarchy'
import { instancesIn } from '../trace/instances'
import { MORE_SETS } from '../point/slots'
import { allocateTrace } from '../trace/memory'
import type { Geometry } from './geometry'

/** Changes whenever the layout of {@link Geometry} or of its hierarchy does: older packs are then built anew. */
export const GEOMETRY_VERSION = 8

interface Header {
  version: number
  root: number
  bounds: number[]
  partBounds: number[]
  partNames: string[]
  /** Places in all where meshes are there as copies; null where none are. */ places: number | null
  lengths: number[]
}

const arraysOf = (g: Geometry) => [
  g.hierarchy.nodes,
  g.hierarchy.packets,
  g.hierarchy.order,
  g.index,
  g.normal,
  g.uv,
  g.tangent,
  ...Array.from({ length: MORE_SETS }, (_, k) => g.uvMore[k] ?? new Float32Array(0)),
  g.spaces,
  g.colour,
  g.part,
  g.hierarchy.instances?.words ?? new Float64Array(0),
]
const padded = (n: number) => (n + 3) & ~3

export function packGeometry(g: Geometry): Uint8Array {
  const arrays = arraysOf(g)
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
  const [nodes, packets, order, index, normal, uv, tangent, uv1, uv2, uv3, spaces, colour, part, copies] =
    header.lengths.map(l => {
      const stored = bytes.subarray(at, at + l)
      at += padded(l)
      return stored
    }) as [
      Uint8Array,
      Uint8Array,
      Uint8Array,
      Uint8Array,
      Uint8Array,
      Uint8Array,
      Uint8Array,
      Uint8Array,
      Uint8Array,
      Uint8Array,
      Uint8Array,
      Uint8Array,
      Uint8Array,
      Uint8Array,
    ]
  const filled = (stored: Uint8Array): ArrayBufferLike => {
    const b = allocate(Math.max(4, padded(stored.length)))
    new Uint8Array(b).set(stored)
    return b
  }
  const floats = (stored: Uint8Array) => new Float32Array(filled(stored), 0, stored.length / 4)
  const words = (stored: Uint8Array) => new Uint32Array(filled(stored), 0, stored.length / 4)
  const { instances, ...trace } = allocateTrace(nodes.length / 4, packets.length / 4, allocate, copies.length / 8)
  for (const [array, stored] of [
    [trace.nodes, nodes],
    [trace.packets, packets],
    [instances, copies],
  ] as const)
    new Uint8Array(array.buffer, array.byteOffset, array.byteLength).set(stored)
  return {
    hierarchy: {
      ...trace,
      links: linksOf(trace.nodes),
      order: words(order),
      bounds: Float32Array.from(header.bounds),
      root: header.root,
      instances: header.places === null ? null : instancesIn(instances, header.places),
    },
    index: words(index),
    normal: floats(normal),
    uv: floats(uv),
    tangent: new Int16Array(filled(tangent), 0, tangent.length / 2),
    uvMore: [uv1, uv2, uv3].filter(set => set.length).map(floats),
    spaces: new Float64Array(filled(spaces), 0, spaces.length / 8),
    colour: floats(colour),
    part: words(part),
    partNames: header.partNames,
    partBounds: Float64Array.from(header.partBounds),
  }
}
