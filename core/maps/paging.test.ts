import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { bundleForNode } from '../../scripts/bundle.mjs'
import { memory } from '../expression/memory'
import { createMapEditor } from './edit'
import { lookUp } from './look-up'
import { createMap } from './create-map'
import { bytesOf, slotBytesOf, type MapSource } from './map'
import { tilesReadOf, type TileStore } from './paging'
import { planFor } from './plan'
import { openMap, type Texture } from './texture'

const WIDTH = 900
const HEIGHT = 700
const bytes: MapSource = {
  width: WIDTH,
  height: HEIGHT,
  data: Uint8Array.from({ length: WIDTH * HEIGHT * 4 }, (_, i) => (i * 2654435761) >>> 24),
}
const floats: MapSource = {
  width: WIDTH,
  height: HEIGHT,
  data: Float32Array.from({ length: WIDTH * HEIGHT * 4 }, (_, i) => ((i * 2654435761) >>> 8) / 2 ** 20),
}

/** A file in memory. */
function store(): TileStore & { bytes: Uint8Array; reads: number; read(at: number, into: Uint8Array): void } {
  return {
    file: 'f',
    bytes: new Uint8Array(0),
    reads: 0,
    append(more) {
      const at = this.bytes.length
      const longer = new Uint8Array(at + more.length)
      longer.set(this.bytes)
      longer.set(more, at)
      this.bytes = longer
      return at
    },
    read(at, into) {
      this.reads++
      into.set(this.bytes.subarray(at, at + into.length))
    },
  }
}

/** What a map gives at many places, near and from afar, interpolated and not. */
function values(t: Texture): number[] {
  const out: number[] = []
  for (const half of [0, 0.0015, 0.01])
    for (let i = 0; i < 300; i++) {
      const u = (i * 0.137) % 1
      const v = (i * 0.311) % 1
      lookUp(t, u, v, 2, 2, i % 5 === 0 ? 1 : 0, 0, 0, 0, 0, half, 0, 0, half / 2)
      out.push(...memory.result)
    }
  return out
}

describe('a map whose tiles are in a file', () => {
  const sources: [string, MapSource, string][] = [
    ['bytes', bytes, 'srgb_texture'],
    ['halves', { ...floats, depth: 'half' }, 'raw'],
    ['16 bits', { ...floats, data: (floats.data as Float32Array).map(x => x / 16), depth: 'sixteen' }, 'raw'],
    ['floats', floats, 'acescg'],
  ]
  it.each(sources)(
    'gives the same to the bit as one in memory, whatever is there at the moment: %s',
    (_, p, space) => {
      const whole = createMap(p, space)
      const f = store()
      f.append(new Uint8Array(100))
      const paged = createMap(p, space, {
        pages: { store: f, bytes: 6 * slotBytesOf(whole.fine, whole.channels) },
      })
      expect(paged.fineTiles.byteLength).toBe(6 * slotBytesOf(whole.fine, whole.channels))
      expect(bytesOf(paged)).toBeLessThan(bytesOf(whole) / 2)
      const t = openMap(paged, () => f)
      expect(values(t)).toEqual(values(openMap(whole)))
      expect(f.reads).toBeGreaterThan(50)
    },
  )

  it('keeps what is used: tiles that fit are read once, and the one that is always used stays', () => {
    const f = store()
    const slots = 40
    const paged = createMap(bytes, 'raw', { pages: { store: f, bytes: slots * slotBytesOf(0, 4) } })
    const t = openMap(paged, () => f)
    const look = (x: number, y: number) =>
      lookUp(t, (x + 0.5) / WIDTH, 1 - (y + 0.5) / HEIGHT, 1, 1, 1, 0, 0, 0, 0, 0, 0, 0, 0)
    for (let round = 0; round < 3; round++) for (let k = 0; k < 30; k++) look((k % 6) * 64, Math.floor(k / 6) * 64)
    expect(f.reads).toBe(30)
    // all others in turn, several times, the first tile between each: it hardly ever leaves, once in forty if tiles
    // left by age
    let again = 0
    for (let k = 1; k < 450; k++) {
      look(Math.floor(k % 14) * 64, (Math.floor(k / 14) % 10) * 64)
      const before = f.reads
      look(0, 0)
      again += f.reads - before
    }
    expect(f.reads).toBeGreaterThan(400)
    expect(again).toBeLessThan(4)
  })

  it('begins with its coarser levels where the file cannot be read', () => {
    const paged = createMap(bytes, 'raw', { pages: { store: store(), bytes: 6 * slotBytesOf(0, 4) } })
    const t = openMap(paged)
    expect([t.width, t.height]).toEqual([WIDTH >> 2, HEIGHT >> 2])
    const whole = openMap(createMap(bytes, 'raw'))
    const coarse = [4 / WIDTH, 0, 0, 4 / HEIGHT] as const
    // where a look asks for the third level, both have it
    for (let i = 0; i < 20; i++) {
      lookUp(t, i * 0.047, i * 0.031, 2, 2, 0, 0, 0, 0, 0, ...coarse)
      const seen = [...memory.result]
      lookUp(whole, i * 0.047, i * 0.031, 2, 2, 0, 0, 0, 0, 0, ...coarse)
      memory.result.forEach((x, k) => expect(seen[k]).toBeCloseTo(x, 6))
    }
  })

  it('says what failed, and reads again at the next look', () => {
    const f = store()
    const paged = createMap(bytes, 'raw', { pages: { store: f, bytes: 6 * slotBytesOf(0, 4) } })
    let broken = true
    const t = openMap(paged, () => ({
      read(at, into) {
        if (broken) throw new Error('the file of tiles is gone')
        f.read(at, into)
      },
    }))
    expect(() => values(t)).toThrow('the file of tiles is gone')
    broken = false
    expect(values(t)).toEqual(values(openMap(createMap(bytes, 'raw'))))
  })

  it('is not edited', () => {
    const paged = createMap(bytes, 'raw', { pages: { store: store(), bytes: 6 * slotBytesOf(0, 4) } })
    expect(() => createMapEditor(paged)).toThrow(/make it whole/)
  })
})

