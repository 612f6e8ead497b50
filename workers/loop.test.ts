import { Worker } from 'node:worker_threads'
import { describe, expect, it } from 'vitest'
import { createLights } from '../core/light/create-lights'
import { createMapEditor } from '../core/maps/edit'
import { createMap } from '../core/maps/create-map'
import { sphere } from '../core/mesh/sphere'
import { compileNetwork } from '../core/network/compile'
import { createFilm, TILE, tileCount, tilePasses } from '../core/render/film'
import { cameraFrame } from '../core/scene/camera'
import { createGeometry } from '../core/scene/geometry'
import { instantiateMaterials, type World } from '../core/world/world'
import { mtlx, pbr, sumOfPasses, uniform } from '../core/testing/setup'
import { createRenderLoop } from './loop'
import { CONTROL, DONE_FIRST, DONE_FULL, DONE_ROW, EPOCHS, type FromWorker, type Job } from './protocol'

const WIDTH = 64
const HEIGHT = 32
const COARSE = { width: 32, height: 16 }
const geometry = createGeometry({
  parts: [sphere('left', 0.8, 24, 48, [-1, 0, 0]), sphere('right', 0.8, 24, 48, [1, 0, 0])],
})
const material = (grey: number) =>
  compileNetwork(mtlx(pbr({ base_color: `${grey}, ${grey}, ${grey}`, specular_weight: 0 })), 's')
const world: World = {
  geometry,
  lights: createLights(uniform(1), null),
  programs: [material(0.2), material(0.6)],
  maps: [[], []],
  materialOf: Int32Array.of(0, 1),
  priorityOf: new Int32Array(2),
  maxOpaque: 4,
  maxSpecular: 8,
}
const camera = cameraFrame({ name: 'c', position: [0, 0, 8], target: [0, 0, 0], fov: 15 }, WIDTH, HEIGHT)

/** A loop with a film of one coarse picture, and what a page does with it. */
function bench() {
  const shared = (bytes: number) => new SharedArrayBuffer(bytes)
  const control = new Int32Array(shared(CONTROL.size * 4))
  const said: FromWorker[] = []
  const film = createFilm(WIDTH, HEIGHT, { levels: [COARSE], allocate: shared })
  const level = film.levels[0]!
  const post = createRenderLoop(m => said.push(m))
  post({ kind: 'control', control, hand: 0 })
  post({ kind: 'film', film })
  post({ kind: 'world', world })
  const count = (epoch: number, counter: number) => control[CONTROL.done + (epoch % EPOCHS) * DONE_ROW + counter]!
  return {
    control,
    film,
    level,
    said,
    count,
    begin(job: Partial<Job> & { epoch: number }): void {
      control[CONTROL.epoch] = job.epoch
      post({
        kind: 'job',
        job: {
          camera,
          constants: null,
          lights: null,
          seed: 0,
          moves: false,
          skip: 0,
          order: null,
          first: 0,
          only: null,
          tiles: null,
          start: 0,
          from: 0,
          to: 0,
          sums: job.epoch,
          settle: null,
          ...job,
        },
      })
    },
    post,
    go: () => post({ kind: 'go' }),
    async until(met: () => boolean): Promise<void> {
      for (let i = 0; i < 2000 && !met(); i++) await new Promise(r => setTimeout(r, 2))
      expect(met()).toBe(true)
    },
    rest: () => new Promise(r => setTimeout(r, 60)),
  }
}
const tiles = tileCount(COARSE.width, COARSE.height)

/** Another thread that outdates every epoch as soon as a tile of the one at hand is taken, as a pause does. */
async function pausing(control: Int32Array, epoch: number): Promise<Worker> {
  const code = `const { workerData: { control, tickets, epoch, at }, parentPort } = require('node:worker_threads')
    parentPort.postMessage('ready')
    while (Atomics.load(control, tickets) === 0);
    Atomics.store(control, at, epoch + 1)`
  const tickets = CONTROL.tickets + (epoch % EPOCHS)
  const w = new Worker(code, { eval: true, workerData: { control, tickets, epoch, at: CONTROL.epoch } })
  await new Promise(resolve => w.once('message', resolve))
  return w
}

