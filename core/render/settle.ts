/**
 * Sampling until the noise is low enough: a tile that has enough gets no more passes, and the others get the time.
 *
 * A tile is judged after fixed numbers of passes, by its own sums alone: what it gets does not depend on how many
 * threads there are or which of them was faster. Stopping by the samples themselves leaves a bias (a tile whose
 * rare bright samples have not come yet looks quiet); it falls with the least number of passes and with the 256
 * pixels that are judged together. How large it is was not measured yet.
 */
import { luminanceAt } from '../colour/luminance'
import { tileBox, type Film } from './film'

/** Noise that the live view settles at, relative; and its least passes: the denoised pictures need whole ones. */
export const VIEW_NOISE = 0.01
export const VIEW_LEAST = 64
/** Least passes of a picture that is not watched. */
export const LEAST = 16
/**
 * Luminance below which noise counts as if the pixel were this bright: about the darkest step that a display shows
 * apart.
 */
const DARK = 0.02

/** Whether tiles are judged after so many passes: 16, 24, 32, 48, 64, 96, … */
export function judgedAfter(passes: number, least: number): boolean {
  if (passes < least) return false
  const odd = passes / (passes & -passes)
  return odd === 1 || odd === 3
}

/**
 * Noise of a tile: standard error of its pixels' luminance over that luminance, root mean square over the tile.
 */
export function tileNoise(f: Film, tile: number, passes: number): number {
  const { x0, y0, w, h } = tileBox(f.width, f.height, tile)
  let total = 0
  for (let y = y0; y < y0 + h; y++)
    for (let i = y * f.width + x0; i < y * f.width + x0 + w; i++) {
      const mean = luminanceAt(f.sum, i * 3) / passes
      const variance = Math.max(0, f.square[i]! / passes - mean * mean) / Math.max(1, passes - 1)
      total += variance / (Math.abs(mean) + DARK) ** 2
    }
  return Math.sqrt(total / (w * h))
}
