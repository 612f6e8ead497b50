import type { Allocate } from '../trace/hierarchy'

/**
 * Lobes told apart, see `layers.ts`; what the camera sees directly is emission on a part and background elsewhere.
 */
export const LOBE_LAYERS = [
  'diffuse',
  'specular',
  'transmission',
  'coat',
  'subsurface',
  'emission',
  'background',
] as const

/** Edge of a tile, pixels. */
export const TILE = 16
/** Paths that advance together: those of a tile's pixels. */
export const BATCH = TILE * TILE

/**
 * AOVs of what the camera sees first, and their components: means over the passes, but for numbers of things,
 * which are those of the first pass.
 */
export const AOVS: Readonly<Record<string, number>> = {
  albedo: 3,
  normal: 3,
  position: 3,
  depth: 1,
  part: 1,
  material: 1,
}
const NUMBERS = new Set(['part', 'material'])
/**
 * AOVs of another kind: radiance by light, radiance by lobe, passes that a pixel had, rays a pass that it took.
 */
export const LAYER_AOVS = ['lights', 'lobes', 'samples', 'cost'] as const
export const isNumber = (aov: string): boolean => NUMBERS.has(aov)

/**
 * The picture being computed: sums of passes in double precision, with the tiles' state. All arrays may be shared
 * between threads. Samples are multiples of 2⁻³⁰, so sums are exact up to 2²³ and independent of their
 * order.
 */
export interface Film {
  width: number
  height: number
  /** Sums of samples, RGB. */
  sum: Float64Array
  /**
   * Sums of the samples' squared luminance, for the noise of each pixel; empty on films that are not asked for it.
   */
  square: Float64Array
  /** First-hit part of each pixel (−1 nothing), from the first pass. */
  part: Int32Array
  /** First-hit shading normal, from the first pass. */
  normal: Float32Array
  /** The state of each tile, see {@link TILE_STATE}. */
  tiles: Int32Array
  /** Coarse pictures shown before the first pass is complete. */
  levels: Level[]
  /** Sums of AOVs that were asked for. */
  aov: Record<string, Float64Array>
  /** Sums of each light's own radiance, RGB; empty unless asked for. See `mix.ts`. */
  lights: Float64Array[]
  /** Factor on each light, three apiece; and in one word how often they changed. */
  mix: Float64Array
  mixes: Int32Array
  /** Sums of each lobe's radiance, RGB, in the order of `layers.ts`; empty unless asked for. */
  lobes: Float64Array[]
  /** Sum of rays cast for each pixel; empty unless asked for. */
  cost: Float64Array
}

/** A coarse picture: colours, and of what is seen first the part, the normal and the distance. */
export interface Level {
  width: number
  height: number
  rgb: Float32Array
  part: Int32Array
  normal: Float32Array
  depth: Float32Array
}

/**
 * Words of a tile's state: a lock, the epoch its sums belong to, passes summed, the mix its sums were made with,
 * the passes after which it had enough (0: not yet).
 */
export const TILE_STATE = { lock: 0, epoch: 1, passes: 2, mix: 3, enough: 4, words: 5 } as const
/** Index of a word of a tile's state in {@link Film.tiles}. */
export const tileWord = (tile: number, word: number): number => tile * TILE_STATE.words + word

/** Left, top and size of a tile, pixels. */
export interface TileBox {
  x0: number
  y0: number
  w: number
  h: number
}
export function tileBox(width: number, height: number, tile: number): TileBox {
  const across = tilesAcross(width)
  const x0 = (tile % across) * TILE
  const y0 = Math.floor(tile / across) * TILE
  return { x0, y0, w: Math.min(TILE, width - x0), h: Math.min(TILE, height - y0) }
}
export const tilesAcross = (width: number) => Math.ceil(width / TILE)
export const tileCount = (width: number, height: number) => tilesAcross(width) * tilesAcross(height)

/** Mark of a render worker on a tile's lock: when one is given up, its locks are known. */
export const lockOf = (hand: number): number => 2 + hand
/** Opens the locks that a worker left behind. */
export function openLocks(film: Film, hand: number): void {
  for (let t = 0; t < tileCount(film.width, film.height); t++)
    Atomics.compareExchange(film.tiles, tileWord(t, TILE_STATE.lock), lockOf(hand), 0)
}
/**
 * Holds a tile's sums still while they are read: a reader that came between two rows would count some of them
 * twice. Writers hold it for microseconds.
 */
export function lockTile(film: Film, tile: number): void {
  while (Atomics.compareExchange(film.tiles, tileWord(tile, TILE_STATE.lock), 0, 1) !== 0);
}
export function unlockTile(film: Film, tile: number): void {
  Atomics.store(film.tiles, tileWord(tile, TILE_STATE.lock), 0)
}
/** Passes that a tile has in an epoch. */
export const tilePasses = (film: Film, tile: number, epoch: number): number =>
  film.tiles[tileWord(tile, TILE_STATE.epoch)] === epoch ? film.tiles[tileWord(tile, TILE_STATE.passes)]! : 0
