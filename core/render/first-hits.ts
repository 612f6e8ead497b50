import { POINT } from '../point/slots'
import { surfaceAlbedo } from '../surface/finish'
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

/**
 * Keeps what a path sees, the surface under way, for its pixel.
 * @param eyes where it is seen from: three numbers from e on
 */
export function keepFirst(first: FirstHits, path: number, S: Float64Array, eyes: Float64Array, e: number): void {
  const o = path * 3
  first.part[path] = S[POINT.part]!
  first.depth[path] = Math.sqrt(
    (S[POINT.position]! - eyes[e]!) ** 2 +
      (S[POINT.position + 1]! - eyes[e + 1]!) ** 2 +
      (S[POINT.position + 2]! - eyes[e + 2]!) ** 2,
  )
  for (let j = 0; j < 3; j++) {
    first.normal[o + j] = S[POINT.normal + j]!
    first.position[o + j] = S[POINT.position + j]!
  }
  surfaceAlbedo(first.albedo, o)
}

/** A path goes on through an opening: what it saw there is not what the camera sees. */
export function forgetFirst(first: FirstHits, path: number): void {
  const o = path * 3
  first.part[path] = -1
  first.depth[path] = 0
  for (let j = 0; j < 3; j++) {
    first.albedo[o + j] = 0
    first.normal[o + j] = 0
    first.position[o + j] = 0
  }
}
