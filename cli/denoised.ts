import { createDenoiser } from '../core/render/denoise'
import type { Film } from '../core/render/film'
import { SUMS } from './pool'

/**
 * A film of {@link renderOnThreads} as it is looked at small: denoised, which is never done to what is compared.
 * @param film with sums of squares and the AOVs albedo and normal
 * @returns linear Rec.709, three a pixel
 * @throws Error while a tile has no pass
 */
export function denoised(film: Film): Float32Array {
  const { width, height } = film
  const colours = createDenoiser(width, height).run(film, SUMS)
  if (!colours) throw new Error('the picture has no pass')
  const rgb = new Float32Array(width * height * 3)
  for (let i = 0; i < width * height; i++) rgb.set(colours.subarray(i * 4, i * 4 + 3), i * 3)
  return rgb
}
