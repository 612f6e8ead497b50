/**
 * The page's side of the renderer: workers, shared film, and epochs. Every change begins a new epoch: workers drop
 * what is stale within a tile, coarse pictures come first, passes add up after them.
 */
import { areGrey, factorsBetween } from '../../core/light/create-lights'
import type { Lights } from '../../core/light/lights'
import { createFilm, openLocks, tileCount, type Film } from '../../core/render/film'
import { VIEW_LEAST, VIEW_NOISE } from '../../core/render/settle'
import { setMix } from '../../core/render/mix'
import { createDenoiseMemory } from '../../core/render/denoise-memory'
import { cameraFrame, type Camera } from '../../core/scene/camera'
import type { TextureMap } from '../../core/maps/map'
import { changeBetween } from '../../core/world/change'
import type { World } from '../../core/world/world'
import { CONTROL, DONE_ROW, EPOCHS, type FromWorker, type ToWorker } from '../../workers/protocol'
import { tilesIn, type Region } from './region'
import type { Look } from './loader'
import { lastTouch, notes } from './notes'
import { createQuestions } from './questions'
import { meanPicture, partAt, pixelAt } from './read-film'
import { partsThatWear } from './worn-by'
import { tilesOf } from './tiles-of'
import { CALL, type DisplayMessage, type DrawnReport } from './messages'
import { watchBeats } from './beats'
import { createRests } from './rests'
import { startRenderWorker, type Workers } from './start-workers'

const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)
/** Passes after which the live view rests. */
export const MOST_PASSES = 1024

export interface SessionEvents {
  /** The picture of the last change stands, and none waits. */
  stands(): void
  drawn(report: DrawnReport): void
  counts(paths: number, cut: number, epoch: number): void
  failed(message: string): void
}

