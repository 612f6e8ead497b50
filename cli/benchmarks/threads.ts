import { Worker } from 'node:worker_threads'
import { cpuSeconds } from './rays'
import { benchmarkWorld, VIEW } from './scene'
import { renderOnThreads } from '../pool'
import type { Benchmark } from '../command'
import { median } from './median'

const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)
const WIDTH = 480
const HEIGHT = 300
const PASSES = 16
const ROUNDS = 3
/** Share of the passes in which workers still compile. */
const COLD = 0.4

/** Work done a second of the clock, and a second of processor time granted. */
interface Rate {
  wall: number
  cpu: number
}

/** Camera paths of the benchmark scene, once the workers' code is compiled. */
async function paths(world: ReturnType<typeof benchmarkWorld>, threads: number): Promise<Rate> {
  let since = 0
  let cpu = 0
  let cold = 0
  const r = await renderOnThreads(world, VIEW, {
    width: WIDTH,
    height: HEIGHT,
    seed: 0,
    threads,
    aov: [],
    from: 0,
    to: PASSES * threads,
    progress: done => {
      if (!since && done >= COLD) {
        since = performance.now()
        cpu = cpuSeconds()
        cold = done
      }
    },
  })
  const warm = r.paths * (1 - cold)
  return { wall: warm / ((performance.now() - since) / 1000), cpu: warm / (cpuSeconds() - cpu) }
}

/**
 * What any program gets of a second processor here: threads that share nothing and stay in registers and the first
 * cache.
 */
async function arithmetic(threads: number): Promise<Rate> {
  const code =
    `const { parentPort } = require('node:worker_threads'); let x = 1.5, s = 0; for (let i = 0; i ` +
    `< 2e8; i++) { x = x * 1.0000001 + 1e-9; s += Math.sqrt(x) * (i & 7) } parentPort.postMessage(s)`
  const start = performance.now()
  const cpu = cpuSeconds()
  await Promise.all(
    Array.from(
      { length: threads },
      () =>
        new Promise<void>((resolve, reject) => {
          new Worker(code, { eval: true }).once('message', () => resolve()).once('error', reject)
        }),
    ),
  )
  return { wall: threads / (performance.now() - start), cpu: threads / (cpuSeconds() - cpu) }
}

/**
 * `benchmark threads`: samples of two threads over those of one, by the clock and on the processor time granted,
 * and beside it what two threads that share nothing get over one: two virtual processors may be halves of one
 * core, and then no program gets twice of anything. In turns, medians of three rounds.
 */
async function benchmarkThreads(): Promise<unknown> {
  const world = benchmarkWorld(undefined, shared)
  const of = { paths: (n: number) => paths(world, n), arithmetic }
  const rows: Record<string, number[]> = {}
  for (let round = 0; round < ROUNDS; round++) {
    for (const [name, rate] of Object.entries(of)) {
      const one = await rate(1)
      const two = await rate(2)
      ;(rows[`${name} by the clock`] ??= []).push(two.wall / one.wall)
      ;(rows[`${name} by processor time`] ??= []).push((2 * two.cpu) / one.cpu)
    }
  }
  return {
    twoThreadsOverOne: Object.fromEntries(Object.entries(rows).map(([k, v]) => [k, +median(v).toFixed(3)])),
    accept: { twoThreadsOverOne: 1.8 },
  }
}

export const benchmark: Benchmark = {
  options: '',
  run: () => benchmarkThreads(),
}
