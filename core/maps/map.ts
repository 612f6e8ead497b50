/**
 * Pictures of materials as maps: a pyramid of levels, each half as large as the one before, in tiles of 64 × 64
 * pixels. A map is plain data over memory that threads share: it is there once for all of them, and sending it costs
 * nothing.
 *
 * The finest level is kept as its file has it (bytes, 16 bits, halves or floats, one, three or four channels). Of one
 * in bytes the next level has bytes too, as half of all memory would be in it otherwise; coarser ones have 16 bits,
 * linear, and are averaged from what was not rounded. Tiles never change: an edit writes new ones into
 * free slots, and a new table that points to them (`edit.ts`). Which table counts is said with the work that it is
 * for, so that no pass sees two of them. Of a map that is too large for memory, tiles of the finer levels come from a
 * file as they are asked for (`paging.ts`).
 */
import { BYTES } from './formats'
import type { Paging } from './paging'
import { LEVEL, TILED } from './slots'
import { countOf, entriesOf } from './tiles'

/** Tables that are kept beside the one that counts: work that began with one of them ends with it. */
export const TABLES = 8

/** A decoded picture as maps are made of: RGBA, row 0 at the top (v = 1). */
export interface MapSource {
  width: number
  height: number
  /** Bytes as the file has them; or floats, linear in the space's primaries. */
  data: Uint8Array | Uint8ClampedArray | Float32Array
  /** What the floats were in the file, where that was less: they are kept as that. */
  depth?: 'half' | 'sixteen'
}

export interface TextureMap {
  /** By which threads know it again; empty where it is nobody else's. */
  id: string
  width: number
  height: number
  channels: 1 | 3 | 4
  /** Colour space of the finest level's bytes. */
  space: string
  /** How many of the finest levels are in their format, and the format of the others. */
  fineLevels: number
  fine: number
  coarse: number
  /** Levels, finest first, see LEVEL. */
  levels: Int32Array
  /** Slots of the tiles of levels in the first format, and of all others. */
  fineTiles: ArrayBufferLike
  coarseTiles: ArrayBufferLike
  /** {@link TABLES} tables in turn: the slot of every tile, level by level. */
  tables: ArrayBufferLike
  /** How many tables there were before the one that counts. */
  version: number
  /** Where its finer levels are, if they are not all there (`paging.ts`); it has one table then, and no edits. */
  paging?: Paging
}

export type AllocateMap = (bytes: number) => ArrayBufferLike

/** Entries of the levels before one. */
export const entriesBefore = (levels: Int32Array, level: number): number =>
  level < countOf(levels) ? levels[level * LEVEL.stride + LEVEL.first]! : entriesOf(levels)

/** Bytes of a tile. */
export const slotBytesOf = (format: number, channels: number): number => TILED.area * channels * BYTES[format]!

/** A rectangle of pixels: left, top, and where it ends. */
export type Box = readonly [x0: number, y0: number, x1: number, y1: number]

/** The newest table. */
export const tableOf = (map: TextureMap): Int32Array => {
  const entries = entriesOf(map.levels)
  return new Int32Array(map.tables, (map.version % TABLES) * entries * 4, entries)
}

/** Bytes that a map takes. */
export const bytesOf = (map: TextureMap): number =>
  map.fineTiles.byteLength +
  map.coarseTiles.byteLength +
  map.tables.byteLength +
  (map.paging?.state.byteLength ?? 0)
