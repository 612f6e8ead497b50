/** A hit in the part's own space, before its file or a copy moved it. */
import { POINT } from '../point/slots'

/** Position, normal and tangent in the part's own space. @param m first word of the way there */
export function fillOwnSpace(spaces: Float64Array, m: number, S: Float64Array): void {
  if (spaces.length === 0) {
    for (let k = 0; k < 3; k++) {
      S[POINT.objectPosition + k] = S[POINT.position + k]!
      S[POINT.objectNormal + k] = S[POINT.normal + k]!
      S[POINT.objectTangent + k] = S[POINT.tangent + k]!
    }
    S[POINT.moved] = 0
    return
  }
  const x = S[POINT.position]!
  const y = S[POINT.position + 1]!
  const z = S[POINT.position + 2]!
  const tx = S[POINT.tangent]!
  const ty = S[POINT.tangent + 1]!
  const tz = S[POINT.tangent + 2]!
  for (let k = 0; k < 3; k++) {
    const o = m + 4 * k
    S[POINT.objectPosition + k] = spaces[o]! * x + spaces[o + 1]! * y + spaces[o + 2]! * z + spaces[o + 3]!
    S[POINT.objectTangent + k] = spaces[o]! * tx + spaces[o + 1]! * ty + spaces[o + 2]! * tz
    for (let j = 0; j < 3; j++) S[POINT.toObject + 3 * k + j] = spaces[o + j]!
  }
  fillOwnNormal(S, POINT.normal, POINT.objectNormal)
  toUnit(S, POINT.objectTangent)
  S[POINT.moved] = 1
}

/** A normal in the part's own space: across two tangents there, by the cofactors of the way to it. */
export function fillOwnNormal(S: Float64Array, from: number, to: number): void {
  const m = POINT.toObject
  const x = S[from]!
  const y = S[from + 1]!
  const z = S[from + 2]!
  for (let k = 0; k < 3; k++) {
    const a = m + 3 * ((k + 1) % 3)
    const b = m + 3 * ((k + 2) % 3)
    S[to + k] =
      (S[a + 1]! * S[b + 2]! - S[a + 2]! * S[b + 1]!) * x +
      (S[a + 2]! * S[b]! - S[a]! * S[b + 2]!) * y +
      (S[a]! * S[b + 1]! - S[a + 1]! * S[b]!) * z
  }
  toUnit(S, to)
  // a way that mirrors turns cofactors over
  const det =
    S[m]! * (S[m + 4]! * S[m + 8]! - S[m + 5]! * S[m + 7]!) -
    S[m + 1]! * (S[m + 3]! * S[m + 8]! - S[m + 5]! * S[m + 6]!) +
    S[m + 2]! * (S[m + 3]! * S[m + 7]! - S[m + 4]! * S[m + 6]!)
  if (det < 0) for (let k = 0; k < 3; k++) S[to + k]! *= -1
}

function toUnit(S: Float64Array, o: number): void {
  const l = Math.sqrt(S[o]! * S[o]! + S[o + 1]! * S[o + 1]! + S[o + 2]! * S[o + 2]!)
  if (l > 0) for (let k = 0; k < 3; k++) S[o + k]! /= l
}
