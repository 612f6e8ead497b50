import { readFileSync } from 'node:fs'
import { buildHierarchy } from '../../core/trace/build'
import { bytesPerTriangle, type Hierarchy } from '../../core/trace/hierarchy'
import { batchNear, castClosest, createRayBatch } from '../../core/trace/cast'
import { readPly } from '../../core/formats/models/ply'
import type { Benchmark } from '../command'
import { InputError } from '../options'

export interface RaysResult {
  buildSeconds: number
  raysPerSecond: number
  hits: number
  sumT: number
  bytesPerTriangle: number
}

/** CPU seconds of this process so far. */
export function cpuSeconds(): number {
  const c = process.cpuUsage()
  return (c.user + c.system) / 1e6
}

/** Casts rows of ox oy oz dx dy dz in batches of 256 on one thread; best of five rounds. */
export function castRows(hierarchy: Hierarchy, rows: Float32Array): Omit<RaysResult, 'buildSeconds'> {
  const total = rows.length / 6
  const BATCH = 256
  const batch = batchNear(hierarchy, createRayBatch(BATCH), 1)
  const { origin, direction, distance } = batch
  let best = Infinity
  let hits = 0
  let sumT = 0
  for (let round = 0; round < 5; round++) {
    hits = 0
    sumT = 0
    const t0 = cpuSeconds()
    for (let first = 0; first < total; first += BATCH) {
      const n = Math.min(BATCH, total - first)
      for (let i = 0, o = first * 6; i < n; i++, o += 6) {
        const p = i * 3
        origin[p] = rows[o]!
        origin[p + 1] = rows[o + 1]!
        origin[p + 2] = rows[o + 2]!
        direction[p] = rows[o + 3]!
        direction[p + 1] = rows[o + 4]!
        direction[p + 2] = rows[o + 5]!
        distance[i] = Infinity
      }
      castClosest(hierarchy, batch, n)
      for (let i = 0; i < n; i++)
        if (batch.triangle[i]! >= 0) {
          hits++
          sumT += batch.distance[i]!
        }
    }
    best = Math.min(best, cpuSeconds() - t0)
  }
  return { raysPerSecond: Math.round(total / best), hits, sumT, bytesPerTriangle: bytesPerTriangle(hierarchy) }
}

/** `benchmark rays`: a PLY mesh and a file of float32 rows. */
function benchmarkRays(meshFile: string, raysFile: string): RaysResult {
  const mesh = readPly(readFileSync(meshFile))
  const bytes = readFileSync(raysFile)
  const start = cpuSeconds()
  const hierarchy = buildHierarchy(mesh.position, mesh.index)
  const buildSeconds = cpuSeconds() - start
  return {
    buildSeconds,
    ...castRows(
      hierarchy,
      new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length)),
    ),
  }
}

export const benchmark: Benchmark = {
  options: '--mesh F.ply --rays F.bin',
  run(o) {
    const mesh = o.text('mesh')
    const rays = o.text('rays')
    if (!mesh || !rays) throw new InputError('benchmark rays needs --mesh F.ply and --rays F.bin')
    return benchmarkRays(mesh, rays)
  },
}
