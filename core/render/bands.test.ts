import { expect, it } from 'vitest'
import { bandCount, tilesOfBand } from './bands'
import { tileCount } from './film'

it.each([
  [640, 400, 12, 1],
  [1920, 1080, 256, 27],
  [3840, 2160, 1024, 64],
  [16, 16, 65536, 1],
])('a frame of %i × %i with %i passes has %i bands, and each tile is in one of them', (w, h, passes, bands) => {
  expect(bandCount(w, h, passes)).toBe(bands)
  const all = Array.from({ length: bands }, (_, b) => tilesOfBand(w, h, b, bands))
  expect(all.flat().sort((a, b) => a - b)).toEqual(Array.from({ length: tileCount(w, h) }, (_, t) => t))
  // shares that are alike: none has a quarter more than its part and a piece
  for (const tiles of all) expect(tiles.length).toBeLessThanOrEqual((1.25 * tileCount(w, h)) / bands + 16)
})