describe('the loop of a render worker', () => {
  it('adds passes as they are without it, bit for bit', async () => {
    const b = bench()
    b.begin({ epoch: 3, skip: 1, to: 3 })
    await b.until(() => b.count(3, DONE_FULL) === 3 * tileCount(WIDTH, HEIGHT))
    const scene = { ...world, materials: instantiateMaterials(world), camera }
    expect(b.film.sum).toEqual(sumOfPasses(scene, WIDTH, HEIGHT, 0, 3))
    expect(tilePasses(b.film, 0, 3)).toBe(3)
    expect(b.said.filter(m => m.kind === 'failed')).toEqual([])
  })

  it('answers what it was asked before a pause: no picture of a card waits for the next job', async () => {
    const b = bench()
    const pause = await pausing(b.control, 1)
    b.begin({ epoch: 1, skip: 1, to: 10_000 })
    b.post({
      kind: 'swatch',
      request: { id: 7, program: material(0.4), maps: [], part: 0, camera, size: 8, from: 0, passes: 1 },
    })
    await b.until(() => b.control[CONTROL.epoch] === 2)
    await b.until(() => b.said.some(m => m.kind === 'swatch' && m.id === 7))
    expect(b.said.filter(m => m.kind === 'failed')).toEqual([])
    await pause.terminate()
  })

  it('rests before each tile of a pass while the page needs the machine', async () => {
    const b = bench()
    const REST = 20
    const begun = performance.now()
    b.control[CONTROL.rest] = REST
    b.begin({ epoch: 1, skip: 0, first: tiles, to: 1 })
    const full = tileCount(WIDTH, HEIGHT)
    await b.until(() => b.count(1, DONE_FULL) === full)
    expect(performance.now() - begun).toBeGreaterThanOrEqual(full * REST * 0.9)
  })

  it('tells who draws once when a coarse picture stands', async () => {
    const b = bench()
    const woken = Atomics.waitAsync(b.control, CONTROL.news, 0, 10_000)
    b.begin({ epoch: 1 })
    await expect(woken.value).resolves.toBe('ok')
    expect([b.count(1, 0), b.control[CONTROL.news]]).toEqual([tiles, 1])
    // white light on grey: what is seen of a ball in the open is its reflectance (closed form)
    const of = (part: number) => {
      let sum = 0
      let n = 0
      b.level.part.forEach((p, i) => {
        if (p === part) {
          sum += b.level.rgb[i * 3]!
          n++
        }
      })
      return sum / n
    }
    expect(of(0)).toBeCloseTo(0.2, 1)
    expect(of(1)).toBeCloseTo(0.6, 1)
  })

  it('in a drag computes the pixels of what changed alone, and the rest when it is let go', async () => {
    const b = bench()
    const changed = [material(0.9).constants, material(0.1).constants]
    b.begin({ epoch: 1 })
    await b.until(() => b.count(1, 0) === tiles)
    const before = b.level.rgb.slice()
    const news = b.control[CONTROL.news]!
    b.control[CONTROL.held] = 2
    b.control[CONTROL.wanted] = 1
    // the right half of the coarse picture is its second tile
    b.begin({ epoch: 2, constants: changed, order: Int32Array.of(1, 0), first: 1, only: Uint8Array.of(0, 1) })
    await b.until(() => b.count(2, DONE_FIRST) === 1)
    await b.rest()
    expect([b.count(2, 0), b.control[CONTROL.news]! - news]).toEqual([1, 1])
    const partly = b.level.rgb.slice()
    b.control[CONTROL.held] = 0
    b.begin({ epoch: 3, constants: changed })
    await b.until(() => b.count(3, 0) === tiles)
    const whole = b.level.rgb
    const wanted = Array.from(b.level.part, (p, i) => p === 1 && i % COARSE.width >= TILE)
    expect(partly).toEqual(before.map((x, i) => (wanted[Math.floor(i / 3)] ? whole[i]! : x)))
    expect([partly, whole].map(x => x.some((v, i) => v !== before[i]))).toEqual([true, true])
    expect(partly).not.toEqual(whole)
  })

  it('waits in a drag with what is not wanted yet, and goes on when told', async () => {
    const b = bench()
    b.control[CONTROL.held] = 1
    b.control[CONTROL.wanted] = tiles
    b.begin({ epoch: 1, to: 1 })
    await b.until(() => b.count(1, 0) === tiles)
    await b.rest()
    expect(b.count(1, DONE_FULL)).toBe(0)
    b.control[CONTROL.held] = 0
    b.go()
    await b.until(() => b.count(1, DONE_FULL) === tileCount(WIDTH, HEIGHT))
  })

  it('leaves a job whose epoch is over', async () => {
    const b = bench()
    b.begin({ epoch: 1, to: 4 })
    b.control[CONTROL.epoch] = 2
    await b.rest()
    expect([b.count(1, 0), b.film.sum.some(x => x !== 0)]).toEqual([0, false])
  })

  it('renders whole tiles again after one of some pixels has failed', async () => {
    const b = bench()
    b.begin({ epoch: 1 })
    await b.until(() => b.count(1, 0) === tiles)
    b.begin({
      epoch: 2,
      camera: undefined as unknown as Float64Array,
      order: Int32Array.of(1, 0),
      first: 1,
      only: Uint8Array.of(0, 1),
    })
    await b.until(() => b.said.some(m => m.kind === 'failed'))
    b.begin({ epoch: 3, skip: 1, to: 1 })
    await b.until(() => b.count(3, DONE_FULL) === tileCount(WIDTH, HEIGHT))
    expect(b.film.sum).toEqual(
      sumOfPasses({ ...world, materials: instantiateMaterials(world), camera }, WIDTH, HEIGHT, 0, 1),
    )
  })

  it('says what failed instead of falling silent', async () => {
    const b = bench()
    b.begin({ epoch: 1, camera: undefined as unknown as Float64Array })
    await b.until(() => b.said.some(m => m.kind === 'failed'))
  })
})

