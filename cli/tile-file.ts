import { closeSync, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { TileReader, TileStore } from '../core/maps/paging'
import { readTile } from '../workers/tiles-node'

/** Bytes that are written at a time. */
const STRETCH = 2 ** 26

export type TileFile = TileStore & TileReader & { close(): void }

/** A file for tiles of maps. It is made when the first of them comes, and goes with the process at the latest. */
export function createTileFile(): TileFile {
  let folder = ''
  let handle = -1
  let end = 0
  const close = () => {
    if (handle >= 0) closeSync(handle)
    if (folder) rmSync(folder, { recursive: true, force: true })
    folder = ''
    handle = -1
    process.off('exit', close)
  }
  function open(): void {
    folder = mkdtempSync(join(tmpdir(), 'wavelume-tiles-'))
    handle = openSync(join(folder, 'tiles'), 'wx+')
    process.once('exit', close)
  }
  return {
    get file() {
      return join(folder, 'tiles')
    },
    append(bytes) {
      if (handle < 0) open()
      const at = end
      while (end < at + bytes.length)
        end += writeSync(handle, bytes, end - at, Math.min(STRETCH, at + bytes.length - end), end)
      return at
    },
    read: (at, into) => readTile(handle, at, into),
    close,
  }
}
