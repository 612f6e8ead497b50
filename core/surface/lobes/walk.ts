/** Scattering below the surface by a random walk through a medium. Here light goes in; `render/media.ts` walks. */
import { drawCosine, passWhole } from '../cosine-draw'
import { PASSAGE } from '../lobe'
import { memory, now } from '../memory'
import { openFar, openLobe } from '../open-lobe'
import { CHANNELS, CLASS, LOBE } from '../slots'
import { setSpec } from '../spec'
import { spread } from '../spread'
import { never, noted, nothing, rootAlpha } from '../traits'
import { KIND } from './kinds'

const { below, belowAlbedo, lobes } = memory

/**
 * A medium that looks of colour (r, gr, b) when it is endless and thick. Where light leaves that walked below, what
 * it leaves through is a diffuse lobe.
 *
 * Single-scattering albedo from the colour: Kulla & Conty 2017 (§ on volumes), a fit to van de Hulst's similarity
 * relation, as OpenPBR Surface 1.1 ("Subsurface") has it: s = 4.09712 + 4.20863·C − √(9.59217 + 41.6808·C +
 * 17.7126·C²), ϖ = (1 − s²)/(1 − g·s²); checked against the half-space albedo of Chandrasekhar's H in the
 * test.
 * @param dr mean free path of each component, metres, with dg and db
 * @param g mean cosine, −1..1
 */
export function pushWalk(
  layer: number,
  weight: number,
  r: number,
  gr: number,
  b: number,
  dr: number,
  dg: number,
  db: number,
  g: number,
  nx: number,
  ny: number,
  nz: number,
): void {
  if (now.leaving) {
    if (!(weight > 0)) return
    setSpec(weight, weight, weight, 1, 1, nx, ny, nz)
    const o = openLobe(KIND.diffuse, layer)
    if (o >= 0) {
      lobes[o + LOBE.albedo] = 1
      lobes[o + LOBE.class] = CLASS.subsurface
    }
    return
  }
  setSpec(weight, weight, weight, 1, 1, nx, ny, nz)
  const o = openFar(KIND.walk, layer, CLASS.subsurface)
  if (o < 0) return
  lobes[o + LOBE.albedo] = Math.max(0.05, (r + gr + b) / 3)
  spread(belowAlbedo, 0, r, gr, b)
  spread(below, 0, dr, dg, db)
  for (let k = 0; k < CHANNELS; k++) {
    const C = belowAlbedo[k]!
    const s = Math.max(0, 4.09712 + 4.20863 * C - Math.sqrt(9.59217 + 41.6808 * C + 17.7126 * C * C))
    const s2 = s * s
    belowAlbedo[k] = Math.min(1, Math.max(0, (1 - s2) / (1 - g * s2)))
    below[k] = 1 / Math.max(1e-7, below[k]!)
  }
  now.belowG = Math.max(-0.99, Math.min(0.99, g))
}

export const passage = PASSAGE.walk
export const answers = never
export const evaluate = nothing
export const straight = nothing
export { noted as albedo, noted as pick, noted as guide, rootAlpha as roughness }

export const sample = (o: number): boolean => drawCosine(o, true) && passWhole(o)
