import type { TextureMap } from '../core/maps/map'
import type { Texture } from '../core/maps/texture'
import { triangleEdges } from '../core/render/triangle-edges'
import type { Geometry } from '../core/scene/geometry'
import { profileAlong } from './profile'
import type { FromWorker, ToWorker } from './protocol'

/** Answers what a page asks of the geometry alone. @param open opens the maps that programs look up */
export function answerTo(
  message: Extract<ToWorker, { kind: 'profile' | 'edges' }>,
  geometry: Geometry,
  open?: (map: TextureMap) => Texture,
): FromWorker {
  if (message.kind === 'profile') return { kind: 'profile', ...profileAlong(geometry, message.request, open) }
  const { id, camera, width, height, rows, triangles } = message.request
  const meant = geometry.part.length === triangles
  return { kind: 'edges', id, lines: meant ? triangleEdges(geometry, camera, width, height, rows) : null }
}