/** Whether a tile has enough in an epoch. */
export const tileHasEnough = (film: Film, tile: number, epoch: number): boolean =>
  tilePasses(film, tile, epoch) > 0 && film.tiles[tileWord(tile, TILE_STATE.enough)]! > 0

export interface FilmOptions {
  /** Sizes of the ladder's coarse pictures. */
  levels?: readonly { width: number; height: number }[]
  /** Names of {@link AOVS} and {@link LAYER_AOVS}. */
  aov?: readonly string[]
  /** How many lights there are, for the AOV of that name. */
  lights?: number
  /** Whether to keep squares too. */
  squares?: boolean
  allocate?: Allocate
}

/** Makes a film. */
export function createFilm(width: number, height: number, o: FilmOptions = {}): Film {
  const n = width * height
  const allocate = o.allocate ?? (bytes => new ArrayBuffer(bytes))
  const wants = (name: string) => o.aov?.includes(name) ?? false
  const lights = wants('lights') ? (o.lights ?? 0) : 0
  const rgb = (count: number) => Array.from({ length: count }, () => new Float64Array(allocate(n * 24)))
  return {
    width,
    height,
    sum: new Float64Array(allocate(n * 24)),
    square: new Float64Array(allocate(o.squares ? n * 8 : 0)),
    part: new Int32Array(allocate(n * 4)),
    normal: new Float32Array(allocate(n * 12)),
    tiles: new Int32Array(allocate(tileCount(width, height) * TILE_STATE.words * 4)),
    levels: (o.levels ?? []).map(l => ({
      ...l,
      rgb: new Float32Array(allocate(l.width * l.height * 12)),
      part: new Int32Array(allocate(l.width * l.height * 4)),
      normal: new Float32Array(allocate(l.width * l.height * 12)),
      depth: new Float32Array(allocate(l.width * l.height * 4)),
    })),
    aov: Object.fromEntries(
      Object.keys(AOVS)
        .filter(wants)
        .map(name => [name, new Float64Array(allocate(n * 8 * AOVS[name]!))]),
    ),
    lights: rgb(lights),
    mix: new Float64Array(allocate(lights * 24)).fill(1),
    mixes: new Int32Array(allocate(4)),
    lobes: rgb(wants('lobes') ? LOBE_LAYERS.length : 0),
    cost: new Float64Array(allocate(wants('cost') ? n * 8 : 0)),
  }
}

/** Name of a thing as a layer of an EXR: its dots would part layers. */
const layerName = (name: string): string => name.replaceAll('.', '_').trim().slice(0, 60) || 'unnamed'

/**
 * The film's means as channels of an EXR, named by layer.
 * @param passes passes of every tile, or of each where some had more
 * @param lights names of the lights, when they were kept apart
 * @param samples whether to say how many passes each pixel had
 */
export function meanChannels(
  film: Film,
  passes: number | ((tile: number) => number),
  lights: readonly string[] = [],
  samples = false,
): Map<string, Float32Array> {
  const n = film.width * film.height
  const across = tilesAcross(film.width)
  const out = new Map<string, Float32Array>()
  const scale = Float64Array.from({ length: n }, (_, i) =>
    typeof passes === 'number'
      ? passes
      : passes(Math.floor(Math.floor(i / film.width) / TILE) * across + Math.floor((i % film.width) / TILE)),
  )
  const channel = (name: string, sum: Float64Array, size: number, c: number, whole = false) =>
    out.set(
      name,
      Float32Array.from({ length: n }, (_, i) => sum[i * size + c]! / (whole ? 1 : scale[i]!)),
    )
  const colour = (layer: string, sum: Float64Array) =>
    ['R', 'G', 'B'].forEach((letter, c) => channel(layer + letter, sum, 3, c))
  colour('', film.sum)
  for (const [name, sum] of Object.entries(film.aov)) {
    const size = AOVS[name]!
    const letters =
      size === 1 ? [name === 'depth' ? 'Z' : 'id'] : name === 'albedo' ? ['R', 'G', 'B'] : ['X', 'Y', 'Z']
    letters.forEach((letter, c) => channel(`${name}.${letter}`, sum, size, c, isNumber(name)))
  }
  const taken = new Set<string>()
  film.lights.forEach((sum, i) => {
    const base = `light_${layerName(lights[i] ?? String(i))}`
    let name = base
    for (let k = 2; taken.has(name); k++) name = `${base}_${k}`
    taken.add(name)
    colour(`${name}.`, sum)
  })
  film.lobes.forEach((sum, i) => colour(`lobe_${LOBE_LAYERS[i]}.`, sum))
  if (film.cost.length) channel('cost.rays', film.cost, 1, 0)
  if (samples) out.set('samples.n', Float32Array.from(scale))
  return out
}
