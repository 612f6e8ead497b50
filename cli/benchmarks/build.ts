import { buildByKernel } from '../../core/trace/build-kernel'
import type { BuildShare } from '../../core/trace/build-share'
import { cpuSeconds } from './rays'
import { benchmarkModel } from './scene'
import { withThreads } from '../helpers'
import type { Benchmark } from '../command'
import { median } from './median'

/** A hierarchy that was built: seconds by the clock and of processor time, and its bytes. */
interface Built {
  seconds: number
  cpu: number
  bytes: Buffer
}
const none = Buffer.alloc(0)

/**
 * `benchmark build`: seconds, by the clock and of processor time, that a hierarchy takes alone and with the help
 * of other threads, in turns; medians. Whether they are the same to the bit is said as well.
 */
function benchmarkBuild(triangles: number, threads: number, rounds: number): Promise<unknown> {
  const { position, index } = benchmarkModel(Math.round(Math.sqrt(triangles / 2 / 1.25))).parts[0]!
  const alone: Built[] = []
  const helped: Built[] = []
  const one = (call?: (share: BuildShare) => void): Built => {
    const began = performance.now()
    const cpu = cpuSeconds()
    const h = buildByKernel(position, index, n => new ArrayBuffer(n), call)!
    return {
      seconds: (performance.now() - began) / 1000,
      cpu: cpuSeconds() - cpu,
      bytes: Buffer.concat([h.nodes, h.order].map(a => Buffer.from(a.buffer, a.byteOffset, a.byteLength))),
    }
  }
  return withThreads(threads - 1, async call => {
    let same = true
    for (let i = 0; i < rounds; i++) {
      const a = one()
      const b = one(call)
      same &&= a.bytes.equals(b.bytes)
      alone.push({ ...a, bytes: none })
      helped.push({ ...b, bytes: none })
      await new Promise(r => setTimeout(r, 50))
    }
    const middle = (of: number[]) => +median(of).toFixed(3)
    const of = (all: Built[]) => ({ seconds: middle(all.map(x => x.seconds)), cpu: middle(all.map(x => x.cpu)) })
    return {
      triangles: index.length / 3,
      threads,
      first: { seconds: +alone[0]!.seconds.toFixed(3), cpu: +alone[0]!.cpu.toFixed(3) },
      alone: of(alone),
      helped: of(helped),
      faster: middle(alone.map((x, i) => x.seconds / helped[i]!.seconds)),
      same,
    }
  })
}

export const benchmark: Benchmark = {
  options: '[--triangles N] [--threads N] [--rounds N]',
  run: o =>
    benchmarkBuild(
      o.number('triangles', 2e6, 1e5, 2e7),
      o.number('threads', 2, 1, 16),
      o.number('rounds', 5, 1, 99),
    ),
}
