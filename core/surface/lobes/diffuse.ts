/** Lambertian reflection. */
import { accumulate } from '../accumulate'
import { drawCosine } from '../cosine-draw'
import { PASSAGE } from '../lobe'
import { memory, now } from '../memory'
import { newLobe } from '../open-lobe'
import { backFromNeighbours, isTilted } from '../sawtooth'
import { ASK, CHANNELS, FACET, LOBE, SPEC } from '../slots'
import { setSpec } from '../spec'
import { always, noted, nothing } from '../traits'
import { KIND } from './kinds'

const { ask, facet, lobes, once: back, spec } = memory

/** Reflectance (r, g, b), times the share of the surface. */
export function pushDiffuse(
  layer: number,
  r: number,
  g: number,
  b: number,
  nx: number,
  ny: number,
  nz: number,
  share = 1,
): void {
  setSpec(r, g, b, 1, 1, nx, ny, nz)
  pushDiffuseSpec(layer, share)
}

/** {@link pushDiffuse} with reflectance and normal in `memory.spec`. */
export function pushDiffuseSpec(layer: number, share = 1): void {
  spec[SPEC.alpha] = 1
  spec[SPEC.eta] = 1
  const o = newLobe(KIND.diffuse, layer)
  if (o < 0) return
  lobes[o + LOBE.norm] = 1
  lobes[o + LOBE.albedo] = 1
  if (isTilted()) pushNeighbours(o, layer, share)
}

/**
 * Pushes what the neighbours of relief send back of the light that the diffuse lobe at o, just pushed, sends below the
 * horizon.
 * @param share of the surface that the lobe is; @param part of that light which counts
 */
export function pushNeighbours(o: number, layer: number, share: number, part = 1): void {
  for (let k = 0; k < CHANNELS; k++)
    back[k] = share * part * backFromNeighbours(lobes[o + LOBE.weight + k]! / share)
  const { gx, gy, gz } = now
  setSpec(1, 1, 1, 1, 1, gx, gy, gz)
  const b = newLobe(KIND.diffuse, layer)
  if (b < 0) return
  for (let k = 0; k < CHANNELS; k++) lobes[b + LOBE.weight + k] = back[k]!
  lobes[b + LOBE.norm] = 1
  lobes[b + LOBE.albedo] = 1
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
