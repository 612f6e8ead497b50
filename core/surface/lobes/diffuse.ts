/** Lambertian reflection. */
import { accumulate } from '../accumulate'
import { drawCosine } from '../cosine-draw'
import { PASSAGE } from '../lobe'
import { memory, now } from '../memory'
import { newLobe } from '../open-lobe'
import { ASK, FACET, LOBE, SPEC } from '../slots'
import { setSpec } from '../spec'
import { always, noted, nothing } from '../traits'
import { KIND } from './kinds'

const { ask, facet, lobes, spec } = memory

/** Reflectance (r, g, b). */
export function pushDiffuse(
  layer: number,
  r: number,
  g: number,
  b: number,
  nx: number,
  ny: number,
  nz: number,
): void {
  setSpec(r, g, b, 1, 1, nx, ny, nz)
  pushDiffuseSpec(layer)
}

/** {@link pushDiffuse} with reflectance and normal in `memory.spec`. */
export function pushDiffuseSpec(layer: number): void {
  spec[SPEC.alpha] = 1
  spec[SPEC.eta] = 1
  const o = newLobe(KIND.diffuse, layer)
  if (o < 0) return
  lobes[o + LOBE.norm] = 1
  lobes[o + LOBE.albedo] = 1
}

export const passage = PASSAGE.far
export const answers = always
export const straight = nothing
export { noted as albedo, noted as pick, noted as guide }
export const roughness: (o: number) => number = () => 1

export function evaluate(o: number): void {
  const ci = facet[FACET.light]!
  if (!now.reflected || ci <= 0) return
  const f = ci / Math.PI
  ask[ASK.pdf] = f
  ask[ASK.factor] = f
  accumulate(o)
}

export const sample = (o: number): boolean => drawCosine(o, false)
