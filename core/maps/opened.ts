import type { TextureMap } from './map'
import { openMap, showVersion, type ReaderOf, type Texture } from './texture'

/** The maps that a thread has opened, each once. */
export interface OpenedMaps {
  /** The opened map; by the table that was last shown, where it is known already. */
  open(map: TextureMap): Texture
  /** A map was edited: from the next {@link turn} on it is looked up by its newest table. */
  edited(map: TextureMap): void
  /** Work begins that sees all edits. */
  turn(): void
  /** Closes maps that are not among these. */
  keep(maps: Iterable<TextureMap | null>): void
}

/** @param readerOf where tiles that are kept in files are read */
export function createOpenedMaps(readerOf?: ReaderOf): OpenedMaps {
  const opened = new Map<string, Texture>()
  const news = new Map<string, TextureMap>()
  return {
    open(map) {
      const known = map.id ? opened.get(map.id) : undefined
      if (known) return known
      const texture = openMap(map, readerOf)
      if (map.id) opened.set(map.id, texture)
      return texture
    },
    edited: map => void news.set(map.id, map),
    turn() {
      for (const [id, map] of news) {
        const texture = opened.get(id)
        if (texture) showVersion(texture, map)
      }
      news.clear()
    },
    keep(maps) {
      const ids = new Set<string>()
      for (const map of maps) if (map) ids.add(map.id)
      for (const id of opened.keys()) if (!ids.has(id)) opened.delete(id)
    },
  }
}
