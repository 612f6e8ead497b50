import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createTracer } from '../../core/render/tracer'
import { renderTile } from '../../core/render/integrate'
import { TILE } from '../../core/render/film'
import { cameraFrame } from '../../core/scene/camera'
import { MAX_FIELDS } from '../../core/point/slots'
import type { Material, RenderScene } from '../../core/world/render-scene'
import { instantiateMaterials } from '../../core/world/world'
import { loadScene } from '../load-scene'
import type { Benchmark } from '../command'
import type { Options } from '../options'
import { median } from './median'

const WIDTH = 824
const HEIGHT = 488
const ACCEPT = 1 / 1.15
/** Passes until the table knows nearly all that is asked. */
const WARMING = 8
/** Demo scenes whose materials ask for curvature. */
const SCENES = ['skerry-lantern', 'cormorant-hatch']

/** Renders a pass in this thread. @returns seconds */
function pass(scene: RenderScene, number: number): number {
  const tracer = createTracer()
  const out = new Float64Array(TILE * TILE * 3)
  const since = performance.now()
  for (let y = 0; y < HEIGHT; y += TILE)
    for (let x = 0; x < WIDTH; x += TILE) {
      const w = Math.min(TILE, WIDTH - x)
      const h = Math.min(TILE, HEIGHT - y)
      renderTile(tracer, scene, x, y, w, h, WIDTH, HEIGHT, number, 0, out, null)
    }
  return (performance.now() - since) / 1000
}

/** A material that asks for its fields once more and looks at none of those. */
function askedTwice(m: Material): Material {
  const n = m.fields.length
  const { shader } = m
  return {
    ...m,
    fields: [...m.fields, ...m.fields].slice(0, MAX_FIELDS),
    shader: {
      ...shader,
      requests(S, C, I, R) {
        shader.requests(S, C, I, R)
        R.copyWithin(n, 0, n)
      },
    },
  }
}

async function measure(file: string, options: Options, rounds: number): Promise<unknown> {
  const { world, camera } = await loadScene(file, options, true)
  const { geometry, lights, materialOf, priorityOf, maxOpaque, maxSpecular } = world
  const view = cameraFrame(camera(WIDTH, HEIGHT), WIDTH, HEIGHT)
  const fields = world.fields ?? null
  const materials = instantiateMaterials(world)
  const whole = {
    geometry,
    lights,
    materialOf,
    priorityOf,
    maxOpaque,
    maxSpecular,
    camera: view,
    fields,
    materials,
  }
  const twice = { ...whole, materials: materials.map(askedTwice) }
  // the code is compiled before anything is measured
  const unasked = { ...whole, materials: materials.map(m => ({ ...m, fields: [] })) }
  pass(unasked, 0)
  pass(unasked, 1)
  const cold = Array.from({ length: WARMING }, (_, k) => pass(whole, k))
  const corners = fields?.kept[0] ?? 0
  const times = { whole: [] as number[], twice: [] as number[] }
  for (let r = 0; r < rounds; r++) {
    times.whole.push(pass(whole, WARMING + r))
    times.twice.push(pass(twice, WARMING + r))
  }
  const warm = median(times.whole)
  const fieldsAlone = median(times.twice) - warm
  return {
    corners,
    mebibytes: Math.round((corners * 48) / 2 ** 20),
    secondsToWarm: +cold.reduce((sum, s) => sum + Math.max(0, s - warm), 0).toFixed(1),
    ratio: +((warm - fieldsAlone) / warm).toFixed(3),
    accept: { ratio: +ACCEPT.toFixed(3) },
  }
}

/**
 * `benchmark fields`: paths a second of the demo scenes that ask for curvature, once what they ask for is known, over
 * what they would be if asking cost nothing: by passes that ask for everything twice, in turns in one thread (a scene
 * that does not ask is not worn either, and so is another one). And the processor's time until it is known.
 */
async function benchmarkFields(options: Options): Promise<unknown> {
  const folder = mkdtempSync(join(tmpdir(), 'wavelume-fields-'))
  try {
    execFileSync('node', ['scripts/bundle.mjs', 'demo/export.ts', folder], { stdio: ['ignore', 2, 2] })
    const result: Record<string, unknown> = {}
    for (const name of SCENES)
      result[name] = await measure(join(folder, `${name}.scene.json`), options, options.number('rounds', 9, 1, 99))
    return result
  } finally {
    rmSync(folder, { recursive: true })
  }
}

export const benchmark: Benchmark = { options: '[--rounds N]', run: benchmarkFields }
