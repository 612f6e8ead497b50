import { BATCH } from './film'

/** First-hit values of a tile's pixels for guides and AOVs. */
export interface FirstHits {
  albedo: Float64Array
  normal: Float64Array
  position: Float64Array
  depth: Float64Array
  part: Int32Array
}

export const createFirstHits = (): FirstHits => ({
  albedo: new Float64Array(BATCH * 3),
  normal: new Float64Array(BATCH * 3),
  position: new Float64Array(BATCH * 3),
  depth: new Float64Array(BATCH),
  part: new Int32Array(BATCH),
})
