import { createLights } from '../core/light/lights'
import { sphere } from '../core/mesh/sphere'
import { noise3 } from '../core/nodes/noise'
import { cameraFrame, defaultCamera } from '../core/scene/camera'
import { compileMaterial } from '../core/scene/compile-material'
import { createGeometry } from '../core/scene/geometry'
import type { World } from '../core/scene/world'
import { TILE } from '../core/render/film'
import { createTracer, renderTile } from '../core/render/integrate'
import { instantiateMaterials } from '../core/scene/world'
import { benchmarkScene } from './benchmark-scene'
import { cpuSeconds } from './benchmark-rays'
import { renderOnThreads } from './pool'

const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)
const WIDTH = 480, HEIGHT = 300

/** The benchmark scene with its hero cut into so many triangles. */
function worldOf(triangles: number): { world: World, buildSeconds: number } {
  const scene = benchmarkScene(), rings = Math.max(8, Math.round(Math.sqrt(triangles / 2 / 1.25))), hero = sphere('Hero', 0.5, rings, Math.round(rings * 1.25), [0, 0.5, 0])
  for (let i = 0; i < hero.position.length; i += 3) {
    const x = hero.normal[i]!, y = hero.normal[i + 1]!, z = hero.normal[i + 2]!, d = 0.02 * noise3(x * 6, y * 6, z * 6)
    hero.position[i]! += x * d; hero.position[i + 1]! += y * d; hero.position[i + 2]! += z * d
  }
  const began = cpuSeconds(), geometry = createGeometry({ parts: [hero, ...scene.model.parts.slice(1)] }, new Set(), shared), programs = scene.documents.map(([d, m]) => compileMaterial(d, m, true))
  return { buildSeconds: cpuSeconds() - began, world: { geometry, lights: createLights(scene.rig, null, shared), programs, textures: programs.map(() => []), materialOf: Int32Array.from(scene.materialOf), maxOpaque: 8, maxSpecular: 24 } }
}

/**
 * `benchmark scale`: time of a sample against the number of triangles, memory of the largest scene, samples of two threads over those of one, and what the JavaScript heap
 * gains over a hundred passes.
 */
export async function benchmarkScale(most: number): Promise<unknown> {
  const counts = [10_000, 40_000, 160_000, 640_000, 2_500_000, 8_000_000].filter(n => n <= most), rows: { triangles: number, microsecondsASample: number, overLog: number, buildSeconds: number, megabytes: number }[] = []
  for (const count of counts) {
    const { world, buildSeconds } = worldOf(count), camera = { ...defaultCamera(world.geometry.hierarchy.bounds, WIDTH, HEIGHT), position: [1.5, 1.1, 2.3] as [number, number, number], target: [0, 0.38, 0] as [number, number, number] }
    const g = world.geometry, megabytes = [g.hierarchy.nodes, g.hierarchy.packets, g.hierarchy.order, g.index, g.normal, g.uv, g.part].reduce((n, a) => n + a.byteLength, 0) / 2 ** 20
    // the best of three, each on warm workers: the first pass does not count
    let best = Infinity
    for (let i = 0; i < 3; i++) {
      let warm = 0, since = 0
      await renderOnThreads(world, camera, { width: WIDTH, height: HEIGHT, seed: 0, threads: 1, aov: [], from: 0, to: 5, progress: (done) => { if (!since && done >= 0.2) { since = performance.now(); warm = done } } })
      best = Math.min(best, (performance.now() - since) * 1000 / (WIDTH * HEIGHT * 5 * (1 - warm)))
    }
    const triangles = g.index.length / 3
    rows.push({ triangles, microsecondsASample: +best.toFixed(3), overLog: 0, buildSeconds: +buildSeconds.toFixed(2), megabytes: Math.round(megabytes) })
  }
  // how much faster than log₂ of the triangles the time of a sample grows, from the smallest scene on: at most 1 is no faster
  for (const r of rows) r.overLog = +(r.microsecondsASample / rows[0]!.microsecondsASample / (Math.log2(r.triangles) / Math.log2(rows[0]!.triangles))).toFixed(3)
  const { world } = worldOf(160_000), camera = { ...defaultCamera(world.geometry.hierarchy.bounds, WIDTH, HEIGHT), position: [1.5, 1.1, 2.3] as [number, number, number], target: [0, 0.38, 0] as [number, number, number] }
  const rate = async (threads: number) => {
    const cpu = cpuSeconds(), r = await renderOnThreads(world, camera, { width: WIDTH, height: HEIGHT, seed: 0, threads, aov: [], from: 0, to: 12 * threads })
    return { wall: r.paths / r.seconds, cpu: r.paths / (cpuSeconds() - cpu) }
  }
  const one = await rate(1), two = await rate(2)
  return { rows, twoThreadsOverOne: +(two.wall / one.wall).toFixed(3), twoThreadsOverOneByCpuGranted: +(2 * two.cpu / one.cpu).toFixed(3), heapGainOverHundredPasses: heapGain(world, camera), residentMegabytes: Math.round(process.memoryUsage().rss / 2 ** 20), accept: { overLog: 1, twoThreadsOverOne: 1.8, heapGainBytes: 2 ** 20, megabytes: 1228 } }
}

/** Bytes that the heap holds more after a hundred passes of some tiles than before them. */
function heapGain(world: World, camera: Parameters<typeof cameraFrame>[0]): number | string {
  if (!globalThis.gc) return 'needs node --expose-gc'
  const tracer = createTracer(), out = new Float64Array(TILE * TILE * 3), scene = { ...world, materials: instantiateMaterials(world), camera: cameraFrame(camera, WIDTH, HEIGHT) }
  const passes = (n: number) => { for (let pass = 0; pass < n; pass++) for (let x = 0; x < 8; x++) renderTile(tracer, scene, 160 + x * TILE, 128, TILE, TILE, WIDTH, HEIGHT, pass, 0, out, null) }
  passes(40)
  globalThis.gc()
  const before = process.memoryUsage().heapUsed
  passes(100)
  globalThis.gc()
  return process.memoryUsage().heapUsed - before
}
