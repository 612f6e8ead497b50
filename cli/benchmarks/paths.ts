import { cameraFrame } from '../../core/scene/camera'
import { TILE } from '../../core/render/film'
import type { RenderScene } from '../../core/world/render-scene'
import { createTracer } from '../../core/render/tracer'
import { renderTile } from '../../core/render/integrate'
import { instantiateMaterials, type World } from '../../core/world/world'
import { beginSurface } from '../../core/surface/begin'
import { castRows } from './rays'
import { benchmarkWorld, VIEW } from './scene'
import { renderOnThreads } from '../pool'
import type { Benchmark } from '../command'

const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)
const WIDTH = 640
const HEIGHT = 400

/**
 * `benchmark paths`: camera paths and rays a second at 640 × 400 on two threads, and their ratio to the bare ray
 * kernel in the same run.
 */
async function benchmarkPaths(threads: number, passes: number): Promise<unknown> {
  const world = benchmarkWorld(undefined, shared)
  const { geometry } = world
  const camera = VIEW
  const o = { width: WIDTH, height: HEIGHT, seed: 0, threads, aov: [] as string[], from: 0 }
  // workers begin cold: what they do once their code is compiled counts, from the end of the first pass on
  const runs = []
  for (let i = 0; i < 3; i++) {
    let warm = 0
    let since = 0
    const r = await renderOnThreads(world, camera, {
      ...o,
      to: passes + 1,
      progress: done => {
        if (!since && done * (passes + 1) >= 1) {
          since = performance.now()
          warm = done
        }
      },
    })
    const seconds = (performance.now() - since) / 1000
    runs.push({ paths: r.paths * (1 - warm), rays: r.rays * (1 - warm), seconds, cold: r.paths / r.seconds })
  }
  const best = runs.reduce((a, b) => (a.paths / a.seconds > b.paths / b.seconds ? a : b))
  // cosine-like incoherent rays from the scene's own surfaces, on one thread
  const rows = new Float32Array(60000 * 6)
  let s = 5
  const random = () => (s = (s * 48271) % 2147483647) / 2147483647
  for (let i = 0; i < rows.length; i += 6) {
    const z = 2 * random() - 1
    const a = 6.2831853 * random()
    const r = Math.sqrt(1 - z * z)
    rows.set([random() * 3 - 1.5, random() * 1.2, random() * 3 - 1.5, r * Math.cos(a), r * Math.sin(a), z], i)
  }
  const rays = castRows(geometry.hierarchy, rows)
  return {
    triangles: geometry.index.length / 3,
    threads,
    pathsPerSecond: Math.round(best.paths / best.seconds),
    raysPerSecond: Math.round(best.rays / best.seconds),
    coldPathsPerSecond: Math.round(best.cold),
    raysPerPath: +(best.rays / best.paths).toFixed(2),
    kernelRaysPerSecond: rays.raysPerSecond,
    raysOverKernel: +(best.rays / best.seconds / threads / rays.raysPerSecond).toFixed(3),
    accept: { pathsPerSecond: 200000, raysPerSecond: 550000 },
    networkOnce: networkTime(world, camera),
  }
}

/** Time of one evaluation of the scene's network, µs: a tile of the hero's surface, shading alone. */
function networkTime(world: World, camera: Parameters<typeof cameraFrame>[0]): string {
  const [material] = instantiateMaterials(world)
  const scene: RenderScene = {
    geometry: world.geometry,
    lights: world.lights,
    materials: instantiateMaterials(world),
    materialOf: world.materialOf,
    priorityOf: world.priorityOf,
    camera: cameraFrame(camera, WIDTH, HEIGHT),
    maxOpaque: 8,
    maxSpecular: 24,
  }
  renderTile(
    createTracer(),
    scene,
    320,
    200,
    TILE,
    TILE,
    WIDTH,
    HEIGHT,
    0,
    0,
    new Float64Array(TILE * TILE * 3),
    null,
  )
  const S = new Float64Array(32)
  const N = 200000
  let best = Infinity
  for (let round = 0; round < 4; round++) {
    const t = performance.now()
    for (let i = 0; i < N; i++) {
      S[0] = (i * 0.00137) % 1
      S[1] = (i * 0.00731) % 1
      S[2] = (i * 0.0113) % 1
      S[3] = 0.6
      S[4] = 0.64
      S[5] = 0.48
      S[6] = 0.6
      S[7] = 0.64
      S[8] = 0.48
      beginSurface(0.6, 0.64, 0.48, 0.6, 0.64, 0.48)
      material!.shader.shade(S, material!.constants, material!.shader.images)
    }
    best = Math.min(best, ((performance.now() - t) / N) * 1000)
  }
  return `${best.toFixed(2)} µs`
}

export const benchmark: Benchmark = {
  options: '[--threads N] [--passes N]',
  run: o => benchmarkPaths(o.number('threads', 2, 1, 64), o.number('passes', 8, 1, 1024)),
}
