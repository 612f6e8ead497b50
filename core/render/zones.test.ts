import { describe, expect, it } from 'vitest'
import { createFilm } from './film'
import { develop } from './display'
import { ZONES, zoneOf } from './zones'

describe('exposure zones', () => {
  it('count whole stops from 18 %', () => {
    expect(
      [0.18, 0.18 * 1.4, 0.18 / 1.4, 0.36, 0.09, 0.18 * 8, 100, 0.18 / 64, 0, NaN].map(y => zoneOf(y) - 6),
    ).toEqual([0, 0, 0, 1, -1, 3, 3, -6, -6, -6])
  })
  it('are drawn at the exposure of the view in place of the picture', () => {
    const film = createFilm(2, 1)
    const out = new Uint8ClampedArray(8)
    film.sum.set([0.18, 0.18, 0.18, 0.045, 0.045, 0.045])
    film.tiles.set([0, 7, 1])
    develop(film, { epoch: 7, exposure: 1, clipping: false, zones: true, level: null, guided: false }, out)
    expect(Array.from(out)).toEqual([...ZONES[7]!, 255, ...ZONES[5]!, 255])
  })
})
