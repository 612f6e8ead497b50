import { createLights } from '../../core/light/create-lights'
import { rigSchema, type Rig } from '../../core/scene/rig'
import type { Program } from '../../core/network/compile'
import { cameraFrame } from '../../core/scene/camera'
import { compileMaterial } from '../../core/world/compile-material'
import type { World } from '../../core/world/world'
import { TILE } from '../../core/render/film'
import { createTracer } from '../../core/render/tracer'
import { renderTile } from '../../core/render/integrate'
import { instantiateMaterials } from '../../core/world/world'
import { benchmarkModel, benchmarkWorld, plain, VIEW } from './scene'
import { cpuSeconds } from './rays'
import { renderOnThreads } from '../pool'
import type { Benchmark } from '../command'

const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)
const WIDTH = 480
const HEIGHT = 300

/** The benchmark scene's model with its hero cut into so many triangles. */
const modelOf = (triangles: number) => benchmarkModel(Math.max(8, Math.round(Math.sqrt(triangles / 2 / 1.25))))

/**
 * Time of a sample on one thread, µs: the best of three, each on warm workers, whose first pass does not count.
 */
async function sampleTime(world: World, width = WIDTH, height = HEIGHT, passes = 5): Promise<number> {
  let best = Infinity
  for (let i = 0; i < 3; i++) {
    let warm = 0
    let since = 0
    await renderOnThreads(world, VIEW, {
      width,
      height,
      seed: 0,
      threads: 1,
      aov: [],
      from: 0,
      to: passes,
      progress: done => {
        if (!since && done >= 1 / passes) {
          since = performance.now()
          warm = done
        }
      },
    })
    best = Math.min(best, ((performance.now() - since) * 1000) / (width * height * passes * (1 - warm)))
  }
  return +best.toFixed(3)
}

/** A hero whose colour comes from so many noises, added up. */
function noises(count: number): Program {
  const body = Array.from(
    { length: count },
    (_, i) =>
      `<multiply name="p${i}" type="vector3"><input name="in1" type="vector3" nodename="p"/>
        <input name="in2" type="float" value="${3 + i}"/></multiply><noise3d name="n${i}" type="float">
        <input name="position" type="vector3" nodename="p${i}"/></noise3d>
        ${
          i > 0
            ? `<add name="s${i}" type="float">
          <input name="in1" type="float" nodename="${i > 1 ? `s${i - 1}` : 'n0'}"/>
          <input name="in2" type="float" nodename="n${i}"/></add>`
            : ''
        }`,
  ).join('')
  return compileMaterial(
    plain(
      `<position name="p" type="vector3"/>${body}<open_pbr_surface name="s" type="surfaceshader">
        <input name="specular_roughness" type="float" nodename="${count > 1 ? `s${count - 1}` : 'n0'}"/>
        </open_pbr_surface>`,
    ),
    'm',
    true,
  )
}

/** A rig of so many panels in a ring. */
const ring = (count: number): Rig =>
  rigSchema.parse({
    name: 'ring',
    environment: { kind: 'uniform', radiance: [0.3, 0.3, 0.3] },
    panels: Array.from({ length: count }, (_, i) => {
      const a = (i / count) * 2 * Math.PI
      return {
        name: String(i),
        centre: [2 * Math.cos(a), 2, 2 * Math.sin(a)],
        u: [-0.3 * Math.sin(a), 0, 0.3 * Math.cos(a)],
        v: [0.2 * Math.cos(a), -0.2, 0.2 * Math.sin(a)],
        radiance: [20 / count, 20 / count, 20 / count],
      }
    }),
  })

/**
 * `benchmark scale`: time of a sample against triangles, pixels, passes, noises in the network and panels; memory
 * of the largest scene, and what the JavaScript heap gains over a hundred passes.
 */
