/** Files of tiles on disk. */
import { openSync, readSync } from 'node:fs'
import type { TileReader } from '../core/maps/paging'

const readers = new Map<string, TileReader>()

/** Reader of a file; it is opened when it is first asked for. @throws where there is none */
export function tilesOf(file: string): TileReader {
  let reader = readers.get(file)
  if (reader) return reader
  const handle = openSync(file, 'r')
  reader = {
    read(at, into) {
      if (readSync(handle, into, 0, into.length, at) !== into.length)
        throw new Error(`the file of tiles ${file} ends too early`)
    },
  }
  readers.set(file, reader)
  return reader
}
