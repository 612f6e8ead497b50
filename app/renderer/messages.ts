import type { Balance } from '../../core/colour/balance'
import type { Film } from '../../core/render/film'

export type DisplayMessage =
  /** Asks the worker to exercise its code before there is anything to draw. */
  | { kind: 'warm' }
  | { kind: 'canvas', canvas: OffscreenCanvas }
  | { kind: 'film', film: Film, control: Int32Array, /** Denoised picture, four a pixel. */ denoised: Float32Array }
  | { kind: 'look', exposure: number, balance: Balance | null, clipping: boolean, zones: boolean, denoise: boolean }
  | { kind: 'epoch', epoch: number, guided: boolean, skip: number, /** Tiles of the coarse picture that show what changed, and the parts concerned; 0 when everything did. */ first: number, changed: Uint8Array | null, /** Tiles of the region that is rendered; null for the whole picture. */ tiles: Int32Array | null }

/** What the display worker reports after each drawing. */
export interface DrawnReport { kind: 'drawn', epoch: number, level: number, passes: number, clipped: number, noise: number | null, /** Passes of the denoised picture that is shown; 0 when what is shown is as computed. */ denoised: number, /** Absolute time, ms. */ at: number, /** Time the drawing took, ms. */ took: number }
