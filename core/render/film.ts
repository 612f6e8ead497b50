import type { Allocate } from '../trace/build'

/** Edge of a tile, pixels. */
export const TILE = 16

/** Names of the AOVs and their components. */
export const AOVS: Readonly<Record<string, number>> = { albedo: 3, normal: 3, position: 3, depth: 1, part: 1 }

/**
 * The picture being computed: sums of passes in double precision, with the tiles' state. All arrays may be shared between threads.
 * Samples are multiples of 2⁻³⁰, so sums are exact up to 2²³ and independent of their order.
 */
export interface Film {
  width: number
  height: number
  /** Sums of samples, RGB. */
  sum: Float64Array
  /** Sums of the samples' squared luminance, for the noise of each pixel; empty on films that are not asked for it. */
  square: Float64Array
  /** First-hit part of each pixel (−1 nothing), from the first pass. */
  part: Int32Array
  /** First-hit shading normal, from the first pass. */
  normal: Float32Array
  /** For each tile: a lock, the epoch its sums belong to, passes summed. */
  tiles: Int32Array
  /** Coarse pictures shown before the first pass is complete. */
  levels: Level[]
  /** Sums of AOVs that were asked for. */
  aov: Record<string, Float64Array>
}

export interface Level { width: number, height: number, rgb: Float32Array, part: Int32Array, normal: Float32Array }

export const tilesAcross = (width: number) => Math.ceil(width / TILE)
export const tileCount = (width: number, height: number) => tilesAcross(width) * tilesAcross(height)

/** Holds a tile's sums still while they are read: a reader that came between two rows would count some of them twice. Writers hold it for microseconds. */
export function lockTile(film: Film, tile: number): void { while (Atomics.compareExchange(film.tiles, tile * 3, 0, 1) !== 0); }
export function unlockTile(film: Film, tile: number): void { Atomics.store(film.tiles, tile * 3, 0) }
/** Passes that a tile has in an epoch. */
export const tilePasses = (film: Film, tile: number, epoch: number): number => film.tiles[tile * 3 + 1] === epoch ? film.tiles[tile * 3 + 2]! : 0

/** Makes a film. @param levels sizes of the ladder’s coarse pictures @param squares whether to keep the squares too */
export function createFilm(width: number, height: number, levels: readonly { width: number, height: number }[] = [], aov: readonly string[] = [], allocate: Allocate = n => new ArrayBuffer(n), squares = false): Film {
  const n = width * height
  return {
    width, height, sum: new Float64Array(allocate(n * 24)), square: new Float64Array(allocate(squares ? n * 8 : 0)), part: new Int32Array(allocate(n * 4)), normal: new Float32Array(allocate(n * 12)), tiles: new Int32Array(allocate(tileCount(width, height) * 12)),
    levels: levels.map(l => ({ ...l, rgb: new Float32Array(allocate(l.width * l.height * 12)), part: new Int32Array(allocate(l.width * l.height * 4)), normal: new Float32Array(allocate(l.width * l.height * 12)) })),
    aov: Object.fromEntries(aov.map(name => [name, new Float64Array(allocate(n * 8 * AOVS[name]!))])),
  }
}

/** Mean over `passes` as separate channels R, G, B. */
export function meanChannels(film: Film, passes: number): Map<string, Float32Array> {
  const n = film.width * film.height, out = new Map<string, Float32Array>()
  ;['R', 'G', 'B'].forEach((name, c) => out.set(name, Float32Array.from({ length: n }, (_, i) => film.sum[i * 3 + c]! / passes)))
  for (const [name, sum] of Object.entries(film.aov)) {
    const size = AOVS[name]!, letters = size === 1 ? [name === 'depth' ? 'Z' : 'id'] : name === 'albedo' ? ['R', 'G', 'B'] : ['X', 'Y', 'Z']
    // the part is that of the first pass: numbers of things are not averaged
    letters.forEach((letter, c) => out.set(`${name}.${letter}`, Float32Array.from({ length: n }, (_, i) => sum[i * size + c]! / (name === 'part' ? 1 : passes))))
  }
  return out
}