async function benchmarkScale(most: number): Promise<unknown> {
  const counts = [10_000, 40_000, 160_000, 640_000, 2_500_000, 8_000_000].filter(n => n <= most)
  const rows: {
    triangles: number
    microsecondsASample: number
    overLog: number
    buildSeconds: number
    megabytes: number
  }[] = []
  // a first run for the engine alone
  const world = benchmarkWorld(modelOf(160_000), shared)
  await sampleTime(world)
  for (const count of counts) {
    const model = modelOf(count)
    const began = cpuSeconds()
    const world = benchmarkWorld(model, shared)
    const buildSeconds = cpuSeconds() - began
    const g = world.geometry
    const megabytes =
      [g.hierarchy.nodes, g.hierarchy.packets, g.hierarchy.order, g.index, g.normal, g.uv, g.part].reduce(
        (n, a) => n + a.byteLength,
        0,
      ) /
      2 ** 20
    rows.push({
      triangles: g.index.length / 3,
      microsecondsASample: await sampleTime(world),
      overLog: 0,
      buildSeconds: +buildSeconds.toFixed(2),
      megabytes: Math.round(megabytes),
    })
  }
  // how much faster than log₂ of the triangles the time of a sample grows, from the smallest scene on: at most 1
  // is no faster
  for (const r of rows)
    r.overLog = +(
      r.microsecondsASample /
      rows[0]!.microsecondsASample /
      (Math.log2(r.triangles) / Math.log2(rows[0]!.triangles))
    ).toFixed(3)
  // what was built and is not needed any more is let go of first: memories that threads could share at the second
  // collection
  for (let i = 0; i < 2; i++) {
    globalThis.gc?.()
    await new Promise(r => setTimeout(r, 50))
  }
  const residentMegabytes = Math.round(process.memoryUsage().rss / 2 ** 20)
  const over = async <T>(values: T[], time: (value: T) => Promise<number>) => {
    const all: { value: T; microsecondsASample: number }[] = []
    for (const value of values) all.push({ value, microsecondsASample: await time(value) })
    return all
  }
  const pixels = await over([10_000, 40_000, 160_000, 640_000], n =>
    sampleTime(world, Math.round(Math.sqrt(n * 1.6)), Math.round(Math.sqrt(n / 1.6))),
  )
  const passes = await over([2, 4, 8, 16, 32], n => sampleTime(world, WIDTH, HEIGHT, n))
  const nodes = await over([1, 2, 4, 8, 16, 32], n =>
    sampleTime({ ...world, programs: [noises(n), ...world.programs.slice(1)] }),
  )
  const panels = await over([1, 2, 4, 8, 16], n =>
    sampleTime({ ...world, lights: createLights(ring(n), null, shared) }),
  )
  return {
    rows,
    pixels,
    passes,
    noises: nodes,
    panels,
    heapGainOverHundredPasses: heapGain(world),
    residentMegabytes,
    accept: { overLog: 1, heapGainBytes: 2 ** 20, megabytes: 1228 },
  }
}

/** Bytes that the heap holds more after a hundred passes of some tiles than before them. */
function heapGain(world: World): number | string {
  if (!globalThis.gc) return 'needs node --expose-gc'
  const tracer = createTracer()
  const out = new Float64Array(TILE * TILE * 3)
  const scene = { ...world, materials: instantiateMaterials(world), camera: cameraFrame(VIEW, WIDTH, HEIGHT) }
  const passes = (n: number) => {
    for (let pass = 0; pass < n; pass++)
      for (let x = 0; x < 8; x++)
        renderTile(tracer, scene, 160 + x * TILE, 128, TILE, TILE, WIDTH, HEIGHT, pass, 0, out, null)
  }
  passes(40)
  globalThis.gc()
  const before = process.memoryUsage().heapUsed
  passes(100)
  globalThis.gc()
  return process.memoryUsage().heapUsed - before
}

export const benchmark: Benchmark = {
  options: '[--triangles N]',
  run: o => benchmarkScale(o.number('triangles', 8e6, 1e4, 1e8)),
}