describe('what changes in a world', () => {
  const SIDE = 128
  const paint = (value: number) => new Float32Array(SIDE * SIDE * 4).fill(value)
  const worn = compileNetwork(
    mtlx(`<image name="i" type="color3"><input name="file" type="filename" value="p.exr"/></image>
      <surface_unlit name="s" type="surfaceshader">
        <input name="emission_color" type="color3" nodename="i"/></surface_unlit>`),
    's',
  )
  /** Mean of the pixels that show the right ball alone. */
  function shown({ level }: ReturnType<typeof bench>): number {
    const all = [...level.part.keys()].filter(i => level.part[i] === 1 && level.part[i + 1] === 1)
    return all.reduce((sum, i) => sum + level.rgb[i * 3]!, 0) / all.length
  }

  it('an edited map is seen from the next job on, without a new world', async () => {
    const shared = (bytes: number) => new SharedArrayBuffer(bytes)
    const map = createMap({ width: SIDE, height: SIDE, data: paint(3) }, 'raw', { id: 'p', allocate: shared })
    const b = bench()
    b.post({ kind: 'change', change: { materials: [{ at: 1, program: worn, maps: [map] }], count: 2, other: {} } })
    b.begin({ epoch: 1 })
    await b.until(() => b.count(1, 0) === tiles)
    expect(shown(b)).toBeGreaterThan(2.5)
    const edited = createMapEditor(map, shared).write({ x: 0, y: 0, width: SIDE, height: SIDE, data: paint(7) })
    b.post({ kind: 'map', map: edited })
    b.begin({ epoch: 2 })
    await b.until(() => b.count(2, 0) === tiles)
    expect(shown(b)).toBeGreaterThan(6)
    expect(b.said.filter(m => m.kind === 'failed')).toEqual([])
  })

  it('a program that stays goes back to its own numbers', async () => {
    const b = bench()
    b.begin({ epoch: 1, constants: [material(0).constants, material(0).constants] })
    await b.until(() => b.count(1, 0) === tiles)
    const dark = shown(b)
    b.post({ kind: 'change', change: { materials: [], count: 2, other: { maxOpaque: 3 } } })
    b.begin({ epoch: 2 })
    await b.until(() => b.count(2, 0) === tiles)
    expect(shown(b)).toBeGreaterThan(dark + 0.3)
  })
})
