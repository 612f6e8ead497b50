import { Worker } from 'node:worker_threads'
import { createFilm, tileCount, tilePasses, type Film } from '../core/render/film'
import { LEAST } from '../core/render/settle'
import { cameraFrame, type Camera } from '../core/scene/camera'
import type { World } from '../core/world/world'
import { CONTROL, DONE_FULL, DONE_ROW, EPOCHS, type FromWorker, type ToWorker } from '../workers/protocol'

export interface RenderOptions {
  width: number
  height: number
  /** Passes [from, to). */
  from: number
  to: number
  seed: number
  threads: number
  aov: readonly string[]
  /** Keeps sums of squares too. */
  squares?: boolean
  /** Noise at which a tile has enough; all passes for every tile when left out. */
  noise?: number
  progress?: (done: number) => void
  /** Numbers of the tiles that are computed; all when left out. */
  tiles?: readonly number[]
  /** Puts sums of earlier passes onto the film, with {@link SUMS} as their epoch; tiles may have different ones. */
  resume?(film: Film): Promise<void>
  /**
   * Called between two passes, while no thread touches the film, first after one pass.
   * @returns seconds after which it is called again, about; nothing ends the rendering there
   */
  between?(film: Film, passes: number): Promise<number | undefined>
}
export interface RenderResult {
  film: Film
  seconds: number
  paths: number
  rays: number
  lost: number
  /** Paths that the most bounces ended. */
  cut: number
  /** Passes that the film holds. */ passes: number
}

const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)
/** Epoch of a film's sums; runs of passes have the epochs from there on. */
export const SUMS = 1

/** Renders passes [from, to) on worker threads, each the same loop as in the browser. */
export async function renderOnThreads(world: World, camera: Camera, o: RenderOptions): Promise<RenderResult> {
  const film = createFilm(o.width, o.height, {
    aov: o.aov,
    lights: world.lights.layerCount,
    squares: o.squares || o.noise !== undefined,
    allocate: shared,
  })
  const control = new Int32Array(shared(CONTROL.size * 4))
  const result: RenderResult = { film, seconds: 0, paths: 0, rays: 0, lost: 0, cut: 0, passes: 0 }
  const tiles = tileCount(o.width, o.height)
  await o.resume?.(film)
  /** Passes that each tile has. */
  const passesOf = Int32Array.from({ length: tiles }, (_, t) => tilePasses(film, t, SUMS))
  if (o.tiles) {
    const wanted = new Set(o.tiles)
    for (let t = 0; t < tiles; t++) if (!wanted.has(t)) passesOf[t] = o.to - o.from
  }
  result.passes = Math.min(...new Set(passesOf))
  const workers = Array.from(
    { length: o.threads },
    () => new Worker(new URL('./render-worker.mjs', import.meta.url)),
  )
  try {
    const failed = new Promise<never>((_, reject) => {
      for (const w of workers) {
        w.on('error', reject)
        w.on('message', (m: FromWorker) => {
          if (m.kind === 'failed') reject(new Error(m.message))
          if (m.kind === 'counts') {
            result.paths += m.paths
            result.rays += m.rays
            result.lost += m.lost
            result.cut += m.cut
          }
        })
      }
    })
    failed.catch(() => {})
    await Promise.race([Promise.all(workers.map(w => new Promise(r => w.once('message', r)))), failed])
    const start = performance.now()
    const send = (m: ToWorker) => {
      for (const w of workers) w.postMessage(m)
    }
    workers.forEach((w, hand) => w.postMessage({ kind: 'control', control, hand } satisfies ToWorker))
    send({ kind: 'film', film })
    send({ kind: 'world', world })
    let epoch = SUMS
    /** Renders passes of the tiles that have the fewest, as one run: `most`, or up to what others have. */
    const run = async (most: number): Promise<number> => {
      const had = result.passes
      const others = new Set([...passesOf].filter(p => p > had))
      const upTo = Math.min(had + most, o.to - o.from, ...others)
      const from = o.from + had
      const to = o.from + upTo
      const behind = others.size ? Int32Array.from(passesOf.keys()).filter(t => passesOf[t] === had) : null
      const row = epoch % EPOCHS
      const at = CONTROL.done + row * DONE_ROW + DONE_FULL
      const each = behind?.length ?? tiles
      const total = each * (to - from)
      Atomics.store(control, CONTROL.tickets + row, 0)
      Atomics.store(control, at, 0)
      Atomics.store(control, CONTROL.epoch, epoch)
      send({
        kind: 'job',
        job: {
          epoch,
          camera: cameraFrame(camera, o.width, o.height),
          constants: null,
          lights: null,
          seed: o.seed,
          moves: false,
          skip: film.levels.length,
          order: null,
          first: 0,
          only: null,
          tiles: behind,
          start: o.from,
          from,
          to,
          sums: SUMS,
          settle: o.noise === undefined ? null : { noise: o.noise, least: LEAST },
        },
      })
      for (let done = 0; done < total;) {
        await new Promise(r => setTimeout(r, 5))
        done = Atomics.load(control, at)
        o.progress?.((had + done / each) / (o.to - o.from))
      }
      epoch++
      for (const t of behind ?? passesOf.keys()) passesOf[t] = upTo
      result.passes = upTo
      return upTo - had
    }
    await Promise.race([
      failed,
      (async () => {
        let length = o.between ? 1 : o.to - o.from
        while (o.from + result.passes < o.to) {
          const began = performance.now()
          const passes = await run(length)
          if (!o.between) continue
          const each = Math.max(1, (performance.now() - began) / passes)
          const again = await o.between(film, result.passes)
          if (again === undefined) break
          length = Math.max(1, Math.round((again * 1000) / each))
        }
      })(),
    ])
    result.seconds = (performance.now() - start) / 1000
    await new Promise(r => setTimeout(r, 20)) // last counters
    return result
  } finally {
    await Promise.all(workers.map(w => w.terminate()))
  }
}
