/** Watches the shared film and draws it to the page's canvas, off the page's own thread. */
import type { Balance } from '../../core/colour/balance'
import { develop, developCoarse } from '../../core/render/display'
import {
  createFilm,
  TILE_STATE,
  tileCount,
  tileHasEnough,
  tilePasses,
  type Film,
  type Level,
} from '../../core/render/film'
import { remix } from '../../core/render/mix'
import { keepLevel, reuse, type Seen } from '../../core/render/reuse'
import { tileNoise } from '../../core/render/settle'
import { CONTROL, DONE_FIRST, DONE_FULL, DONE_ROW, EPOCHS } from '../../workers/protocol'
import type { DisplayMessage, DrawnReport } from '../renderer/messages'

let canvas: OffscreenCanvas | undefined
let context: OffscreenCanvasRenderingContext2D | null = null
let film: Film | undefined
let control: Int32Array | undefined
let image: ImageData | undefined
let small: ImageData | undefined
let scratch: OffscreenCanvas | undefined
let denoised: Float32Array | undefined
let drawnDenoised = 0
let denoise = true
/** The region that is rendered: how many tiles, and which; null for the whole picture. */
let region: { count: number; has: Uint8Array } | null = null
let exposure = 0
let balance: Balance | null = null
let neutral = false
let clipping = false
let zones = false
let guidedEpoch = -1
let guided = false
let skip = 0
let first = 0
let changed: Uint8Array | null = null
let dirty = true
let drawnPart = -1
let drawnEpoch = -1
let drawnLevel = -1
let drawnTiles = 0
let lastDraw = 0
/** Frame of the camera of the epoch announced last, and whether nothing else has changed since the one before. */
let camera: Float64Array | undefined
let moves = false
/** The coarse picture drawn last, as it was computed, and one joined with it. */
let before: (Seen & { epoch: number }) | undefined
let joined: Level | undefined
/** Epoch that it is of. */ let joinedOf = -1
let measured = { epoch: -1, passes: 0, settled: 0 }
let settled = 0
let mostPasses = 0
let mixDrawn = 0
let noise = 0

addEventListener('message', (event: MessageEvent<DisplayMessage>) => {
  const m = event.data
  if (m.kind === 'canvas') {
    canvas = m.canvas
    context = canvas.getContext('2d', { alpha: false })
  } else if (m.kind === 'film') {
    film = m.film
    control = m.control
    denoised = m.denoised
    image = new ImageData(film.width, film.height)
    small = new ImageData((film.width + 1) >> 1, (film.height + 1) >> 1)
    scratch = new OffscreenCanvas(small.width, small.height)
    if (canvas) {
      canvas.width = film.width
      canvas.height = film.height
    }
    drawnEpoch = -1
    before = undefined
  } else if (m.kind === 'warm') warmUp()
  else if (m.kind === 'look') {
    exposure = m.exposure
    balance = m.balance
    neutral = m.neutral
    clipping = m.clipping
    zones = m.zones
    denoise = m.denoise
    dirty = true
  } else if (m.kind === 'epoch') {
    camera = m.camera
    moves = m.moves
    guidedEpoch = m.epoch
    guided = m.guided
    skip = m.skip
    first = m.first
    changed = m.changed
    region = regionOf(m.tiles)
  }
})

function regionOf(tiles: Int32Array | null): typeof region {
  if (!tiles || !film) return null
  const has = new Uint8Array(tileCount(film.width, film.height))
  for (const t of tiles) has[t] = 1
  return { count: tiles.length, has }
}

/** Develops an empty picture a few times, so that the code is compiled when the first true one comes. */
function warmUp(): void {
  const f = createFilm(320, 200, { levels: [{ width: 80, height: 50 }] })
  const o = { epoch: 0, exposure, clipping, level: f.levels[0]!, guided: true }
  for (let i = 0; i < 6; i++) developCoarse(f, o, new Uint8ClampedArray(160 * 100 * 4))
  const level = f.levels[0]!
  const seen = { level, camera: Float64Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, -1) }
  level.depth.fill(1)
  level.normal.fill(1)
  for (let i = 0; i < 6; i++)
    reuse(seen, { ...seen, level: keepLevel(level, undefined) }, new Float32Array(level.rgb.length))
  f.tiles.fill(1)
  for (let i = 0; i < f.tiles.length; i += TILE_STATE.words) f.tiles[i] = 0
  for (let i = 0; i < 3; i++) develop(f, { ...o, epoch: 1 }, new Uint8ClampedArray(320 * 200 * 4))
}

function levelsDone(epoch: number): number {
  const row = CONTROL.done + (epoch % EPOCHS) * DONE_ROW
  for (let l = film!.levels.length - 1; l >= 0; l--)
    if (Atomics.load(control!, row + l) >= tileCount(film!.levels[l]!.width, film!.levels[l]!.height)) return l
  return -1
}

/**
 * Noise of the picture by its own variances, root mean square over its tiles, and the share of tiles that have
 * enough; after each doubling of the passes and each time more than that settled.
 */
function measureNoise(epoch: number, passes: number): void {
  const f = film!
  let square = 0
  let count = 0
  let enough = 0
  for (let tile = 0; tile < tileCount(f.width, f.height); tile++) {
    if (region && !region.has[tile]) continue
    count++
    if (tileHasEnough(f, tile, epoch)) enough++
  }
  settled = count > 0 ? enough / count : 0
  if (passes < 2 || (measured.epoch === epoch && passes < measured.passes * 2 && settled === measured.settled))
    return
  measured = { epoch, passes, settled }
  let most = 0
  for (let tile = 0; tile < tileCount(f.width, f.height); tile++) {
    const n = tilePasses(f, tile, epoch)
    if (n > most) most = n
    if (n >= 2 && (!region || region.has[tile])) square += tileNoise(f, tile, n) ** 2
  }
  noise = Math.sqrt(square / Math.max(1, count))
  mostPasses = most
}

