import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createLights } from '../../core/light/create-lights'
import { createMap } from '../../core/maps/create-map'
import { sphere } from '../../core/mesh/sphere'
import { compileNetwork } from '../../core/network/compile'
import { createGeometry } from '../../core/scene/geometry'
import type { World } from '../../core/world/world'
import { mtlx, pbr, uniform } from '../../core/testing/setup'
import { CONTROL, type Job, type ToWorker } from '../../workers/protocol'
import type { DisplayMessage, DrawnReport } from './messages'
import { createSession } from './session'

vi.hoisted(() => vi.stubGlobal('window', {}))

const W = 320
const H = 200
const program = (grey: number) => compileNetwork(mtlx(pbr({ base_color: `${grey}, ${grey}, ${grey}` })), 's')
const geometry = createGeometry({
  parts: [sphere('left', 0.8, 8, 16, [-1, 0, 0]), sphere('right', 0.8, 8, 16, [1, 0, 0])],
})
const world: World = {
  geometry,
  lights: createLights(uniform(1), null),
  programs: [program(0.2), program(0.6)],
  maps: [[], []],
  materialOf: Int32Array.of(0, 1),
  priorityOf: new Int32Array(2),
  maxOpaque: 4,
  maxSpecular: 8,
}
const camera = (x: number) => ({
  name: 'c',
  position: [x, 0, 8] as [number, number, number],
  target: [0, 0, 0] as [number, number, number],
  fov: 15,
})

/** A worker that only keeps what it is told. */
class Listener<M> {
  got: M[] = []
  onmessage: ((e: MessageEvent) => void) | null = null
  onerror = null
  postMessage(m: M) {
    this.got.push(m)
  }
  terminate() {
    this.got = []
  }
}

/** A session on listeners, after its first picture with this camera. */
function begun() {
  const render = [new Listener<ToWorker>(), new Listener<ToWorker>()]
  const display = new Listener<DisplayMessage>()
  const denoise = [new Listener<DisplayMessage>()]
  const stands = vi.fn()
  const drawn = vi.fn()
  const canvas = { dataset: {}, transferControlToOffscreen: () => ({}) } as unknown as HTMLCanvasElement
  const s = createSession(canvas, { render, display, denoise } as unknown as Parameters<typeof createSession>[1], {
    stands,
    drawn,
    counts() {},
    failed() {},
  })
  const control = () => {
    const m = render[0]!.got.find(x => x.kind === 'control')
    return (m as { control: Int32Array }).control
  }
  const jobs = () => render[1]!.got.flatMap(m => (m.kind === 'job' ? [m.job] : []))
  const job = (): Job => jobs().at(-1)!
  const report = (r: Partial<DrawnReport>) =>
    display.onmessage!({
      data: {
        kind: 'drawn',
        epoch: s.epoch,
        level: 1,
        passes: 0,
        clipped: 0,
        noise: null,
        settled: 0,
        denoised: 0,
        at: 0,
        took: 0,
        ...r,
      },
    } as MessageEvent)
  s.setSize(W, H)
  s.setCamera(camera(0))
  s.setWorld(world, true)
  // both balls seen side by side, in every tile of their half
  s.film!.levels[1]!.part.forEach((_, i, part) => {
    part[i] = i % 160 < 80 ? 0 : 1
  })
  report({ level: 2, passes: 1 })
  s.passDone(s.epoch)
  vi.advanceTimersByTime(1000)
  stands.mockClear()
  return {
    s,
    render,
    display,
    stands,
    drawn,
    control,
    jobs,
    job,
    report,
    constants: (a: number, b: number) => [program(a).constants, program(b).constants],
    quick() {
      s.setConstants(this.constants(0.2, 0.5))
      report({})
    },
  }
}
type Begun = ReturnType<typeof begun>
let b: Begun
beforeEach(() => {
  vi.useFakeTimers()
  b = begun()
})
afterEach(() => {
  b.s.stop()
  vi.useRealTimers()
})

describe('epochs', () => {
  it('begin for what can be seen, and not for constants that say the same', () => {
    const { epoch } = b.s
    b.s.setConstants(b.constants(0.2, 0.6))
    expect(b.s.epoch).toBe(epoch)
    b.s.setConstants(b.constants(0.2, 0.7))
    expect([b.s.epoch, b.control()[CONTROL.epoch], b.job().epoch]).toEqual([epoch + 1, epoch + 1, epoch + 1])
    expect(b.job().constants).toEqual(b.constants(0.2, 0.7))
  })
  it('put the tiles of what changed first', () => {
    b.s.setConstants(b.constants(0.2, 0.7))
    // ten tiles across, seven down; the right half shows what changed
    expect(b.job().first).toBe(35)
    expect([...b.job().order!].slice(0, 35).every(t => t % 10 >= 5)).toBe(true)
    expect([...b.job().order!].sort((x, y) => x - y)).toEqual(Array.from({ length: 70 }, (_, i) => i))
  })
  it('know of no parts that changed once the camera has moved', () => {
    b.s.setCamera(camera(1))
    b.s.setConstants(b.constants(0.2, 0.7))
    expect([b.job().first, b.job().order]).toEqual([0, null])
  })
  it('say when only the camera has moved', () => {
    b.s.setCamera(camera(1))
    expect(b.job().moves).toBe(true)
    b.report({})
    vi.advanceTimersByTime(1000)
    b.s.setConstants(b.constants(0.2, 0.7))
    expect(b.job().moves).toBe(false)
  })
  it('wait for the picture of the one before, and are one where several wait', () => {
    b.s.setConstants(b.constants(0.2, 0.7))
    const { epoch } = b.s
    for (const x of [0.71, 0.72, 0.73]) b.s.setConstants(b.constants(0.2, x))
    expect(b.s.epoch).toBe(epoch)
    b.report({})
    expect([b.s.epoch, b.stands.mock.calls.length]).toEqual([epoch + 1, 0])
    expect(b.job().constants).toEqual(b.constants(0.2, 0.73))
    b.report({})
    expect(b.stands).toHaveBeenCalledOnce()
  })
  it('come all the same where the picture takes long', () => {
    b.s.setConstants(b.constants(0.2, 0.7))
    const { epoch } = b.s
    b.s.setConstants(b.constants(0.2, 0.71))
    vi.advanceTimersByTime(100)
    expect(b.s.epoch).toBe(epoch + 1)
  })
  it('are shown while paused too, by a few passes; all of them come afterwards', () => {
    b.s.pause(true)
    const count = b.jobs().length
    b.s.setConstants(b.constants(0.2, 0.7))
    expect(b.jobs()).toHaveLength(count + 1)
    expect(b.jobs().at(-1)!.to).toBe(4)
    b.s.pause(false)
    vi.advanceTimersByTime(100)
    expect(b.jobs()).toHaveLength(count + 2)
    expect(b.jobs().at(-1)!.to).toBeGreaterThan(100)
  })
})

