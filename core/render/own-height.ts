/**
 * The normal of a displaced surface by its whole height. Triangles carry what they can; the normal at a point always
 * comes from the displacement itself at what the point stands for, on the surface before it was displaced, so that
 * slopes never count twice and nothing is lost between triangles and picture.
 */
import { memory as values } from '../nodes/memory'
import { POINT, POINT_STRIDE } from '../point/slots'
import { fillRestPoint } from '../scene/fill-point'
import { fillOwnNormal } from '../scene/fill-space'
import type { Geometry } from '../scene/geometry'
import type { RayBatch } from '../trace/ray-batch'
import type { Material } from '../world/render-scene'

const { slopes } = values
/** Where the point was before. */
const R = new Float64Array(POINT_STRIDE)
const down = new Float64Array(3)
/** How the displaced point moves over a step along u, and along v. */
const byU = new Float64Array(3)
const byV = new Float64Array(3)
const n = new Float64Array(3)

/** Slots of `slopes`: each number at the point, beside it along u, along v; then the steps. */
const SLOPE = { along: 0, across: 3, up: 6, du: 9, dv: 10 } as const
/** Least cosine at which a footprint is stretched. */
const LEAST_COSINE = 0.05

/** Lays R: seen from straight above, standing for as much of the surface as S does. */
function fillBefore(geometry: Geometry, rays: RayBatch, k: number, S: Float64Array): void {
  const { restNormal, index, restBy } = geometry
  const number = geometry.hierarchy.order[rays.triangle[k]!]!
  const v = (index[number * 3]! + restBy[S[POINT.part]!]!) * 3
  for (let j = 0; j < 3; j++) down[j] = -restNormal[v + j]!
  fillRestPoint(geometry, number, rays.u[k]!, rays.v[k]!, down, 0, R)
  let cos = 0
  for (let j = 0; j < 3; j++) cos += S[POINT.geometric + j]! * S[POINT.view + j]!
  R[POINT.footprint] = S[POINT.footprint]! / Math.sqrt(Math.max(LEAST_COSINE, Math.abs(cos)))
}

/** How the displaced point moves over a step; see `SLOPE`. @param step which of the two: 1 or 2 */
function moveOver(P: Float64Array, out: Float64Array, step: number, size: number): void {
  const dp = step === 1 ? POINT.dpdu : POINT.dpdv
  const dn = step === 1 ? POINT.dndu : POINT.dndv
  const t = slopes[SLOPE.along + step]! - slopes[SLOPE.along]!
  const b = slopes[SLOPE.across + step]! - slopes[SLOPE.across]!
  const h = slopes[SLOPE.up + step]! - slopes[SLOPE.up]!
  const up = slopes[SLOPE.up]!
  // across the smooth normal: a facet's plane would show
  let off = 0
  for (let k = 0; k < 3; k++) off += P[dp + k]! * P[POINT.normal + k]!
  for (let k = 0; k < 3; k++)
    out[k] =
      (P[dp + k]! + up * P[dn + k]!) * size +
      t * P[POINT.tangent + k]! +
      b * P[POINT.bitangent + k]! +
      (h - off * size) * P[POINT.normal + k]!
}

/** Puts the tangents of S across its new normal. */
function turnTangents(S: Float64Array): void {
  const N = POINT.normal
  const T = POINT.tangent
  const B = POINT.bitangent
  let side = 0
  let along = 0
  for (let k = 0; k < 3; k++) {
    const i = (k + 1) % 3
    const j = (k + 2) % 3
    side += (R[N + i]! * R[T + j]! - R[N + j]! * R[T + i]!) * R[B + k]!
    along += S[T + k]! * n[k]!
  }
  let l = 0
  for (let k = 0; k < 3; k++) {
    S[T + k]! -= along * n[k]!
    l += S[T + k]! * S[T + k]!
  }
  l = Math.sqrt(l)
  if (!(l > 1e-9)) return
  for (let k = 0; k < 3; k++) S[T + k]! /= l
  for (let k = 0; k < 3; k++) {
    const i = (k + 1) % 3
    const j = (k + 2) % 3
    S[B + k] = (n[i]! * S[T + j]! - n[j]! * S[T + i]!) * (side < 0 ? -1 : 1)
  }
}

/**
 * Normal of a displaced surface by its whole height.
 * @param P the point before it was displaced, which also says how much of the surface it stands for
 * @param out unit, on the outer side
 * @returns whether it is known
 */
export function normalOfHeight(
  { shader, constants }: Pick<Material, 'shader' | 'constants'>,
  P: Float64Array,
  out: Float64Array,
): boolean {
  slopes[SLOPE.du] = 0
  shader.slopes(P, constants, shader.images)
  if (!(slopes[SLOPE.du]! > 0 && slopes[SLOPE.dv]! > 0)) return false
  moveOver(P, byU, 1, slopes[SLOPE.du]!)
  moveOver(P, byV, 2, slopes[SLOPE.dv]!)
  let l = 0
  let outside = 0
  for (let j = 0; j < 3; j++) {
    const p = (j + 1) % 3
    const q = (j + 2) % 3
    out[j] = byU[p]! * byV[q]! - byU[q]! * byV[p]!
    outside +=
      (P[POINT.dpdu + p]! * P[POINT.dpdv + q]! - P[POINT.dpdu + q]! * P[POINT.dpdv + p]!) * P[POINT.normal + j]!
    l += out[j]! * out[j]!
  }
  if (!(l > 0 && l < Infinity)) return false
  l = (outside < 0 ? -1 : 1) / Math.sqrt(l)
  for (let j = 0; j < 3; j++) out[j]! *= l
  return true
}

/**
 * Gives S, a hit of a displaced part, the normal of its whole height. Nothing where that is not known, or would look
 * into the triangle.
 * @param k number of the ray in its batch
 */
export function bendToHeight(
  geometry: Geometry,
  rays: RayBatch,
  k: number,
  material: Pick<Material, 'shader' | 'constants'>,
  S: Float64Array,
): void {
  fillBefore(geometry, rays, k, S)
  if (!normalOfHeight(material, R, n)) return
  let facing = 0
  for (let j = 0; j < 3; j++) facing += n[j]! * S[POINT.geometric + j]!
  if (!(facing > 0)) return
  for (let j = 0; j < 3; j++) S[POINT.normal + j] = n[j]!
  turnTangents(S)
  if (S[POINT.moved] === 1) fillOwnNormal(S, POINT.normal, POINT.objectNormal)
  else for (let j = 0; j < 3; j++) S[POINT.objectNormal + j] = n[j]!
}
