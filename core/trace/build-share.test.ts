import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { bundleForNode } from '../../scripts/bundle.mjs'
import { sphere } from '../mesh/sphere'
import { buildByKernel } from './build-kernel'
import { joinBuild, type BuildShare } from './build-share'

const ball = sphere('s', 0.7, 240, 300)
const plain = (bytes: number) => new ArrayBuffer(bytes)
const never = () => false
const folder = mkdtempSync(join(tmpdir(), 'wavelume-build-'))
let workers: Worker[] = []

describe('a hierarchy that several threads build', () => {
  const alone = buildByKernel(ball.position, ball.index, plain)!
  const same = (h: typeof alone) => {
    for (const of of ['nodes', 'links', 'packets', 'order', 'bounds'] as const)
      expect(Buffer.compare(Buffer.from(h[of].slice().buffer), Buffer.from(alone[of].slice().buffer)), of).toBe(0)
  }
  beforeAll(async () => {
    await bundleForNode({ worker: 'workers/node.ts' }, folder)
    workers = Array.from({ length: 3 }, () => new Worker(join(folder, 'worker.mjs')))
    await Promise.all(workers.map(w => new Promise(r => w.once('message', r))))
  }, 60_000)
  afterAll(async () => {
    await Promise.all(workers.map(w => w.terminate()))
    rmSync(folder, { recursive: true })
  })
  it('is the same to the bit as that of one', () => {
    for (let round = 0; round < 6; round++) {
      const shares: BuildShare[] = []
      same(
        buildByKernel(ball.position, ball.index, plain, share => {
          shares.push(share)
          for (const w of workers) w.postMessage({ kind: 'build', share })
        })!,
      )
      // hands: the one that wants it, and who came
      expect(new Int32Array(shares[0]!.memory.buffer, shares[0]!.control, 1)[0]).toBeLessThanOrEqual(4)
    }
  })
  it('stands where a helper stops early, comes late or not at all', () => {
    let share: BuildShare | undefined
    same(
      buildByKernel(ball.position, ball.index, plain, s => {
        share = s
        let asked = 0
        expect(joinBuild(s)(() => ++asked > 2)).toBe(true)
      })!,
    )
    expect(joinBuild(share!)(never)).toBe(false)
    same(buildByKernel(ball.position, ball.index, plain, () => {})!)
  })
  it('is worked on by no more hands than there is room for', () => {
    same(
      buildByKernel(ball.position, ball.index, plain, s => {
        for (let i = 0; i < 16; i++) joinBuild(s)
      })!,
    )
    // every place taken: the plain builder stands in
    expect(
      buildByKernel(ball.position, ball.index, plain, s => {
        for (let i = 0; i < 17; i++) joinBuild(s)
      }),
    ).toBeUndefined()
  })
  it('asks nobody for a small one', () => {
    const small = sphere('s', 1, 12, 20)
    let asked = false
    buildByKernel(small.position, small.index, plain, () => {
      asked = true
    })
    expect(asked).toBe(false)
  })
})
