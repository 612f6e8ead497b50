/**
 * Fuzz of small fibres on the surface (Zeltner, Burley & Chiang 2022), by the fits of `fuzz.ts` beside this folder.
 */
import { accumulate } from '../accumulate'
import { CIRCLE, onCircle } from '../circle'
import { towardsViewer } from '../frame'
import { fuzzA, fuzzAlbedo, fuzzB } from '../fuzz'
import { PASSAGE } from '../lobe'
import { memory, now, scattered } from '../memory'
import { newLobe } from '../open-lobe'
import { ASK, FACET, LOBE } from '../slots'
import { setSpec } from '../spec'
import { always, noted, nothing, rootAlpha } from '../traits'
import { KIND } from './kinds'

const { ask, facet, lobes, towards } = memory

/** @param roughness 0..1 */
export function pushFuzz(
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
  setSpec(weight * r, weight * g, weight * b, 1, 1, nx, ny, nz)
  const o = newLobe(KIND.fuzz, layer)
  if (o < 0) return
  lobes[o + LOBE.alpha] = roughness
  lobes[o + LOBE.albedo] = fuzzAlbedo(lobes[o + LOBE.cosine]!, roughness)
}

export const passage = PASSAGE.far
export const answers = always
export const straight = nothing
export { noted as albedo, noted as pick, noted as guide, rootAlpha as roughness }

export function evaluate(o: number): void {
  const ci = facet[FACET.light]!
  if (!now.reflected || ci <= 0) return
  const ix = ask[ASK.x]!
  const iy = ask[ASK.y]!
  const iz = ask[ASK.z]!
  const y = lobes[o + LOBE.alpha]!
  const x = lobes[o + LOBE.cosine]!
  const A = fuzzA(x, y)
  const B = fuzzB(x, y)
  towardsViewer(o)
  const wx = A * (ix * towards[0]! + iy * towards[1]! + iz * towards[2]!) + B * ci
  const wy = A * (ix * towards[3]! + iy * towards[4]! + iz * towards[5]!)
  const l2 = wx * wx + wy * wy + ci * ci
  const p = (A * A * ci) / (Math.PI * l2 * l2)
  ask[ASK.pdf] = p
  ask[ASK.factor] = p * lobes[o + LOBE.albedo]!
  accumulate(o)
}

export function sample(o: number): boolean {
  const u = ask[ASK.u]!
  onCircle(ask[ASK.v]!)
  const r = Math.sqrt(u)
  const z = Math.sqrt(Math.max(0, 1 - u))
  const x = r * CIRCLE[0]!
  const y = r * CIRCLE[1]!
  const rough = lobes[o + LOBE.alpha]!
  const co = lobes[o + LOBE.cosine]!
  const A = fuzzA(co, rough)
  const B = fuzzB(co, rough)
  towardsViewer(o)
  let wx = (x - z * B) / A
  let wy = y / A
  let wz = z
  const l = 1 / Math.sqrt(wx * wx + wy * wy + wz * wz)
  wx *= l
  wy *= l
  wz *= l
  scattered.x = towards[0]! * wx + towards[3]! * wy + lobes[o + LOBE.nx]! * wz
  scattered.y = towards[1]! * wx + towards[4]! * wy + lobes[o + LOBE.ny]! * wz
  scattered.z = towards[2]! * wx + towards[5]! * wy + lobes[o + LOBE.nz]! * wz
  return scattered.x * now.gx + scattered.y * now.gy + scattered.z * now.gz > 0
}
