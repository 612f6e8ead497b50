/**
 * What rough diffuse facets reflect again and again between them (Portsmouth, Kutz & Hill 2024):
 * (1 − E(µo))(1 − E(µi))/(π(1 − Ē)).
 */
import { accumulate } from '../accumulate'
import { drawCosine } from '../cosine-draw'
import { PASSAGE } from '../lobe'
import { memory, now } from '../memory'
import { newLobe } from '../open-lobe'
import { roughDiffuseAlbedo } from '../rough-diffuse'
import { ASK, CLASS, FACET, LOBE } from '../slots'
import { setSpec } from '../spec'
import { always, noted, nothing, rootAlpha } from '../traits'
import { KIND } from './kinds'

const { ask, facet, lobes } = memory

/** (1 − E(µo))/(1 − Ē). */
const SCALE = LOBE.eta

/** @returns its offset, weights to be filled; −1 where there is no room */
export function pushAgainDiffuse(
  layer: number,
  rough: number,
  E: number,
  average: number,
  nx: number,
  ny: number,
  nz: number,
): number {
  setSpec(1, 1, 1, 1, 1, nx, ny, nz)
  const a = newLobe(KIND['again-diffuse'], layer)
  if (a < 0) return -1
  lobes[a + LOBE.alpha] = rough
  lobes[a + SCALE] = (1 - E) / Math.max(1e-6, 1 - average)
  lobes[a + LOBE.norm] = 1
  lobes[a + LOBE.albedo] = 1 - E
  lobes[a + LOBE.class] = CLASS.diffuse
  return a
}

export const passage = PASSAGE.far
export const answers = always
export const straight = nothing
export { noted as albedo, noted as pick, noted as guide, rootAlpha as roughness }

export function evaluate(o: number): void {
  const ci = facet[FACET.light]!
  if (!now.reflected || ci <= 0) return
  const cosine = Math.abs(ci) / Math.PI
  ask[ASK.pdf] = cosine
  ask[ASK.factor] = cosine * lobes[o + SCALE]! * (1 - roughDiffuseAlbedo(ci, lobes[o + LOBE.alpha]!))
  accumulate(o)
}

export const sample = (o: number): boolean => drawCosine(o, false)
