import { expect, it } from 'vitest'
import { filmBytes, packPiece, pieceCount, tilesOfPiece, unpackPiece } from './film-pieces'
import { createFilm, lockOf, lockTile, openLocks, TILE_STATE, tilePasses, unlockTile } from './film'

it('sums go on from bytes as if they had never stopped, each piece by itself', () => {
  const o = { aov: ['albedo', 'part', 'lights', 'lobes', 'cost'], lights: 3, squares: true }
  const film = createFilm(150, 70, o)
  const other = createFilm(150, 70, o)
  let n = 0
  for (const a of [
    film.sum,
    film.square,
    film.normal,
    film.part,
    film.cost,
    ...film.lights,
    ...film.lobes,
    ...Object.values(film.aov),
  ])
    for (let i = 0; i < a.length; i++) a[i] = (n++ * 7919) % 1013
  const pieces = Array.from({ length: pieceCount(150, 70) }, (_, p) => p)
  // every tile is in one piece: 10 × 5 tiles, 3 × 2 pieces of 4 × 4
  expect(pieces).toHaveLength(6)
  expect(pieces.flatMap(p => tilesOfPiece(150, 70, p)).sort((a, b) => a - b)).toEqual(
    Array.from({ length: 50 }, (_, t) => t),
  )
  for (const p of pieces) unpackPiece(other, p, packPiece(film, p), 5 + p, 1)
  for (const key of ['sum', 'square', 'normal', 'part', 'cost', 'lights', 'lobes', 'aov'] as const)
    expect(other[key]).toEqual(film[key])
  // what a film takes is known before it is made: per pixel 3 + 1 + 9 + 21 + 3 + 1 + 1 doubles, a part and a normal
  expect(filmBytes(150, 70, o)).toBe(150 * 70 * (39 * 8 + 16) + 50 * 5 * 4 + 3 * 24 + 4)
  expect([3, 4, 49].map(t => tilePasses(other, t, 1))).toEqual([5, 6, 10])
  expect(tilePasses(other, 3, 2)).toBe(0)
  expect(() => unpackPiece(createFilm(150, 70), 0, packPiece(film, 0), 5, 1)).toThrow(RangeError)
  expect(() => unpackPiece(other, 2, packPiece(film, 0), 5, 1)).toThrow(RangeError)
  expect(() => unpackPiece(other, 6, packPiece(film, 5), 5, 1)).toThrow(RangeError)
})

it('the locks of a worker that was given up are opened, and nobody else’s', () => {
  const film = createFilm(48, 16)
  film.tiles[0] = lockOf(0)
  film.tiles[TILE_STATE.words] = lockOf(1)
  lockTile(film, 2)
  openLocks(film, 1)
  expect([0, 1, 2].map(t => film.tiles[t * TILE_STATE.words])).toEqual([lockOf(0), 0, 1])
  unlockTile(film, 2)
  expect(film.tiles[2 * TILE_STATE.words]).toBe(0)
})
