/** Files of tiles in the browser's private file system, read by workers while the loader appends to them. */
import type { TileReader } from '../core/maps/paging'

/** What of a handle is used; `mode` is not in the library's types yet. */
interface TileHandle {
  mode?: string
  read(into: Uint8Array<ArrayBuffer>, options: { at: number }): number
  write(bytes: Uint8Array, options: { at: number }): number
  close(): void
}
interface TileFile {
  createSyncAccessHandle(options: { mode: string }): Promise<TileHandle>
}

const readers = new Map<string, TileReader>()

/**
 * Opens a handle that others may have open too.
 * @throws where the browser knows of no such handles
 */
export async function openHandle(file: string, create: boolean): Promise<TileHandle> {
  const folder = await navigator.storage.getDirectory()
  const found = (await folder.getFileHandle(file, { create })) as unknown as TileFile
  const handle = await found.createSyncAccessHandle({ mode: 'readwrite-unsafe' })
  if (handle.mode === 'readwrite-unsafe') return handle
  handle.close()
  throw new Error('this browser opens a file of tiles in one thread alone')
}

/** Reads through a handle; by a buffer of its own, as handles do not write into shared memory. */
export function readerThrough(handle: TileHandle): TileReader {
  let buffer = new Uint8Array(0)
  return {
    read(at, into) {
      if (buffer.length !== into.length) buffer = new Uint8Array(into.length)
      if (handle.read(buffer, { at }) !== into.length) throw new Error('the file of tiles ends too early')
      into.set(buffer)
    },
  }
}

/** Opens a file in this thread; one that cannot be opened has no reader: its maps begin with coarser levels. */
export async function openTiles(file: string): Promise<void> {
  if (readers.has(file)) return
  const handle = await openHandle(file, false).catch(() => undefined)
  if (handle) readers.set(file, readerThrough(handle))
}

/** Reader of a file that was opened. */
export const tilesOf = (file: string): TileReader | undefined => readers.get(file)
