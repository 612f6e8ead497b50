import type { Level, TileBox } from '../core/render/film'
import type { FirstHits } from '../core/render/first-hits'
import type { RenderScene } from '../core/world/render-scene'

/** Bounces, and steps in matter, of a coarse picture: enough for the look, a fraction of the cost. */
const COARSE = { opaque: 1, specular: 8, steps: 400 }

/** A scene as coarse pictures see it, which are thrown away. */
export const coarsely = (scene: RenderScene): RenderScene => ({
  ...scene,
  maxOpaque: Math.min(COARSE.opaque, scene.maxOpaque),
  maxSpecular: Math.min(COARSE.specular, scene.maxSpecular),
  maxSteps: COARSE.steps,
  hasty: true,
})

/** Place of a tile's pixel among those of its level. */
export const placeInLevel = ({ width }: Level, { x0, y0, w }: TileBox, i: number): number =>
  (y0 + Math.floor(i / w)) * width + x0 + (i % w)

/** Writes a tile of a coarse picture into its level. @param wanted pixels that it has; null for all of them */
export function keepCoarse(
  level: Level,
  box: TileBox,
  rgb: Float64Array,
  hits: FirstHits,
  wanted: Uint8Array | null,
): void {
  for (let i = 0; i < box.w * box.h; i++) {
    if (wanted && wanted[i] === 0) continue
    const o = placeInLevel(level, box, i)
    for (let k = 0; k < 3; k++) {
      level.rgb[o * 3 + k] = rgb[i * 3 + k]!
      level.normal[o * 3 + k] = hits.normal[i * 3 + k]!
    }
    level.part[o] = hits.part[i]!
    level.depth[o] = hits.depth[i]!
  }
}
