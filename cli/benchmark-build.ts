import { Worker } from 'node:worker_threads'
import { buildByKernel } from '../core/trace/build-kernel'
import type { BuildShare } from '../core/trace/build-share'
import type { ToWorker } from '../workers/protocol'
import { cpuSeconds } from './benchmark-rays'
import { benchmarkModel } from './benchmark-scene'

/**
 * `benchmark build`: seconds, by the clock and of processor time, that a hierarchy takes alone and with the help of other threads, in turns; medians.
 * Whether they are the same to the bit is said as well.
 */
export async function benchmarkBuild(triangles: number, threads: number, rounds: number): Promise<unknown> {
  const { position, index } = benchmarkModel(Math.round(Math.sqrt(triangles / 2 / 1.25))).parts[0]!, workers = Array.from({ length: threads - 1 }, () => new Worker(new URL('./render-worker.mjs', import.meta.url)))
  await Promise.all(workers.map(w => new Promise(r => w.once('message', r))))
  const call = (share: BuildShare) => { for (const w of workers) w.postMessage({ kind: 'build', share } satisfies ToWorker) }
  const one = (help?: typeof call) => {
    const began = performance.now(), cpu = cpuSeconds(), h = buildByKernel(position, index, n => new ArrayBuffer(n), help)
    return { seconds: (performance.now() - began) / 1000, cpu: cpuSeconds() - cpu, h }
  }
  const alone: { seconds: number, cpu: number }[] = [], helped: typeof alone = []
  let same = true
  for (let i = 0; i < rounds; i++) {
    const a = one(), b = one(call)
    same &&= Buffer.compare(Buffer.from(a.h!.nodes.slice().buffer), Buffer.from(b.h!.nodes.slice().buffer)) === 0 && Buffer.compare(Buffer.from(a.h!.order.slice().buffer), Buffer.from(b.h!.order.slice().buffer)) === 0
    alone.push(a); helped.push(b)
    await new Promise(r => setTimeout(r, 50))
  }
  await Promise.all(workers.map(w => w.terminate()))
  const median = (of: number[]) => +of.sort((x, y) => x - y)[of.length >> 1]!.toFixed(3)
  return { triangles: index.length / 3, threads, first: { seconds: +alone[0]!.seconds.toFixed(3), cpu: +alone[0]!.cpu.toFixed(3) }, alone: { seconds: median(alone.map(x => x.seconds)), cpu: median(alone.map(x => x.cpu)) }, helped: { seconds: median(helped.map(x => x.seconds)), cpu: median(helped.map(x => x.cpu)) }, faster: median(alone.map((x, i) => x.seconds / helped[i]!.seconds)), same }
}
