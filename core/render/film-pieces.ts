import { createFilm, TILE, TILE_STATE, tileBox, tilesAcross, tileWord, type Film, type FilmOptions } from './film'

/**
 * A film's sums in pieces: squares of some tiles, each of which can be put away and brought back by itself. A piece of
 * a film with every layer has a few megabytes, whatever the size of the picture.
 */

/** Edge of a piece, tiles. */
const EDGE = 4

const piecesAcross = (width: number): number => Math.ceil(tilesAcross(width) / EDGE)
export const pieceCount = (width: number, height: number): number => piecesAcross(width) * piecesAcross(height)

/** Numbers of the tiles of a piece. */
export function tilesOfPiece(width: number, height: number, piece: number): number[] {
  const across = tilesAcross(width)
  const left = (piece % piecesAcross(width)) * EDGE
  const top = Math.floor(piece / piecesAcross(width)) * EDGE
  const tiles: number[] = []
  for (let y = top; y < Math.min(top + EDGE, tilesAcross(height)); y++)
    for (let x = left; x < Math.min(left + EDGE, across); x++) tiles.push(y * across + x)
  return tiles
}

/** Everything that goes on growing from pass to pass, in a fixed order. */
const sumsOf = (f: Film): (Float64Array | Float32Array | Int32Array)[] => [
  f.sum,
  f.square,
  f.part,
  f.normal,
  ...Object.values(f.aov),
  ...f.lights,
  ...f.lobes,
  f.cost,
]

/** Bytes that a pixel of a film's sums takes. */
const pixelBytes = (f: Film): number => sumsOf(f).reduce((n, s) => n + s.byteLength, 0) / (f.width * f.height)

/** Runs through the rows of a piece: bytes of each, and where they lie in the packed piece. */
function eachRow(film: Film, piece: number, visit: (row: Uint8Array, at: number) => void): number {
  const tiles = tilesOfPiece(film.width, film.height, piece)
  const first = tileBox(film.width, film.height, tiles[0]!)
  const last = tileBox(film.width, film.height, tiles.at(-1)!)
  const w = last.x0 + last.w - first.x0
  let at = 0
  for (const s of sumsOf(film)) {
    const bytes = s.byteLength / (film.width * film.height)
    if (!bytes) continue
    for (let y = first.y0; y < last.y0 + last.h; y++) {
      const start = (y * film.width + first.x0) * bytes
      visit(new Uint8Array(s.buffer, s.byteOffset + start, w * bytes), at)
      at += w * bytes
    }
  }
  return at
}

/** The sums of a piece as bytes. */
export function packPiece(film: Film, piece: number): Uint8Array {
  const out = new Uint8Array((EDGE * TILE) ** 2 * pixelBytes(film))
  const length = eachRow(film, piece, (row, at) => out.set(row, at))
  return out.subarray(0, length)
}

/**
 * Puts the sums of a piece back onto a film with the same options.
 * @param passes that they hold
 * @param epoch that they are to belong to
 * @throws RangeError when they are not of such a film
 */
export function unpackPiece(film: Film, piece: number, bytes: Uint8Array, passes: number, epoch: number): void {
  if (
    !(piece >= 0 && piece < pieceCount(film.width, film.height)) ||
    eachRow(film, piece, () => {}) !== bytes.length
  )
    throw new RangeError('the sums are of another film')
  eachRow(film, piece, (row, at) => row.set(bytes.subarray(at, at + row.length)))
  for (const t of tilesOfPiece(film.width, film.height, piece)) {
    film.tiles[tileWord(t, TILE_STATE.epoch)] = epoch
    film.tiles[tileWord(t, TILE_STATE.passes)] = passes
  }
}

/** Bytes that a film of some options takes; nothing is made. */
export function filmBytes(width: number, height: number, options: FilmOptions): number {
  let bytes = 0
  const count = (n: number) => {
    bytes += n
    return new ArrayBuffer(0)
  }
  createFilm(width, height, { ...options, allocate: count })
  return bytes
}
