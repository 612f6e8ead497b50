import { TILE, tileCount, tilesAcross } from '../../core/render/film'

/** A part of the picture: shares of its width and height from the upper left corner. */
export interface Region {
  x0: number
  y0: number
  x1: number
  y1: number
}

/** Numbers of the tiles that a region touches, in the order they are rendered. */
export function tilesIn(r: Region, width: number, height: number): Int32Array {
  const across = tilesAcross(width)
  const out: number[] = []
  for (let i = 0; i < tileCount(width, height); i++) {
    const x = (i % across) * TILE
    const y = Math.floor(i / across) * TILE
    if (x < r.x1 * width && x + TILE > r.x0 * width && y < r.y1 * height && y + TILE > r.y0 * height) out.push(i)
  }
  return Int32Array.from(out)
}

/** Region between two points of a picture; undefined for one too small to be meant. */
export function regionBetween(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  width: number,
  height: number,
): Region | undefined {
  const share = (a: number, of: number) => Math.min(1, Math.max(0, a / of))
  const r = {
    x0: share(Math.min(ax, bx), width),
    y0: share(Math.min(ay, by), height),
    x1: share(Math.max(ax, bx), width),
    y1: share(Math.max(ay, by), height),
  }
  return (r.x1 - r.x0) * width >= 8 && (r.y1 - r.y0) * height >= 8 ? r : undefined
}
