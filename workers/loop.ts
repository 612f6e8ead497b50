/**
 * The render worker, the same in a browser and in Node: takes tickets (tiles of ladder levels, then of passes)
 * from shared memory and adds samples to the film. It returns to its event loop often enough to hear of a change
 * within a tile or two.
 */
import { readyLights } from '../core/light/ready'
import { accumulate } from '../core/render/accumulate'
import {
  lockOf,
  tileBox,
  tileCount,
  tileHasEnough,
  tilePasses,
  tileWord,
  type Film,
  type Level,
  type TileBox,
  TILE,
  TILE_STATE,
} from '../core/render/film'
import { createLayers, type Layers } from '../core/render/layers'
import { judgedAfter, tileNoise } from '../core/render/settle'
import { remixTile } from '../core/render/mix'
import { createFirstHits, type FirstHits } from '../core/render/first-hits'
import { renderTile } from '../core/render/integrate'
import { createTracer } from '../core/render/tracer'
import { memory } from '../core/render/memory'
import type { Material, RenderScene } from '../core/world/render-scene'
import { coarsely, keepCoarse, placeInLevel } from './keep-coarse'
import { answerTo } from './answers'
import { renderSwatch } from './swatch'
import { createOpenedMaps } from '../core/maps/opened'
import type { ReaderOf } from '../core/maps/texture'
import { changedWorld, type WorldChange } from '../core/world/change'
import { instantiateMaterial, instantiateMaterials, type World } from '../core/world/world'
import { joinBuild } from '../core/trace/build-share'
import {
  CONTROL,
  DONE_FIRST,
  DONE_FULL,
  DONE_ROW,
  EPOCHS,
  type FromWorker,
  type Job,
  type SwatchRequest,
  type ToWorker,
} from './protocol'

/** How long to work before looking at the mail, ms. */
const STRETCH = 24
/** How long to help with a hierarchy before looking at the mail, ms. */
const HELP = 250
/** Tiles of a warm-up: what it takes until the engine has compiled the loop for good. */
const WARM_TILES = 96

