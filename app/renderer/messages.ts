import type { Film } from '../../core/render/film'

export type DisplayMessage =
  | { kind: 'canvas', canvas: OffscreenCanvas }
  | { kind: 'film', film: Film, control: Int32Array }
  | { kind: 'look', exposure: number, clipping: boolean }
  | { kind: 'epoch', epoch: number, guided: boolean, skip: number, /** Tiles of the coarse picture that show what changed, and the parts concerned; 0 when everything did. */ first: number, changed: Uint8Array | null }

/** What the display worker reports after each drawing. */
export interface DrawnReport { kind: 'drawn', epoch: number, level: number, passes: number, clipped: number, noise: number | null, /** Absolute time, ms. */ at: number, /** Time the drawing took, ms. */ took: number }