export function createSession(
  canvas: HTMLCanvasElement,
  { render: workers, display, denoise }: Workers,
  events: SessionEvents,
) {
  const control = new Int32Array(shared(CONTROL.size * 4))
  const threads = workers.length
  /** Says on the canvas, for tests and readers, which epoch is under way and whether its picture stands. */
  const say = (stands: boolean) => {
    canvas.dataset.epoch = String(epoch)
    canvas.dataset.stands = stands ? 'yes' : 'no'
  }
  const offscreen = canvas.transferControlToOffscreen()
  display.postMessage({ kind: 'canvas', canvas: offscreen }, [offscreen])
  let film: Film | undefined
  let world: World | undefined
  let camera: Camera | undefined
  let epoch = 0
  let guideKey = ''
  let paused = false
  let geometryId = 0
  let pendingGuide = ''
  /** Whether nothing but the camera has changed since the last epoch began. */ let onlyMoved = false
  let constants: number[][] | null = null
  let lights: Lights | null = null
  const questions = createQuestions(workers)
  /** What of the picture is rendered, as shares of its width and height; null for all of it. */
  let region: Region | null = null
  const all = (m: ToWorker) => {
    for (const w of workers) w.postMessage(m)
  }

  function listen(w: Worker): void {
    w.onmessage = (event: MessageEvent<FromWorker>) => {
      const m = event.data
      if (m.kind === 'counts') events.counts(m.paths, m.cut, m.epoch)
      else if (m.kind === 'failed') events.failed(m.message)
      else questions.answered(m)
    }
    w.onerror = event => events.failed(event.message)
  }
  workers.forEach((w, hand) => {
    listen(w)
    w.postMessage({ kind: 'control', control, hand } satisfies ToWorker)
  })
  const stopWatching = watchBeats(
    control,
    threads,
    beat => all({ kind: 'beat', beat }),
    hand => {
      workers[hand]!.terminate()
      const w = (workers[hand] = startRenderWorker())
      listen(w)
      w.postMessage({ kind: 'control', control, hand } satisfies ToWorker)
      if (film) {
        openLocks(film, hand)
        w.postMessage({ kind: 'film', film } satisfies ToWorker)
      }
      if (world) w.postMessage({ kind: 'world', world } satisfies ToWorker)
      begin()
    },
  )
  display.onmessage = (event: MessageEvent<DrawnReport>) => {
    notes?.push({ kind: 'drawn', epoch: event.data.epoch, at: event.data.at, took: event.data.took })
    const d = event.data
    if (d.epoch === epoch && (partial || d.level >= 0 || d.passes > 0)) {
      coarseDone = true
      if (pending !== undefined) begin()
      else {
        say(true)
        events.stands()
      }
    }
    if (d.level >= 0 || d.passes > 0) events.drawn(d)
  }

  /** Passes of what changes while the render is paused: enough to see it, denoised. */ const PAUSED_PASSES = 4
  /** How long after the last of several quick changes the full passes begin, ms. */
  const QUIET = 160
  /** How long what surrounds a change may lag behind it in a drag, ms. */
  const SURROUNDINGS = 250
  /** How long a tint rests before it is rendered, ms. */
  const TINT_REST = 1500
  let lastChange = 0
  let release: ReturnType<typeof setTimeout> | undefined

  /** Longest that a change waits for the picture of the one before, ms. */
  const PATIENCE = 90
  /** Whether nothing of the geometry was shown yet: then the coarsest picture comes first. */
  let unseen = true
  let wholeAt = 0
  let partial = false
  let coarseDone = true
  let pending: ReturnType<typeof setTimeout> | undefined
  /** Parts whose materials changed since the last epoch began; null when anything else did. */
  let changed: Set<number> | null = new Set()

  /**
   * Whether the picture is kept apart by light, the lights it is rendered with, and the one that is shown alone.
   */
  let apart = false
  let rendered: Lights | null = null
  let lightAlone: number | null = null
  let exactLater: ReturnType<typeof setTimeout> | undefined

  function makeFilm(width: number, height: number): void {
    const scale = Math.max(1, width / 160)
    const size = (s: number) => ({
      width: Math.max(8, Math.round(width / s)),
      height: Math.max(8, Math.round(height / s)),
    })
    const wanted = lights ?? world?.lights
    film = createFilm(width, height, {
      levels: [size(scale * 2), size(scale), size(Math.max(1, scale / 2))],
      aov: ['albedo', 'normal', ...(apart && wanted ? ['lights'] : [])],
      lights: wanted?.layerCount,
      allocate: shared,
      squares: true,
    })
    const denoised = new Float32Array(shared(width * height * 16))
    display.postMessage({ kind: 'film', film, control, denoised } satisfies DisplayMessage)
    const memory = createDenoiseMemory(width, height, shared)
    const call = new Int32Array(shared(CALL.size * 4))
    denoise.forEach((w, hand) =>
      w.postMessage({
        kind: 'team',
        film: film!,
        control,
        denoised,
        memory,
        call,
        hand,
        hands: denoise.length,
      } satisfies DisplayMessage),
    )
    all({ kind: 'film', film })
  }

  /**
   * Shows the picture under the present lights by mixing what each gave.
   * @returns false where it must be rendered
   */
  function mix(): boolean {
    const wanted = lights ?? world?.lights
    const factors = film?.lights.length && rendered && wanted ? factorsBetween(rendered, wanted) : null
    if (!factors || !film) return false
    onlyMoved = false
    clearTimeout(exactLater)
    setMix(
      film,
      factors.map((x, i) => (lightAlone === null || Math.floor(i / 3) === lightAlone ? x : 0)),
    )
    Atomics.store(control, CONTROL.denoised, 0)
    // the spectrum of a tinted light on coloured surfaces is found by rendering, once the hand rests
    if (!areGrey(factors)) exactLater = setTimeout(restart, TINT_REST)
    return true
  }

  /** Begins a new epoch, at once or as soon as the coarse picture under way stands. */
  function restart(parts: Iterable<number> | null = null, moves = false): void {
    onlyMoved &&= moves
    if (parts === null) changed = null
    else if (changed) for (const p of parts) changed.add(p)
    canvas.dataset.stands = 'no'
    if (pending !== undefined) return
    const wait = lastChange + PATIENCE - performance.now()
    if (!coarseDone && wait > 0) pending = setTimeout(begin, wait)
    else begin()
  }

  /** The hand rests: full passes begin, or the whole picture anew where only what changed was kept up. */
  function letGo(): void {
    if (!partial) {
      Atomics.store(control, CONTROL.held, 0)
      all({ kind: 'go' })
      return
    }
    onlyMoved = false
    begin(false)
  }

  /** @param drags whether changes in quick turn are taken for a drag */
  function begin(drags = true): void {
    clearTimeout(pending)
    pending = undefined
    if (!film || !world || !camera) return
    clearTimeout(exactLater)
    rendered = lights ?? world.lights
    if (apart && film.lights.length !== rendered.layerCount) makeFilm(film.width, film.height)
    // sums begin anew with these lights; what the old ones were mixed with must not be counted again
    if (film.lights.length) {
      film.mix.fill(1)
      if (lightAlone !== null)
        setMix(
          film,
          film.mix.map((_, i) => (Math.floor(i / 3) === lightAlone ? 1 : 0)),
        )
    }
    epoch++
    say(false)
    const now = performance.now()
    const held = drags && now - lastChange < 400
    lastChange = now
    coarseDone = false
    clearTimeout(release)
    if (held) release = setTimeout(letGo, QUIET)
    const row = epoch % EPOCHS
    const tiles = region && tilesIn(region, film.width, film.height)
    Atomics.store(control, CONTROL.tickets + row, 0)
    for (let k = 0; k < DONE_ROW; k++) Atomics.store(control, CONTROL.done + row * DONE_ROW + k, 0)
    const skip = unseen ? 0 : 1
    const coarse = film.levels[skip]!
    unseen = false
    const key = JSON.stringify(camera) + film.width + 'x' + film.height + geometryId
    const guided = key === guideKey
    const concerned = guided && changed?.size ? tilesOf(coarse, changed, world.geometry.partNames.length) : null
    // in a drag what changes is computed each time, what it lights and mirrors four times a second: the page needs
    // the machine too
    const { first = 0, order = null, parts = null } = concerned ?? {}
    const whole = tileCount(coarse.width, coarse.height)
    partial = held && first > 0 && now - wholeAt < SURROUNDINGS
    if (!partial) wholeAt = now
    Atomics.store(control, CONTROL.wanted, partial ? first : whole)
    Atomics.store(control, CONTROL.held, held ? epoch : 0)
    const frame = cameraFrame(camera, film.width, film.height)
    const moves = onlyMoved
    onlyMoved = true
    display.postMessage({
      kind: 'epoch',
      epoch,
      camera: frame,
      moves,
      guided,
      skip,
      first,
      changed: parts,
      tiles,
    } satisfies DisplayMessage)
    changed = new Set()
    pendingGuide = key
    // a change counts from the event that made it
    notes?.push({
      kind: 'epoch',
      epoch,
      at: performance.timeOrigin + (now - lastTouch() < 300 ? lastTouch() : now),
    })
    Atomics.store(control, CONTROL.epoch, epoch)
    Atomics.notify(control, CONTROL.epoch)
    all({
      kind: 'job',
      job: {
        epoch,
        camera: frame,
        constants,
        lights,
        seed: 0,
        moves,
        skip,
        order,
        first,
        only: partial ? parts : null,
        tiles,
        start: 0,
        from: 0,
        to: paused ? PAUSED_PASSES : MOST_PASSES,
        sums: epoch,
        settle: { noise: VIEW_NOISE, least: VIEW_LEAST },
      },
    })
  }

  return {
    get epoch() {
      return epoch
    },
    get film() {
      return film
    },
    threads,
    /** A whole pass with this camera is on the film: its first hits may guide the next coarse picture. */
    passDone(of: number): void {
      if (of === epoch && !region) guideKey = pendingGuide
    },
    setSize(width: number, height: number): void {
      if (film?.width === width && film.height === height) return
      makeFilm(width, height)
      restart()
    },
    setWorld(next: World, newGeometry: boolean): void {
      const change = world && changeBetween(world, next)
      world = next
      constants = null
      lights = null
      if (newGeometry) {
        geometryId++
        unseen = true
      }
      all(change ? { kind: 'change', change } : { kind: 'world', world })
      changed = null
      onlyMoved = false
      begin()
    },
    /** A map was edited: what wears it is rendered anew with its new tiles. */
    setMap(map: TextureMap): void {
      if (!world) return
      world.maps = world.maps.map(row => row.map(m => (m?.id === map.id ? map : m)))
      const parts = partsThatWear(world, m => world!.maps[m]!.some(x => x?.id === map.id))
      if (!parts.length) return
      all({ kind: 'map', map })
      restart(parts)
    },
    /** Constants of every program, after a change that needs no new world. */
    setConstants(next: number[][]): void {
      const before = constants ?? world?.programs.map(p => p.constants) ?? []
      const differ = next.map((c, i) => c.length !== before[i]?.length || c.some((x, k) => x !== before[i]![k]))
      // an edit that reaches no surface leaves the picture as it is
      if (!differ.includes(true)) return
      constants = next
      restart(world ? partsThatWear(world, m => differ[m]!) : [])
    },
    /** New lights: by mixing what each gave, where that will do, else by rendering. */
    setLights(next: Lights): void {
      lights = next
      if (!mix()) restart()
    },
    /**
     * Keeps the picture apart by light from now on, so that lights are dimmed, tinted and seen alone without
     * rendering.
     */
    keepLightsApart(): void {
      if (apart) return
      apart = true
      if (film && world) {
        makeFilm(film.width, film.height)
        restart()
      }
    },
    /** Shows one light alone, by its number; null for all of them. */
    setLightAlone(light: number | null): void {
      lightAlone = light
      if (!mix()) restart()
    },
    /** Renders only a region of the picture, or all of it again. */
    setRegion(next: Region | null): void {
      region = next
      restart()
    },
    setCamera(next: Camera): void {
      camera = next
      restart(null, true)
    },
    setLook(look: Look, clipping: boolean, zones: boolean, denoiseView: boolean): void {
      for (const w of [display, ...denoise])
        w.postMessage({ kind: 'look', ...look, clipping, zones, denoise: denoiseView } satisfies DisplayMessage)
    },
    pause(on: boolean): void {
      paused = on
      if (on) Atomics.store(control, CONTROL.epoch, ++epoch)
      else restart()
    },
    /** Leaves more of the machine to others. */
    setRest: createRests(control),
    get paused() {
      return paused
    },
    /** Part under a pixel, from the first pass; −1 for none. */
    partAt: (x: number, y: number) => partAt(film, x, y),
    /** Mean of the passes at a pixel, linear Rec.709; undefined before its first pass. */
    pixelAt: (x: number, y: number) => pixelAt(film, epoch, x, y),
    /** Mean of the passes so far; undefined before the first full pass. */
    picture: () => meanPicture(film, epoch),
    swatch: questions.swatch,
    profile: questions.profile,
    edges: questions.edges,
    stop(): void {
      stopWatching()
      for (const w of [...workers, display, ...denoise]) w.terminate()
    },
  }
}
export type RenderSession = ReturnType<typeof createSession>