/** @param tilesOf reader of a file that tiles of maps are kept in */
export function createRenderLoop(
  post: (message: FromWorker) => void,
  tilesOf?: ReaderOf,
): (message: ToWorker) => void {
  const tracer = createTracer()
  const hits = createFirstHits()
  const tile = new Float64Array(TILE * TILE * 3)
  const wanted = new Uint8Array(TILE * TILE)
  let control: Int32Array | undefined
  let world: World | undefined
  let film: Film | undefined
  let job: Job | undefined
  let layers: Layers | null = null
  let keepsHits = false
  let hand = 0
  let materials: Material[] = []
  const opened = createOpenedMaps(tilesOf)
  let scene: RenderScene | undefined
  let coarse: RenderScene | undefined
  /** Of which model the lights have been made ready. */ let ready: World['geometry'] | undefined
  let running = false
  /** Works on a hierarchy that somebody else wants. */ let help: ((stop: () => boolean) => boolean) | undefined
  let warm: { scene: RenderScene; left: number } | undefined
  const swatches: SwatchRequest[] = []
  const channel = new MessageChannel()
  channel.port1.onmessage = () => work()
  const again = () => channel.port2.postMessage(0)

  function prepare(): void {
    if (!world || !job) return
    if (job.constants)
      job.constants.forEach((c, i) => {
        if (materials[i]) materials[i] = { ...materials[i], constants: Float64Array.from(c) }
      })
    // what shines and what each part sees of it takes a third of a second to find out while the code is new: the
    // first coarse picture of a model does without
    const lights = job.lights ?? world.lights
    scene = {
      geometry: world.geometry,
      lights: ready === world.geometry ? readyLights(world.geometry, lights, materials, world.materialOf) : lights,
      materials,
      materialOf: world.materialOf,
      priorityOf: world.priorityOf,
      camera: job.camera,
      fields: world.fields ?? null,
      maxOpaque: world.maxOpaque,
      maxSpecular: world.maxSpecular,
      clamp: world.clamp,
    }
    coarse = coarsely(scene)
  }

  /** The world is new: the numbers and lights of the job under way were meant for the old one. */
  function prepareAnew(): void {
    if (job) job = { ...job, constants: null, lights: null }
    prepare()
  }

  /** Takes what is new in the world. What stays goes back to the numbers of its program. */
  function applyChange(change: WorldChange): void {
    if (!world) return
    world = changedWorld(world, change)
    opened.keep(world.maps.flat())
    const fresh = new Set(change.materials.map(m => m.at))
    const before = materials
    materials = world.programs.map((p, i) =>
      fresh.has(i)
        ? instantiateMaterial(p, world!.maps[i]!, opened.open)
        : { ...before[i]!, constants: Float64Array.from(p.constants) },
    )
    prepareAnew()
  }

  /** Full passes want their lights ready. */
  function makeReady(): void {
    if (!world || ready === world.geometry) return
    ready = world.geometry
    prepare()
  }

  const current = (epoch: number) => Atomics.load(control!, CONTROL.epoch) === epoch
  const outdated = () => !job || !current(job.epoch)

  /**
   * Renders a tile of a job, which ends within a bounce when another job has come.
   * @returns whether it came to its end
   */
  function jobTile(
    of: RenderScene,
    { x0, y0, w, h }: TileBox,
    width: number,
    height: number,
    pass: number,
    seed: number,
    first: FirstHits | null,
    kept: Layers | null,
    only: Uint8Array | null = null,
  ): boolean {
    tracer.stop = outdated
    tracer.only = only
    try {
      return renderTile(tracer, of, x0, y0, w, h, width, height, pass, seed, tile, first, kept)
    } finally {
      tracer.stop = tracer.only = null
    }
  }

  function work(): void {
    running = false
    try {
      if (help) {
        const until = performance.now() + HELP
        if (!help(() => performance.now() > until)) help = undefined
        schedule()
        return
      }
      if (!control || !film || !job || !scene || !current(job.epoch)) {
        drawSwatches()
        warmTile()
        return
      }
      const epoch = job.epoch
      const row = epoch % EPOCHS
      const levelTiles = film.levels.map((l, i) => (i < job!.skip ? 0 : tileCount(l.width, l.height)))
      const tiles = job.tiles
      const full = tiles ? tiles.length : tileCount(film.width, film.height)
      const before = levelTiles.reduce((a, b) => a + b, 0)
      const total = before + full * (job.to - job.from)
      const until = performance.now() + STRETCH
      while (performance.now() < until) {
        if (!current(epoch)) {
          // after a pause no other job comes: what is asked is answered all the same
          if (swatches.length) schedule()
          return
        }
        // while a value is dragged the machine is the page's once what is wanted of the coarse picture stands
        if (
          Atomics.load(control, CONTROL.held) === epoch &&
          Atomics.load(control, CONTROL.tickets + row) >= Atomics.load(control, CONTROL.wanted)
        )
          return
        // passes wait while the page needs the machine; the coarse picture of what changed does not, nor a new epoch
        const rest = Atomics.load(control, CONTROL.rest)
        if (rest > 0 && Atomics.load(control, CONTROL.tickets + row) >= before)
          Atomics.wait(control, CONTROL.epoch, epoch, rest)
        let ticket = Atomics.add(control, CONTROL.tickets + row, 1)
        if (ticket >= total) {
          report(epoch)
          drawSwatches()
          return
        }
        if (ticket < before) {
          let level = 0
          while (ticket >= levelTiles[level]!) ticket -= levelTiles[level++]!
          coarseTile(
            film.levels[level]!,
            level === job.skip && job.order ? job.order[ticket]! : ticket,
            job,
            epoch,
          )
          countCoarse(row, level, ticket, levelTiles[level]!)
        } else {
          makeReady()
          ticket -= before
          const place = ticket % full
          fullTile(film, tiles ? tiles[place]! : place, job.from + Math.floor(ticket / full), job, epoch)
          Atomics.add(control, CONTROL.done + row * DONE_ROW + DONE_FULL, 1)
        }
      }
      report(epoch)
      if (swatches.length) drawSwatch(swatches.shift()!)
      schedule()
    } catch (e) {
      post({ kind: 'failed', message: e instanceof Error ? e.message : String(e) })
    }
  }

  /**
   * Counts a tile of a coarse picture, and wakes who draws when that was the last, or the last of those that show
   * what changed.
   */
  function countCoarse(row: number, level: number, ticket: number, tiles: number): void {
    const done = (counter: number) => Atomics.add(control!, CONTROL.done + row * DONE_ROW + counter, 1) + 1
    const first = level === job!.skip && ticket < job!.first
    const stands = first && done(DONE_FIRST) === job!.first
    if (done(level) !== tiles && !stands) return
    Atomics.add(control!, CONTROL.news, 1)
    Atomics.notify(control!, CONTROL.news)
  }

  function report(epoch: number): void {
    const c = tracer.counts
    if (c.paths) post({ kind: 'counts', epoch, ...c })
    c.paths = c.rays = c.lost = c.cut = 0
  }

  function coarseTile(level: Level, ticket: number, j: Job, epoch: number): void {
    const box = tileBox(level.width, level.height, ticket)
    // samples are those of the picture before, so what each pixel sees is known
    if (j.only)
      for (let i = 0; i < box.w * box.h; i++) wanted[i] = j.only[level.part[placeInLevel(level, box, i)]!] ?? 0
    const whole = jobTile(
      coarse!,
      box,
      level.width,
      level.height,
      0,
      j.seed + 0x51ed + (j.moves ? j.epoch : 0),
      hits,
      null,
      j.only && wanted,
    )
    tracer.counts.cut = 0 // those of coarse pictures are ended early on purpose
    if (!whole || !current(epoch)) return
    keepCoarse(level, box, tile, hits, j.only && wanted)
  }

  function fullTile(f: Film, number: number, pass: number, j: Job, epoch: number): void {
    const box = tileBox(f.width, f.height, number)
    const word = (name: keyof typeof TILE_STATE) => tileWord(number, TILE_STATE[name])
    const lock = word('lock')
    if (tileHasEnough(f, number, j.sums)) return
    const firstPass = pass === j.start
    const wantHits = firstPass || keepsHits
    if (!jobTile(scene!, box, f.width, f.height, pass, j.seed, wantHits ? hits : null, layers)) return
    // Passes are summed in order: wait for the one before (another thread has it, and is never more than a tile
    // behind).
    for (;;) {
      if (!current(epoch)) return
      if (Atomics.compareExchange(f.tiles, lock, 0, lockOf(hand)) !== 0) continue
      if (firstPass || tilePasses(f, number, j.sums) === pass - j.start || tileHasEnough(f, number, j.sums)) break
      Atomics.store(f.tiles, lock, 0)
    }
    // a pass that was begun before the tile had enough is not needed
    if (current(epoch) && (firstPass || !tileHasEnough(f, number, j.sums))) {
      if (firstPass) f.tiles[word('mix')] = Atomics.load(f.mixes, 0)
      else remixTile(f, number)
      accumulate(
        f,
        { ...box, rgb: tile, hits, lanes: memory.lanes, layers, materialOf: scene!.materialOf },
        firstPass,
      )
      const passes = pass - j.start + 1
      Atomics.store(f.tiles, word('epoch'), j.sums)
      Atomics.store(f.tiles, word('passes'), passes)
      f.tiles[word('enough')] =
        j.settle && judgedAfter(passes, j.settle.least) && tileNoise(f, number, passes) <= j.settle.noise
          ? passes
          : 0
    }
    Atomics.store(f.tiles, lock, 0)
  }

  /** Renders one tile of the warm-up for nobody, and comes back for the next unless a job has come. */
  function warmTile(): void {
    if (!warm || job || warm.left-- <= 0) {
      warm = undefined
      return
    }
    renderTile(
      tracer,
      warm.scene,
      (warm.left % 10) * TILE,
      (Math.floor(warm.left / 10) % 6) * TILE,
      TILE,
      TILE,
      160,
      100,
      warm.left,
      0,
      tile,
      hits,
    )
    tracer.counts.paths = tracer.counts.rays = 0
    schedule()
  }

  function drawSwatches(): void {
    while (swatches.length) drawSwatch(swatches.shift()!)
  }

  function drawSwatch(r: SwatchRequest): void {
    if (!scene) return
    const rgb = renderSwatch(tracer, scene, instantiateMaterial(r.program, r.maps, opened.open), r, tile)
    tracer.counts.cut = 0 // these have few bounces on purpose
    post({ kind: 'swatch', id: r.id, rgb, size: r.size })
  }

  function schedule(): void {
    if (!running) {
      running = true
      again()
    }
  }

  return message => {
    try {
      switch (message.kind) {
        case 'control':
          control = message.control
          hand = message.hand
          break
        case 'world':
          world = message.world
          opened.keep(world.maps.flat())
          materials = instantiateMaterials(world, opened.open)
          prepareAnew()
          break
        case 'change':
          applyChange(message.change)
          break
        case 'map':
          opened.edited(message.map)
          break
        case 'warm':
          warm = {
            scene: { ...message.world, materials: instantiateMaterials(message.world), camera: message.camera },
            left: WARM_TILES,
          }
          schedule()
          break
        case 'film':
          film = message.film
          layers =
            film.lights.length || film.lobes.length || film.cost.length
              ? createLayers(film.lights.length, film.lobes.length > 0)
              : null
          keepsHits = Object.keys(film.aov).length > 0
          break
        case 'go':
          schedule()
          break
        case 'beat':
          if (control) Atomics.store(control, CONTROL.beats + hand, message.beat)
          break
        case 'build':
          help = joinBuild(message.share)
          schedule()
          break
        case 'profile':
        case 'edges':
          if (world) post(answerTo(message, world.geometry, opened.open))
          break
        case 'job':
          job = message.job
          opened.turn()
          prepare()
          schedule()
          break
        case 'swatch':
          if (swatches.length > 32) swatches.shift()
          swatches.push(message.request)
          schedule()
      }
    } catch (e) {
      post({ kind: 'failed', message: e instanceof Error ? e.message : String(e) })
    }
  }
}
