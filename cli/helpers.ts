import { availableParallelism } from 'node:os'
import { Worker } from 'node:worker_threads'
import type { Model } from '../core/mesh/model'
import type { BuildShare } from '../core/trace/build-share'
import type { ToWorker } from '../workers/protocol'

/** Triangles from which on it pays to start threads for a hierarchy. */
const WORTH = 300_000

/** Runs work that builds the hierarchy of a model, with a thread for each processor to help where it is large. */
export async function withHelpers<T>(model: Model, work: (call?: (share: BuildShare) => void) => T): Promise<T> {
  return model.parts.reduce((n, p) => n + p.index.length / 3, 0) < WORTH
    ? work()
    : withThreads(availableParallelism() - 1, work)
}

/** Runs work with so many threads beside this one to help it build hierarchies. */
export async function withThreads<T>(
  count: number,
  work: (call: (share: BuildShare) => void) => T | Promise<T>,
): Promise<T> {
  const workers = Array.from({ length: count }, () => new Worker(new URL('./render-worker.mjs', import.meta.url)))
  try {
    await Promise.all(
      workers.map(
        w =>
          new Promise((resolve, reject) => {
            w.once('message', resolve)
            w.once('error', reject)
          }),
      ),
    )
    return await work(share => {
      for (const w of workers) w.postMessage({ kind: 'build', share } satisfies ToWorker)
    })
  } finally {
    await Promise.all(workers.map(w => w.terminate()))
  }
}
