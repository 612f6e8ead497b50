/**
 * A frame shared between machines: bands of its pieces, each computed by whoever is free. Every tile has all of its
 * passes from one band, so joined they are the bits of a frame that was computed in one place.
 */
import { pieceCount, tilesOfPiece } from './film-pieces'

/** Paths that a band is worth: some half a minute on a processor, so that starting it costs little of it. */
const WORTH = 20_000_000
/** Most bands of a frame. */
const MOST = 64

/** How many bands a frame is shared as. @param worth paths that a band is to have, about */
export const bandCount = (width: number, height: number, passes: number, worth = WORTH): number =>
  Math.max(1, Math.min(MOST, pieceCount(width, height), Math.round((width * height * passes) / worth)))

/** Numbers of a band's pieces: spread over the picture, so that no band gets all that is slow. */
export function piecesOfBand(width: number, height: number, band: number, bands: number): number[] {
  const pieces: number[] = []
  for (let p = band; p < pieceCount(width, height); p += bands) pieces.push(p)
  return pieces
}

/** Numbers of a band's tiles. */
export const tilesOfBand = (width: number, height: number, band: number, bands: number): number[] =>
  piecesOfBand(width, height, band, bands).flatMap(p => tilesOfPiece(width, height, p))
