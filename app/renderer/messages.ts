import type { Balance } from '../../core/colour/balance'
import type { DenoiseMemory } from '../../core/render/denoise-memory'
import type { Film } from '../../core/render/film'

/**
 * Words by which the first of the denoiser's hands calls the others: number of calls, the epoch meant, and from
 * there on the team's own.
 */
export const CALL = { number: 0, epoch: 1, team: 2, size: 16 } as const

export type DisplayMessage =
  /** Asks the worker to exercise its code before there is anything to draw. */
  | { kind: 'warm' }
  | { kind: 'canvas'; canvas: OffscreenCanvas }
  | {
      kind: 'film'
      film: Film
      control: Int32Array
      /** Denoised picture, four a pixel. */ denoised: Float32Array
    }
  /** For a hand of the denoiser: its number, and what all of them work on. */
  | {
      kind: 'team'
      film: Film
      control: Int32Array
      denoised: Float32Array
      memory: DenoiseMemory
      call: Int32Array
      hand: number
      hands: number
    }
  | {
      kind: 'look'
      exposure: number
      balance: Balance | null
      neutral: boolean
      clipping: boolean
      zones: boolean
      denoise: boolean
    }
  | {
      kind: 'epoch'
      epoch: number
      camera: Float64Array
      /** Whether only the camera has moved. */ moves: boolean
      guided: boolean
      skip: number
      /** Tiles of the coarse picture that show what changed, and the parts concerned; 0 when everything did. */
      first: number
      changed: Uint8Array | null
      /** Tiles of the region that is rendered; null for the whole picture. */ tiles: Int32Array | null
    }

/** What the display worker reports after each drawing. */
export interface DrawnReport {
  kind: 'drawn'
  epoch: number
  level: number
  passes: number
  clipped: number
  noise: number | null
  /** Share of the picture that has enough and gets no more passes. */ settled: number
  /** Passes of the denoised picture that is shown; 0 when what is shown is as computed. */ denoised: number
  /** Absolute time, ms. */ at: number
  /** Time the drawing took, ms. */ took: number
}