describe('threads that share few slots', () => {
  const folder = mkdtempSync(join(tmpdir(), 'wavelume-paging-'))
  const shared = (n: number) => new SharedArrayBuffer(n)
  beforeAll(() => bundleForNode({ worker: 'tests/look-ups-worker.ts' }, folder), 60_000)
  afterAll(() => rmSync(folder, { recursive: true }))

  it('all see the right numbers, though they take each other’s tiles', async () => {
    const f = store()
    const whole = createMap(bytes, 'srgb_texture', { allocate: shared })
    const pages = { store: f, bytes: 5 * slotBytesOf(whole.fine, whole.channels) }
    const paged = createMap(bytes, 'srgb_texture', { allocate: shared, pages })
    const file = new SharedArrayBuffer(f.bytes.length)
    new Uint8Array(file).set(f.bytes)
    const answers = await Promise.all(
      [0, 1, 2].map(
        k =>
          new Promise((resolve, reject) => {
            const workerData = { whole, paged, file, first: k * 1_000_003, count: 20_000 }
            const w = new Worker(join(folder, 'worker.mjs'), { workerData })
            w.on('message', resolve)
            w.on('error', reject)
          }),
      ),
    )
    expect(answers).toEqual([0, 0, 0])
    expect(tilesReadOf(paged.paging!)).toBeGreaterThan(10_000)
  }, 60_000)
})

describe('a plan', () => {
  const large: MapSource = { width: 8192, height: 8192, data: new Uint8Array(0) }
  const small: MapSource = { width: 1024, height: 1024, data: new Uint8Array(0) }
  const mega = 2 ** 20
  it('keeps a map whole, in a file with half of the room, or without its finest levels', () => {
    expect(planFor(large, 512 * mega, true)).toEqual({ skip: 0 })
    expect(planFor(large, 300 * mega, true)).toEqual({ skip: 0, pageBytes: 150 * mega })
    expect(planFor(large, 300 * mega, false)).toEqual({ skip: 1 })
    // what is always there of so many bytes is too much here
    expect(planFor(large, 40 * mega, true)).toEqual({ skip: 1, pageBytes: 20 * mega })
    expect(planFor(large, -1, true)).toEqual({ skip: 1, pageBytes: 16 * mega })
  })
  it('leaves small ones an eighth, and all of their levels', () => {
    const { skip, pageBytes } = planFor(small, -1, true)
    expect(skip).toBe(0)
    expect(pageBytes).toBeCloseTo((4 * mega * (1 + 1 / 4 + 1 / 6)) / 8, 0)
  })
})
