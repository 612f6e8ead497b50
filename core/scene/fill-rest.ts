/** A hit where it was before its part was displaced, in the part's own space. */
import { POINT } from '../point/slots'
import { RATE } from './fill-rates'
import { fillOwnNormal } from './fill-space'
import type { Attributes } from './geometry'
import { memory } from './memory'

const { rates } = memory

/** Of a part that was not displaced, or whose vertices before are not known. */
export function fillNoRest(S: Float64Array): void {
  S[POINT.displaced] = 0
  for (let k = 0; k < 3; k++) {
    S[POINT.restPosition + k] = S[POINT.objectPosition + k]!
    S[POINT.restNormal + k] = S[POINT.objectNormal + k]!
  }
}

/**
 * Of a part that was displaced, at barycentric u, v. Its own space is laid already (`fill-space.ts`).
 * @param a place of the first corner's numbers before, in vertices; b, d of the others
 * @param m first word of the way to the part's own space
 */
export function fillRest(
  { restPosition, restNormal, spaces }: Attributes,
  a: number,
  b: number,
  d: number,
  u: number,
  v: number,
  m: number,
  S: Float64Array,
): void {
  S[POINT.displaced] = 1
  for (let k = 0; k < 3; k++) {
    const first = restPosition[a * 3 + k]!
    const byU = restPosition[b * 3 + k]! - first
    const byV = restPosition[d * 3 + k]! - first
    S[POINT.restPosition + k] = first + u * byU + v * byV
    S[POINT.restByU + k] = rates[RATE.uByU]! * byU + rates[RATE.vByU]! * byV
    S[POINT.restByV + k] = rates[RATE.uByV]! * byU + rates[RATE.vByV]! * byV
    const normal = restNormal[a * 3 + k]!
    S[POINT.restNormal + k] =
      normal + u * (restNormal[b * 3 + k]! - normal) + v * (restNormal[d * 3 + k]! - normal)
  }
  if (S[POINT.moved] === 1) {
    toOwnSpace(S, POINT.restPosition)
    for (let k = 0; k < 3; k++) S[POINT.restPosition + k]! += spaces[m + 4 * k + 3]!
    toOwnSpace(S, POINT.restByU)
    toOwnSpace(S, POINT.restByV)
    fillOwnNormal(S, POINT.restNormal, POINT.restNormal)
    return
  }
  const n = POINT.restNormal
  const l = Math.sqrt(S[n]! * S[n]! + S[n + 1]! * S[n + 1]! + S[n + 2]! * S[n + 2]!)
  if (l > 0) for (let k = 0; k < 3; k++) S[n + k]! /= l
}

/** Turns three words by the 3 × 3 part of the way to the part's own space. */
function toOwnSpace(S: Float64Array, o: number): void {
  const x = S[o]!
  const y = S[o + 1]!
  const z = S[o + 2]!
  for (let k = 0; k < 3; k++) {
    const r = POINT.toObject + 3 * k
    S[o + k] = S[r]! * x + S[r + 1]! * y + S[r + 2]! * z
  }
}