/**
 * A coarse picture as it is shown: while only the camera moves, joined with the one drawn before; and it is kept
 * for the next.
 */
function joinedLevel(epoch: number, level: Level): Level {
  if (!camera || guidedEpoch !== epoch) return level
  // drawn once more for another look it is what it was
  if (before?.epoch === epoch) return joinedOf === epoch ? joined! : level
  if (moves && before?.epoch === epoch - 1) {
    if (joined?.width !== level.width || joined.height !== level.height)
      joined = { ...level, rgb: new Float32Array(level.rgb.length) }
    reuse({ level, camera }, before, joined.rgb)
    joinedOf = epoch
  }
  before = { level: keepLevel(level, before?.level), camera, epoch }
  // the next picture may have begun to be written over this one meanwhile
  if (Atomics.load(control!, CONTROL.epoch) !== epoch) before = undefined
  return joinedOf === epoch ? joined! : level
}

/** Puts the half-size picture onto the canvas. */
function putSmall(): void {
  scratch!.getContext('2d')!.putImageData(small!, 0, 0)
  context!.drawImage(scratch!, 0, 0, small!.width * 2, small!.height * 2)
}

/** Looks for something to draw, and again when workers say that a coarse picture stands, at the latest in 6 ms. */
function look(): void {
  const news = control ? Atomics.load(control, CONTROL.news) : 0
  if (film && control && context && image) {
    if (Atomics.load(film.mixes, 0) !== mixDrawn) {
      mixDrawn = Atomics.load(film.mixes, 0)
      dirty = remix(film) || dirty
    }
    const epoch = Atomics.load(control, CONTROL.epoch)
    const row = CONTROL.done + (epoch % EPOCHS) * DONE_ROW
    const tiles = Atomics.load(control, row + DONE_FULL)
    const perPass = region?.count ?? tileCount(film.width, film.height)
    const level = levelsDone(epoch)
    const now = performance.now()
    const fresh = epoch !== drawnEpoch
    const calm =
      denoise && tiles >= perPass && Atomics.load(control, CONTROL.denoised) === epoch
        ? Atomics.load(control, CONTROL.denoisedPasses)
        : 0
    // what changed is shown as soon as its own tiles stand; what it lights and mirrors follows with the whole
    // coarse picture
    if (
      fresh &&
      level < 0 &&
      tiles === 0 &&
      drawnPart !== epoch &&
      guided &&
      guidedEpoch === epoch &&
      changed &&
      first > 0 &&
      small &&
      scratch &&
      Atomics.load(control, row + DONE_FIRST) >= first
    ) {
      const began = performance.now()
      developCoarse(
        film,
        {
          epoch,
          exposure,
          balance,
          neutral,
          clipping,
          zones,
          level: film.levels[skip]!,
          guided: true,
          only: changed,
        },
        small.data,
      )
      putSmall()
      drawnPart = epoch
      postMessage({
        kind: 'drawn',
        epoch,
        level: -1,
        passes: 0,
        clipped: 0,
        noise: null,
        settled: 0,
        denoised: 0,
        at: performance.timeOrigin + performance.now(),
        took: performance.now() - began,
      } satisfies DrawnReport)
    }
    const more = fresh
      ? level >= 0 || tiles >= perPass
      : level > drawnLevel ||
        (tiles > drawnTiles &&
          (tiles < perPass
            ? now - lastDraw > 120
            : Math.floor(tiles / perPass) > Math.floor(drawnTiles / perPass) && now - lastDraw > 150))
    if (more || (calm !== drawnDenoised && !fresh) || (dirty && (level >= 0 || tiles > 0))) {
      const began = performance.now()
      const options = {
        epoch,
        exposure,
        balance,
        neutral,
        clipping,
        zones,
        level: level >= 0 ? film.levels[level]! : null,
        guided: (guided && guidedEpoch === epoch) || (tiles >= perPass && !region),
        denoised: calm > 0 ? denoised! : null,
      }
      let clipped: number
      if (tiles === 0 && level >= 0 && small && scratch) {
        clipped = developCoarse(
          film,
          level === skip ? { ...options, level: joinedLevel(epoch, film.levels[level]!) } : options,
          small.data,
        )
        putSmall()
      } else {
        clipped = develop(film, options, image.data)
        context.putImageData(image, 0, 0)
      }
      const passes = Math.floor(tiles / perPass)
      measureNoise(epoch, passes)
      const shown = settled > 0 ? mostPasses : passes
      drawnEpoch = epoch
      drawnLevel = level
      drawnTiles = tiles
      drawnDenoised = calm
      lastDraw = now
      dirty = false
      postMessage({
        kind: 'drawn',
        epoch,
        level,
        passes: shown,
        clipped,
        noise: passes >= 2 ? noise : null,
        settled,
        denoised: calm,
        at: performance.timeOrigin + performance.now(),
        took: performance.now() - began,
      } satisfies DrawnReport)
    }
  }
  const told = control && 'waitAsync' in Atomics ? Atomics.waitAsync(control, CONTROL.news, news, 6) : undefined
  if (told) void Promise.resolve(told.value).then(look)
  else setTimeout(look, 6)
}
look()
