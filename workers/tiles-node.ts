/** Files of tiles on disk. */
import { openSync, readSync } from 'node:fs'
import type { TileReader } from '../core/maps/paging'

const readers = new Map<string, TileReader>()

/** Fills bytes from a place of an open file on. @throws where it ends before they are full */
export function readTile(handle: number, at: number, into: Uint8Array): void {
  if (readSync(handle, into, 0, into.length, at) !== into.length)
    throw new Error('the file of tiles ends too early')
}

/** Reader of a file; it is opened when it is first asked for. @throws where there is none */
export function tilesOf(file: string): TileReader {
  let reader = readers.get(file)
  if (!reader) {
    const handle = openSync(file, 'r')
    reader = { read: (at, into) => readTile(handle, at, into) }
    readers.set(file, reader)
  }
  return reader
}
