/**
 * Energy-preserving rough diffuse reflection (Portsmouth, Kutz & Hill 2024, "EON"): light reflected once. What is
 * reflected again and again between the facets is a lobe of its own, `again-diffuse.ts`, pushed with it.
 */
import { accumulate } from '../accumulate'
import { again } from '../again'
import { drawCosine } from '../cosine-draw'
import { PASSAGE } from '../lobe'
import { memory, now } from '../memory'
import { newLobe } from '../open-lobe'
import { roughDiffuseAlbedo, roughDiffuseAverage, roughDiffuseShape } from '../rough-diffuse'
import { ASK, CHANNELS, CLASS, FACET, LOBE } from '../slots'
import { isTilted } from '../sawtooth'
import { setSpec } from '../spec'
import { always, noted, nothing, rootAlpha } from '../traits'
import { pushAgainDiffuse } from './again-diffuse'
import { pushDiffuse, pushNeighbours } from './diffuse'
import { KIND } from './kinds'

const { ask, facet, lobes } = memory

/** @param weight share of the surface; r, g, b reflectance; roughness 0..1 */
export function pushRoughDiffuse(
  layer: number,
  weight: number,
  r: number,
  g: number,
  b: number,
  roughness: number,
  nx: number,
  ny: number,
  nz: number,
): void {
  if (!(roughness > 0)) {
    pushDiffuse(layer, weight * r, weight * g, weight * b, nx, ny, nz, weight)
    return
  }
  setSpec(weight * r, weight * g, weight * b, 1, 1, nx, ny, nz)
  const o = newLobe(KIND['rough-diffuse'], layer)
  const rough = Math.min(1, roughness)
  if (o < 0) return
  const E = roughDiffuseAlbedo(lobes[o + LOBE.cosine]!, rough)
  const average = roughDiffuseAverage(rough)
  lobes[o + LOBE.alpha] = rough
  lobes[o + LOBE.norm] = 1
  lobes[o + LOBE.albedo] = E
  lobes[o + LOBE.class] = CLASS.diffuse
  const a = pushAgainDiffuse(layer, rough, E, average, nx, ny, nz)
  if (a < 0) return
  for (let k = 0; k < CHANNELS; k++) {
    const rho = weight > 0 ? lobes[o + LOBE.weight + k]! / weight : 0
    lobes[a + LOBE.weight + k] = again(weight, rho, average)
  }
  // rough matter sends more of its light back to where it came from, and less below the horizon: a fit, by which none
  // is gained from wherever it is seen
  if (isTilted()) pushNeighbours(o, layer, weight, 1 - 0.75 * rough)
}

export const passage = PASSAGE.far
export const answers = always
export const straight = nothing
export { noted as albedo, noted as pick, noted as guide, rootAlpha as roughness }

export function evaluate(o: number): void {
  const ci = facet[FACET.light]!
  if (!now.reflected || ci <= 0) return
  const d = ask[ASK.x]! * now.ox + ask[ASK.y]! * now.oy + ask[ASK.z]! * now.oz
  const cosine = Math.abs(ci) / Math.PI
  ask[ASK.pdf] = cosine
  ask[ASK.factor] = cosine * roughDiffuseShape(ci, lobes[o + LOBE.cosine]!, d, lobes[o + LOBE.alpha]!)
  accumulate(o)
}

export const sample = (o: number): boolean => drawCosine(o, false)
