import { POINT } from './slots'

/**
 * Makes S a point of the unit plane (0, 0, 0) to (1, 1, 0) at its coordinates (u, v), seen from straight above (+z):
 * what a node is looked at on by itself.
 */
export function placeOnPlane(S: Float64Array, u: number, v: number): void {
  S.fill(0)
  S[POINT.place] = -1
  for (const position of [POINT.position, POINT.objectPosition, POINT.restPosition, POINT.uv]) {
    S[position] = u
    S[position + 1] = v
  }
  for (const normal of [POINT.normal, POINT.geometric, POINT.objectNormal, POINT.restNormal]) S[normal + 2] = 1
  for (const along of [POINT.tangent, POINT.objectTangent, POINT.dpdu]) S[along] = 1
  S[POINT.bitangent + 1] = 1
  S[POINT.dpdv + 1] = 1
  S[POINT.view + 2] = -1
  S.fill(1, POINT.colour, POINT.colour + 4)
}
