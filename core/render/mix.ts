/**
 * The picture as a mix of its lights: each light's own sums times a factor, so that a rig is dimmed, tinted or seen light by light without rendering again.
 * Grey factors are exact. A tint multiplies Rec.709 channels of what a light gave in the end; its spectrum would change a little on coloured surfaces.
 */
import { lockTile, TILE, TILE_WORDS, tileCount, tilesAcross, unlockTile, type Film } from './film'

export const mixOf = (film: Film, light: number, k: number): number => film.mix[light * 3 + k]!

/** Sets the factors, three a light; tiles follow by {@link remixTile}. */
export function setMix(film: Film, factors: ArrayLike<number>): void {
  film.mix.set(factors)
  Atomics.add(film.mixes, 0, 1)
}

/** Brings a tile's sums to the present mix; its lock must be held. */
export function remixTile(film: Film, tile: number): void {
  const version = Atomics.load(film.mixes, 0), word = tile * TILE_WORDS + 3
  if (film.lights.length === 0 || film.tiles[word] === version) return
  film.tiles[word] = version
  const { sum, square, width } = film, across = tilesAcross(width), x0 = tile % across * TILE, y0 = Math.floor(tile / across) * TILE, x1 = Math.min(width, x0 + TILE), y1 = Math.min(film.height, y0 + TILE)
  for (let y = y0; y < y1; y++) for (let i = y * width + x0; i < y * width + x1; i++) {
    const o = i * 3, before = 0.2126 * sum[o]! + 0.7152 * sum[o + 1]! + 0.0722 * sum[o + 2]!
    sum[o] = 0; sum[o + 1] = 0; sum[o + 2] = 0
    for (let l = 0; l < film.lights.length; l++) for (let k = 0; k < 3; k++) sum[o + k]! += film.lights[l]![o + k]! * mixOf(film, l, k)
    // the noise is taken to scale with the pixel
    const after = 0.2126 * sum[o]! + 0.7152 * sum[o + 1]! + 0.0722 * sum[o + 2]!
    if (square.length && before > 0) square[i]! *= (after / before) ** 2
  }
}

/** Brings the whole picture to the present mix. @returns whether anything had to be done */
export function remix(film: Film): boolean {
  const version = Atomics.load(film.mixes, 0)
  let done = false
  for (let tile = 0; film.lights.length > 0 && tile < tileCount(film.width, film.height); tile++) {
    if (film.tiles[tile * TILE_WORDS + 3] === version) continue
    lockTile(film, tile)
    remixTile(film, tile)
    unlockTile(film, tile)
    done = true
  }
  return done
}
