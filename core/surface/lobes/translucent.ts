/** Lambertian passage through a thin sheet to its other side. */
import { accumulateThrough } from '../accumulate'
import { drawCosine } from '../cosine-draw'
import { PASSAGE } from '../lobe'
import { memory, now } from '../memory'
import { openFar } from '../open-lobe'
import { ASK, CLASS, FACET } from '../slots'
import { setSpec } from '../spec'
import { always, noted, nothing, rootAlpha } from '../traits'
import { KIND } from './kinds'

const { ask, facet } = memory

/** Transmittance (r, g, b). */
export function pushTranslucent(
  layer: number,
  r: number,
  g: number,
  b: number,
  nx: number,
  ny: number,
  nz: number,
): void {
  setSpec(r, g, b, 1, 1, nx, ny, nz)
  openFar(KIND.translucent, layer, CLASS.transmission)
}

export const passage = PASSAGE.far
export const answers = always
export const behind = true
export const straight = nothing
export { noted as albedo, noted as pick, noted as guide, rootAlpha as roughness }

export function evaluate(o: number): void {
  const ci = facet[FACET.light]!
  if (now.reflected || ci >= 0) return
  const cosine = Math.abs(ci) / Math.PI
  ask[ASK.pdf] = cosine
  ask[ASK.factor] = cosine
  accumulateThrough(o, false)
}

export const sample = (o: number): boolean => drawCosine(o, true)
