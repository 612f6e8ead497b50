import type { Lights } from '../core/light/lights'
import type { Film } from '../core/render/film'
import type { WorldChange } from '../core/world/change'
import type { World } from '../core/world/world'
import type { Program } from '../core/network/compile'
import type { TextureMap } from '../core/maps/map'
import type { BuildShare } from '../core/trace/build-share'

/** Words of the shared control block. Tickets and counters have a row for each epoch, modulo {@link EPOCHS}. */
export const CONTROL = {
  epoch: 0,
  /** Epoch of which only the first tickets are wanted for now, and how many. */ held: 1,
  wanted: 2,
  /** Epoch of the denoised picture, and passes it was made of. */ denoised: 3,
  denoisedPasses: 4,
  /** How long workers rest between two tiles of a pass, ms: the page needs the machine. A new epoch wakes them. */
  rest: 5,
  /** Counts the coarse pictures that came to stand, whole or in what changed; who draws waits on it. */ news: 7,
  tickets: 16,
  done: 16 + 64,
  /** Each worker's answer to the last beat it heard: who does not answer for long hangs. */ beats:
    16 + 64 + 64 * 8,
  size: 16 + 64 + 64 * 8 + 16,
} as const
export const EPOCHS = 64
/**
 * Counters a row of done holds: one for each level of the ladder; those of the first one that show what changed;
 * tiles of full passes.
 */
export const DONE_ROW = 8
export const DONE_FIRST = 6
export const DONE_FULL = 7

/**
 * What to render; everything that may change without a new world. Sent whole, so that a pass never mixes old and
 * new values.
 */
export interface Job {
  epoch: number
  camera: Float64Array
  /** Constants of each program, when they changed since the world was sent. */
  constants: number[][] | null
  lights: Lights | null
  seed: number
  /**
   * Whether only the camera has moved: coarse pictures then have other samples each time, and are joined with
   * those before.
   */
  moves: boolean
  /** Coarse pictures left out: the coarsest is for what is seen for the first time. */
  skip: number
  /**
   * Tiles of the first coarse picture in the order wanted: those that show what changed come first. Null for row
   * by row.
   */
  order: Int32Array | null
  /** How many tiles of `order` show what changed. */
  first: number
  /**
   * Parts whose pixels alone are wanted of the coarse picture, by number: in a drag, where nothing else shows the
   * change at once. Null for every pixel.
   */
  only: Uint8Array | null
  /** Tiles of full passes; null for all of them. */
  tiles: Int32Array | null
  /** Passes [from, to) to add up now, to sums that begin with pass `start`. */
  start: number
  from: number
  to: number
  /** Epoch that the sums belong to: the job's own, or that of the job which this one goes on with. */
  sums: number
  /** Noise at which a tile has enough, and its least passes; null where every tile gets all passes. */
  settle: { noise: number; least: number } | null
}

/** A small picture of one node's output or of a material, on the model as the camera frames it. */
export interface SwatchRequest {
  id: number
  program: Program
  maps: (TextureMap | null)[]
  part: number
  camera: Float64Array
  size: number
  /** Passes [from, from + passes). */ from: number
  passes: number
}

/** Values of programs where rays meet one part: what a cross-section draws. */
export interface ProfileRequest {
  id: number
  programs: { program: Program; maps: (TextureMap | null)[] }[]
  /** ox oy oz dx dy dz a ray. */ rays: Float64Array
  part: number
}
/** Edges of the triangles that a camera sees, in rows [first, end) of a picture. */
export interface EdgesRequest {
  id: number
  camera: Float64Array
  width: number
  height: number
  rows: readonly [first: number, end: number]
  /** Of the geometry that is meant, which may be on its way yet. */
  triangles: number
}
export interface ProfileAnswer {
  id: number
  /** Positions of the hits, three a ray; NaN where another part or nothing is met. */ positions: Float64Array
  /** One array a program, one value a ray. */ values: Float64Array[]
}

export type ToWorker =
  | { kind: 'control'; control: Int32Array; /** Which of the workers this is. */ hand: number }
  | { kind: 'world'; world: World }
  /** What is new in a world of the same geometry. */
  | { kind: 'change'; change: WorldChange }
  /** A scene to exercise the code on until there is a job. */
  | { kind: 'warm'; world: World; camera: Float64Array }
  /** A map was edited: jobs that come later look it up by its newest table. */
  | { kind: 'map'; map: TextureMap }
  | { kind: 'film'; film: Film }
  | { kind: 'job'; job: Job }
  | { kind: 'go' }
  | { kind: 'beat'; beat: number }
  /** Somebody builds a hierarchy and wants help. */
  | { kind: 'build'; share: BuildShare }
  | { kind: 'swatch'; request: SwatchRequest }
  | { kind: 'profile'; request: ProfileRequest }
  | { kind: 'edges'; request: EdgesRequest }

export type FromWorker =
  | { kind: 'ready' }
  | { kind: 'swatch'; id: number; rgb: Float32Array; size: number }
  | ({ kind: 'profile' } & ProfileAnswer)
  | { kind: 'edges'; id: number; /** Null where the geometry is another one. */ lines: Uint8Array | null }
  | { kind: 'counts'; epoch: number; paths: number; rays: number; lost: number; cut: number }
  | { kind: 'failed'; message: string }
