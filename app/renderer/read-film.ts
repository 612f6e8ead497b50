/** What the page reads of the film. */
import {
  lockTile,
  TILE,
  tileBox,
  tileCount,
  tilePasses,
  tilesAcross,
  unlockTile,
  type Film,
} from '../../core/render/film'
import { remixTile } from '../../core/render/mix'

/** Mean of the passes, linear Rec.709. */
export interface MeanPicture {
  width: number
  height: number
  rgb: Float32Array
  passes: number
}

/** Part under a pixel, from the first pass; −1 for none. */
export function partAt(film: Film | undefined, x: number, y: number): number {
  if (!film || x < 0 || y < 0 || x >= film.width || y >= film.height) return -1
  return film.part[Math.floor(y) * film.width + Math.floor(x)]!
}

/** Mean of the passes at a pixel, linear Rec.709; undefined before its first pass. */
export function pixelAt(film: Film | undefined, epoch: number, x: number, y: number): number[] | undefined {
  if (!film || x < 0 || y < 0 || x >= film.width || y >= film.height) return undefined
  const passes = tilePasses(film, Math.floor(y / TILE) * tilesAcross(film.width) + Math.floor(x / TILE), epoch)
  const o = (Math.floor(y) * film.width + Math.floor(x)) * 3
  return passes > 0 ? [0, 1, 2].map(k => film.sum[o + k]! / passes) : undefined
}

/** Mean of the passes so far, linear Rec.709; undefined before the first full pass. */
export function meanPicture(film: Film | undefined, epoch: number): MeanPicture | undefined {
  if (!film) return undefined
  let passes = Infinity
  const { width, height } = film
  const rgb = new Float32Array(width * height * 3)
  for (let t = 0; t < tileCount(width, height); t++) {
    lockTile(film, t)
    remixTile(film, t)
    const n = tilePasses(film, t, epoch)
    const { x0, y0, w, h } = tileBox(width, height, t)
    for (let y = y0; y < y0 + h; y++)
      for (let o = (y * width + x0) * 3; o < (y * width + x0 + w) * 3; o++) rgb[o] = film.sum[o]! / n
    unlockTile(film, t)
    if (n === 0) return undefined
    passes = Math.min(passes, n)
  }
  return { width, height, rgb, passes }
}
