/**
 * The picture as a mix of its lights: each light's own sums times a factor, so that a rig is dimmed, tinted or
 * seen light by light without rendering again. Grey factors are exact. A tint multiplies Rec.709 channels of what
 * a light gave in the end; its spectrum would change a little on coloured surfaces.
 */
import { luminanceAt } from '../colour/luminance'
import { lockTile, TILE_STATE, tileBox, tileCount, tileWord, unlockTile, type Film } from './film'

export const mixOf = (film: Film, light: number, k: number): number => film.mix[light * 3 + k]!

/** Sets the factors, three a light; tiles follow by {@link remixTile}. */
export function setMix(film: Film, factors: ArrayLike<number>): void {
  film.mix.set(factors)
  Atomics.add(film.mixes, 0, 1)
}

/** Brings a tile's sums to the present mix; its lock must be held. */
export function remixTile(film: Film, tile: number): void {
  const version = Atomics.load(film.mixes, 0)
  const word = tileWord(tile, TILE_STATE.mix)
  if (film.lights.length === 0 || film.tiles[word] === version) return
  film.tiles[word] = version
  const { sum, square, width } = film
  const { x0, y0, w, h } = tileBox(width, film.height, tile)
  for (let y = y0; y < y0 + h; y++)
    for (let i = y * width + x0; i < y * width + x0 + w; i++) {
      const o = i * 3
      const before = luminanceAt(sum, o)
      sum[o] = 0
      sum[o + 1] = 0
      sum[o + 2] = 0
      for (let l = 0; l < film.lights.length; l++)
        for (let k = 0; k < 3; k++) sum[o + k]! += film.lights[l]![o + k]! * mixOf(film, l, k)
      // the noise is taken to scale with the pixel
      const after = luminanceAt(sum, o)
      if (square.length && before > 0) square[i]! *= (after / before) ** 2
    }
}

/** Brings the whole picture to the present mix. @returns whether anything had to be done */
export function remix(film: Film): boolean {
  const version = Atomics.load(film.mixes, 0)
  let done = false
  for (let tile = 0; film.lights.length > 0 && tile < tileCount(film.width, film.height); tile++) {
    if (film.tiles[tileWord(tile, TILE_STATE.mix)] === version) continue
    lockTile(film, tile)
    remixTile(film, tile)
    unlockTile(film, tile)
    done = true
  }
  return done
}