describe('a drag', () => {
  it('keeps full passes back, and lets them go when the hand rests', () => {
    b.quick()
    b.s.setCamera(camera(1))
    expect(b.control()[CONTROL.held]).toBe(b.s.epoch)
    b.report({})
    vi.advanceTimersByTime(200)
    expect(b.control()[CONTROL.held]).toBe(0)
    expect(b.render[0]!.got.at(-1)!.kind).toBe('go')
  })
  it('computes what changed alone between whole pictures, and the whole anew when the hand rests', () => {
    b.quick()
    b.s.setConstants(b.constants(0.2, 0.4))
    expect([b.job().only, b.control()[CONTROL.wanted]]).toEqual([Uint8Array.of(0, 1), 35])
    b.report({ level: -1 })
    expect(b.drawn).toHaveBeenCalledTimes(2)
    vi.advanceTimersByTime(200)
    expect([b.job().only, b.job().moves, b.control()[CONTROL.held], b.control()[CONTROL.wanted]]).toEqual([
      null,
      false,
      0,
      70,
    ])
    expect(b.job().constants).toEqual(b.constants(0.2, 0.4))
    const { epoch } = b.s
    b.report({})
    vi.advanceTimersByTime(2000)
    expect(b.s.epoch).toBe(epoch)
  })
  it('computes what is lit and mirrored four times a second', () => {
    b.quick()
    const whole: boolean[] = []
    for (let i = 0; i < 25; i++) {
      vi.advanceTimersByTime(40)
      b.s.setConstants(b.constants(0.2, 0.3 + i / 100))
      whole.push(b.job().only === null)
      b.report(whole.at(-1) ? {} : { level: -1 })
    }
    expect(whole.filter(Boolean).length).toBeGreaterThanOrEqual(3)
    expect(whole.filter(Boolean).length).toBeLessThanOrEqual(4)
  })
})

it('a part of the picture is rendered alone', () => {
  b.s.setRegion({ x0: 0, y0: 0, x1: 0.1, y1: 0.1 })
  expect(b.job().tiles!.length).toBeLessThan(10)
  b.s.setRegion(null)
  b.report({})
  expect(b.job().tiles).toBeNull()
})

it('lights kept apart are dimmed by mixing, without a new epoch', () => {
  b.s.keepLightsApart()
  b.report({})
  const { epoch } = b.s
  b.s.setLights(createLights(uniform(0.5), null))
  expect([b.s.epoch, b.s.film!.mix[0]]).toEqual([epoch, 0.5])
})

it('pixels and parts outside the picture are none', () => {
  expect([b.s.partAt(-1, 0), b.s.partAt(W, 0), b.s.pixelAt(0, H), b.s.picture()]).toEqual([
    -1,
    -1,
    undefined,
    undefined,
  ])
})

describe('what workers are told of a world', () => {
  const map = createMap({ width: 2, height: 2, data: new Float32Array(16).fill(1) }, 'raw', { id: 'm' })
  const kinds = () => b.render[0]!.got.map(m => m.kind)

  it('of the same geometry only what is new', () => {
    const third = program(0.9)
    b.render[0]!.got = []
    b.s.setWorld({ ...world, programs: [world.programs[0]!, third] }, false)
    const change = b.render[0]!.got.find(m => m.kind === 'change')
    expect(change).toMatchObject({ change: { materials: [{ at: 1, program: third }], count: 2, other: {} } })
    expect(kinds()).not.toContain('world')
    expect(b.job().constants).toBeNull()
  })

  it('of an edited map its new table, and then a job for the parts that wear it; nothing where nobody does', () => {
    b.s.setWorld({ ...world, maps: [[], [map]] }, false)
    b.report({})
    b.render[0]!.got = []
    b.s.setMap({ ...map, version: 1 })
    expect(kinds().slice(0, 2)).toEqual(['map', 'job'])
    const { epoch } = b.s
    b.s.setMap({ ...map, id: 'of nobody' })
    expect(b.s.epoch).toBe(epoch)
  })
})
