import type { TextureMap } from '../core/maps/map'
import type { ToWorker } from './protocol'

/** Maps that a message brings. */
function mapsIn(message: ToWorker): readonly (TextureMap | null)[] {
  switch (message.kind) {
    case 'world':
      return message.world.maps.flat()
    case 'change':
      return message.change.materials.flatMap(m => m.maps)
    case 'map':
      return [message.map]
    case 'swatch':
      return message.request.maps
    case 'profile':
      return message.request.programs.flatMap(p => p.maps)
    default:
      return []
  }
}

/** Names of the files that tiles of a message's maps are kept in. */
export const tileFilesIn = (message: ToWorker): Set<string> =>
  new Set(mapsIn(message).flatMap(m => (m?.paging ? [m.paging.file] : [])))
