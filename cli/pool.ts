import { Worker } from 'node:worker_threads'
import { lightCount } from '../core/light/lights'
import { createFilm, tileCount, type Film } from '../core/render/film'
import { LEAST } from '../core/render/settle'
import { cameraFrame, type Camera } from '../core/scene/camera'
import type { World } from '../core/scene/world'
import { CONTROL, DONE_FULL, DONE_ROW, type FromWorker, type ToWorker } from '../workers/protocol'

export interface RenderOptions { width: number, height: number, from: number, to: number, seed: number, threads: number, aov: readonly string[], /** Keeps sums of squares too. */ squares?: boolean, /** Noise at which a tile has enough; all passes for every tile when left out. */ noise?: number, progress?: (done: number) => void }
export interface RenderResult { film: Film, seconds: number, paths: number, rays: number, lost: number }

const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)

/** Renders passes [from, to) on worker threads, each the same loop as in the browser. */
export async function renderOnThreads(world: World, camera: Camera, o: RenderOptions): Promise<RenderResult> {
  const film = createFilm(o.width, o.height, { aov: o.aov, lights: lightCount(world.lights), squares: o.squares || o.noise !== undefined, allocate: shared }), control = new Int32Array(shared(CONTROL.size * 4))
  Atomics.store(control, CONTROL.epoch, 1)
  const total = tileCount(o.width, o.height) * (o.to - o.from), result = { film, seconds: 0, paths: 0, rays: 0, lost: 0 }
  const workers = Array.from({ length: o.threads }, () => new Worker(new URL('./render-worker.mjs', import.meta.url)))
  try {
    const failed = new Promise<never>((_, reject) => {
      for (const w of workers) {
        w.on('error', reject)
        w.on('message', (m: FromWorker) => {
          if (m.kind === 'failed') reject(new Error(m.message))
          if (m.kind === 'counts') { result.paths += m.paths; result.rays += m.rays; result.lost += m.lost }
        })
      }
    })
    failed.catch(() => {})
    await Promise.race([Promise.all(workers.map(w => new Promise(r => w.once('message', r)))), failed])
    const start = performance.now()
    for (const w of workers) {
      const send = (m: ToWorker) => w.postMessage(m)
      send({ kind: 'control', control })
      send({ kind: 'film', film })
      send({ kind: 'world', world })
      send({ kind: 'job', job: { epoch: 1, camera: cameraFrame(camera, o.width, o.height), constants: null, lights: null, seed: o.seed, skip: 0, order: null, tiles: null, from: o.from, to: o.to, settle: o.noise === undefined ? null : { noise: o.noise, least: LEAST } } })
    }
    const at = CONTROL.done + DONE_ROW + DONE_FULL
    await Promise.race([failed, (async () => {
      for (let done = 0; done < total;) { await new Promise(r => setTimeout(r, 5)); done = Atomics.load(control, at); o.progress?.(done / total) }
    })()])
    result.seconds = (performance.now() - start) / 1000
    await new Promise(r => setTimeout(r, 20)) // last counters
    return result
  }
  finally { await Promise.all(workers.map(w => w.terminate())) }
}
