import { sphere } from '../../core/mesh/sphere'
import type { Model, Part } from '../../core/mesh/model'
import { withoutCopy } from '../../core/mesh/transform'
import { createGeometry, type Geometry } from '../../core/scene/geometry'
import { castRows, cpuSeconds } from './rays'
import type { Benchmark } from '../command'

const none = new Float32Array(0)
const random = (() => {
  let s = 9
  return () => (s = (s * 48271) % 2147483647) / 2147483647
})()

/** A field of balls: one mesh and its copies, turned and of several sizes, in a cube of ten metres. */
function field(triangles: number, copies: number): Model {
  const rings = Math.round(Math.sqrt(triangles / 3))
  const parts: Part[] = [sphere('Ball', 0.3, rings, Math.round(rings * 1.5))]
  for (let i = 1; i < copies; i++) {
    const a = random() * 6.283
    const s = 0.5 + random()
    const c = Math.cos(a) * s
    const d = Math.sin(a) * s
    parts.push({
      name: `Ball ${i + 1}`,
      position: none,
      normal: none,
      uv: none,
      index: new Uint32Array(0),
      copy: {
        of: 0,
        transform: Float64Array.of(c, -d, 0, random() * 10, d, c, 0, random() * 10, 0, 0, s, random() * 10),
      },
    })
  }
  return { parts }
}

/**
 * `benchmark copies`: rays a second, bytes and seconds of building where a mesh is there as copies, over the same
 * as triangles of their own; closest hits of rays across the field, one thread.
 */
function benchmarkCopies(triangles: number, copies: number): unknown {
  const model = field(triangles, copies)
  const rows = new Float32Array(200_000 * 6)
  for (let i = 0; i < rows.length; i += 6) {
    let l = 0
    for (let k = 0; k < 3; k++) {
      rows[i + k] = random() * 14 - 2
      rows[i + 3 + k] = random() * 10 - rows[i + k]!
      l += rows[i + 3 + k]! ** 2
    }
    for (let k = 3; k < 6; k++) rows[i + k]! /= Math.sqrt(l)
  }
  const measure = (m: Model) => {
    const began = cpuSeconds()
    const g: Geometry = createGeometry(m)
    const seconds = cpuSeconds() - began
    const h = g.hierarchy
    const bytes = [
      h.nodes,
      h.packets,
      h.order,
      ...(h.instances ? [h.instances.words] : []),
      g.index,
      g.normal,
      g.uv,
      g.part,
    ].reduce((n, a) => n + a.byteLength, 0)
    const { raysPerSecond, hits, sumT } = castRows(h, rows)
    return { seconds, bytes, raysPerSecond, hits, sumT }
  }
  const as = measure(model)
  const own = measure({ parts: model.parts.map(p => withoutCopy(model, p)) })
  return {
    copies,
    triangles: (copies * model.parts[0]!.index.length) / 3,
    raysPerSecond: {
      copies: as.raysPerSecond,
      own: own.raysPerSecond,
      ratio: +(as.raysPerSecond / own.raysPerSecond).toFixed(3),
    },
    megabytes: { copies: +(as.bytes / 2 ** 20).toFixed(1), own: +(own.bytes / 2 ** 20).toFixed(1) },
    buildSeconds: { copies: +as.seconds.toFixed(3), own: +own.seconds.toFixed(3) },
    hits: { copies: as.hits, own: own.hits, sumOver: as.sumT / own.sumT },
  }
}

export const benchmark: Benchmark = {
  options: '[--triangles N] [--copies N]',
  run: o => benchmarkCopies(o.number('triangles', 8000, 1000, 1e7), o.number('copies', 200, 2, 60000)),
}
