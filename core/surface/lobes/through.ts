/** What passes an opening straight. */
import { accumulateThrough } from '../accumulate'
import { passWhole } from '../cosine-draw'
import { PASSAGE, UNDER_COAT } from '../lobe'
import { memory, now, scattered } from '../memory'
import { openFar } from '../open-lobe'
import { ASK, CLASS } from '../slots'
import { setSpec } from '../spec'
import { never, noted, nothing, rootAlpha } from '../traits'
import { KIND } from './kinds'

const { ask } = memory

/** @param weight share of the surface that is open */
export function pushThrough(weight: number): void {
  setSpec(weight, weight, weight, 0, 1, now.gx, now.gy, now.gz)
  openFar(KIND.through, -1, CLASS.transmission)
}

export const passage = PASSAGE.far
export const underCoat = UNDER_COAT.passes
export const answers = never
export const evaluate = nothing
export { noted as albedo, noted as pick, noted as guide, rootAlpha as roughness }

export function sample(o: number): boolean {
  scattered.x = -now.ox
  scattered.y = -now.oy
  scattered.z = -now.oz
  return passWhole(o)
}

export function straight(o: number): void {
  ask[ASK.factor] = 1
  accumulateThrough(o, false)
}
