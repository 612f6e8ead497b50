/** Small pictures of one node's output or of a material. */
import { TILE } from '../core/render/film'
import { renderTile } from '../core/render/integrate'
import type { Tracer } from '../core/render/tracer'
import type { Material, RenderScene } from '../core/world/render-scene'
import type { SwatchRequest } from './protocol'

/**
 * Mean of the passes that are asked for, with one part wearing a material.
 * @param tile room for a tile's samples
 */
export function renderSwatch(
  tracer: Tracer,
  scene: RenderScene,
  material: Material,
  r: SwatchRequest,
  tile: Float64Array,
): Float32Array {
  const materialOf = scene.materialOf.slice()
  materialOf[r.part] = scene.materials.length
  const own: RenderScene = {
    ...scene,
    materials: [...scene.materials, material],
    materialOf,
    camera: r.camera,
    hasty: true,
    maxOpaque: 2,
    maxSpecular: 6,
  }
  const rgb = new Float32Array(r.size * r.size * 3)
  for (let pass = r.from; pass < r.from + r.passes; pass++)
    for (let y0 = 0; y0 < r.size; y0 += TILE)
      for (let x0 = 0; x0 < r.size; x0 += TILE) {
        const w = Math.min(TILE, r.size - x0)
        const h = Math.min(TILE, r.size - y0)
        renderTile(tracer, own, x0, y0, w, h, r.size, r.size, pass, 7, tile, null)
        for (let i = 0; i < w * h; i++)
          for (let k = 0; k < 3; k++)
            rgb[((y0 + Math.floor(i / w)) * r.size + x0 + (i % w)) * 3 + k]! += tile[i * 3 + k]! / r.passes
      }
  return rgb
}
