/** The file that this page's maps keep tiles in that do not fit into memory. */
import type { TileReader, TileStore } from '../../core/maps/paging'
import { openHandle, readerThrough } from '../../workers/tiles-browser'

const PREFIX = 'tiles-'

/** Files of pages that are gone: those that another page has open cannot be removed. */
async function removeLeftOver(): Promise<void> {
  const folder = await navigator.storage.getDirectory()
  // keys() is not in the library's types yet
  const { keys } = folder as unknown as { keys(): AsyncIterable<string> }
  for await (const name of keys.call(folder))
    if (name.startsWith(PREFIX)) await folder.removeEntry(name).catch(() => undefined)
}

/** @returns undefined where the browser cannot keep such a file */
export async function createTileStore(): Promise<(TileStore & TileReader) | undefined> {
  try {
    await removeLeftOver()
    const file = PREFIX + crypto.randomUUID()
    const handle = await openHandle(file, true)
    let end = 0
    return {
      ...readerThrough(handle),
      file,
      append(bytes) {
        const at = end
        if (handle.write(bytes, { at }) !== bytes.length) throw new Error('there is no room for tiles of maps')
        end += bytes.length
        return at
      },
    }
  } catch {
    return undefined
  }
}
