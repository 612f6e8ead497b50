import { expect, it } from 'vitest'
import {
  createFilm,
  lockOf,
  lockTile,
  openLocks,
  packSums,
  TILE_STATE,
  tilePasses,
  unlockTile,
  unpackSums,
} from './film'

it('sums go on from bytes as if they had never stopped', () => {
  const o = { aov: ['albedo', 'part', 'lights', 'lobes', 'cost'], lights: 3, squares: true }
  const film = createFilm(20, 18, o)
  const other = createFilm(20, 18, o)
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
  unpackSums(other, packSums(film), 5, 1)
  for (const key of ['sum', 'square', 'normal', 'part', 'cost', 'lights', 'lobes', 'aov'] as const)
    expect(other[key]).toEqual(film[key])
  expect(tilePasses(other, 3, 1)).toBe(5)
  expect(tilePasses(other, 3, 2)).toBe(0)
  expect(() => unpackSums(createFilm(20, 18), packSums(film), 5, 1)).toThrow(RangeError)
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
