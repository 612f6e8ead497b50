import type { Instances } from '../trace/hierarchy'
import { INSTANCE_LINKS, PART, storedPlace } from '../trace/instances'
import { loadTriangle, takeTriangle, triangle } from '../trace/triangle'
import type { RayBatch } from '../trace/ray-batch'
import { POINT } from '../point/slots'
import { RATE, fillMoreSets, fillTurning, solveRates } from './fill-rates'
import { fillOwnSpace } from './fill-space'
import { memory } from './memory'
import { turnDirection, turnNormal } from './turn'
import { fillNoRest, fillRest } from './fill-rest'
import { fillSmooth } from './fill-smooth'
import { NO_REST, type Attributes, type Geometry } from './geometry'

const { rates, turned } = memory

/**
 * Fills a shading point from a hit.
 * @param k number of the ray in its batch, which must have hit something
 * @param direction of the ray, unit, from index `at` on
 */
export function fillPoint(
  geometry: Geometry,
  rays: RayBatch,
  k: number,
  direction: Float64Array,
  at: number,
  S: Float64Array,
): void {
  const { order, instances } = geometry.hierarchy
  const place = rays.triangle[k]!
  loadTriangle(geometry.hierarchy, place)
  const { instance } = triangle
  const number = order[instance < 0 ? place : storedPlace(instances!, instance, place)]!
  fillInTriangle(geometry, instances, number, rays.u[k]!, rays.v[k]!, direction, at, S)
  S[POINT.place] = place
  S[POINT.barycentric] = rays.u[k]!
  S[POINT.barycentric + 1] = rays.v[k]!
}

/**
 * Fills a shading point from its place in the triangle that was taken up last (`trace/triangle.ts`).
 * @param number of the triangle, original order
 * @param u barycentric, of the second corner; v of the third
 * @param direction see {@link fillPoint}
 */
export function fillInTriangle(
  geometry: Attributes,
  instances: Instances | null,
  number: number,
  u: number,
  v: number,
  direction: Float64Array,
  at: number,
  S: Float64Array,
): void {
  fillCorners(geometry, geometry.normal, 0, instances, number, u, v, direction, at, S)
  const { index } = geometry
  const c = number * 3
  const N = geometry.normal
  fillSmooth(N, index[c]! * 3, index[c + 1]! * 3, index[c + 2]! * 3, 1 - u - v, u, v, instances, S)
  const by = geometry.restBy.length > 0 ? geometry.restBy[S[POINT.part]!]! : NO_REST
  if (by === NO_REST) fillNoRest(S)
  else fillRest(geometry, index[c]! + by, index[c + 1]! + by, index[c + 2]! + by, u, v, S[POINT.part]! * 12, S)
}

/**
 * Fills a shading point with where a hit was before its part was displaced: the same barycentric place in the triangle
 * that it was, whatever that has become.
 * @param number of a displaced part's triangle, original order
 * @param direction see {@link fillPoint}
 */
export function fillRestPoint(
  geometry: Attributes,
  number: number,
  u: number,
  v: number,
  direction: Float64Array,
  at: number,
  R: Float64Array,
): void {
  const { index, restPosition, restNormal } = geometry
  const by = geometry.restBy[geometry.part[number]!]!
  const c = number * 3
  takeTriangle(restPosition, index[c]! + by, index[c + 1]! + by, index[c + 2]! + by)
  fillCorners(geometry, restNormal, by, null, number, u, v, direction, at, R)
  fillNoRest(R)
}

/**
 * All but what was before a displacement.
 * @param N normals, and how far on from a vertex's own number its own is
 */
function fillCorners(
  geometry: Attributes,
  N: Float32Array,
  by: number,
  instances: Instances | null,
  number: number,
  u: number,
  v: number,
  direction: Float64Array,
  at: number,
  S: Float64Array,
): void {
  const w = 1 - u - v
  const { ax, ay, az, e1x, e1y, e1z, e2x, e2y, e2z, instance } = triangle
  S[POINT.position] = ax + u * e1x + v * e2x
  S[POINT.position + 1] = ay + u * e1y + v * e2y
  S[POINT.position + 2] = az + u * e1z + v * e2z
  let gx = triangle.nx
  let gy = triangle.ny
  let gz = triangle.nz
  let l = 1 / Math.sqrt(gx * gx + gy * gy + gz * gz)
  gx *= l
  gy *= l
  gz *= l
  const i0 = geometry.index[number * 3]!
  const i1 = geometry.index[number * 3 + 1]!
  const i2 = geometry.index[number * 3 + 2]!
  const a = (i0 + by) * 3
  const b = (i1 + by) * 3
  const d = (i2 + by) * 3
  let nx = w * N[a]! + u * N[b]! + v * N[d]!
  let ny = w * N[a + 1]! + u * N[b + 1]! + v * N[d + 1]!
  let nz = w * N[a + 2]! + u * N[b + 2]! + v * N[d + 2]!
  l = nx * nx + ny * ny + nz * nz
  let perLength = 0
  if (l > 1e-12) {
    if (instance >= 0) {
      turnNormal(instances!, instance, nx, ny, nz)
      nx = turned[0]!
      ny = turned[1]!
      nz = turned[2]!
      l = nx * nx + ny * ny + nz * nz
    }
    perLength = 1 / Math.sqrt(l)
    nx *= perLength
    ny *= perLength
    nz *= perLength
  } else {
    nx = gx
    ny = gy
    nz = gz
  }
  // Winding says which side is out; a file whose normals disagree is taken at its winding.
  if (nx * gx + ny * gy + nz * gz < 0) {
    nx = -nx
    ny = -ny
    nz = -nz
    perLength = -perLength
  }
  S[POINT.normal] = nx
  S[POINT.normal + 1] = ny
  S[POINT.normal + 2] = nz
  S[POINT.geometric] = gx
  S[POINT.geometric + 1] = gy
  S[POINT.geometric + 2] = gz
  const UV = geometry.uv
  const u0 = UV[i0 * 2]!
  const v0 = UV[i0 * 2 + 1]!
  const du1 = UV[i1 * 2]! - u0
  const dv1 = UV[i1 * 2 + 1]! - v0
  const du2 = UV[i2 * 2]! - u0
  const dv2 = UV[i2 * 2 + 1]! - v0
  S[POINT.uv] = u0 + u * du1 + v * du2
  S[POINT.uv + 1] = v0 + u * dv1 + v * dv2
  // Tangent along growing u, made perpendicular to the normal; any one where the coordinates are degenerate.
  const det = du1 * dv2 - du2 * dv1
  let sign = det < 0 ? -1 : 1
  let tx = (e1x * dv2 - e2x * dv1) * sign
  let ty = (e1y * dv2 - e2y * dv1) * sign
  let tz = (e1z * dv2 - e2z * dv1) * sign
  // dP/du and dP/dv in the triangle's plane
  const flat = det !== 0 && tx * tx + ty * ty + tz * tz > 1e-40
  if (flat) {
    const s = sign / det
    const r = 1 / det
    S[POINT.dpdu] = tx * s
    S[POINT.dpdu + 1] = ty * s
    S[POINT.dpdu + 2] = tz * s
    S[POINT.dpdv] = (e2x * du1 - e1x * du2) * r
    S[POINT.dpdv + 1] = (e2y * du1 - e1y * du2) * r
    S[POINT.dpdv + 2] = (e2z * du1 - e1z * du2) * r
    rates[RATE.uByU] = dv2 * r
    rates[RATE.vByU] = -dv1 * r
    rates[RATE.uByV] = -du2 * r
    rates[RATE.vByV] = du1 * r
  }
  const T = geometry.tangent
  const from = i0 * 4
  if (T.length > 0 && T[from + 3] !== 0 && flat) {
    const second = i1 * 4
    const third = i2 * 4
    tx = w * T[from]! + u * T[second]! + v * T[third]!
    ty = w * T[from + 1]! + u * T[second + 1]! + v * T[third + 1]!
    tz = w * T[from + 2]! + u * T[second + 2]! + v * T[third + 2]!
    sign = T[from + 3]!
    if (instance >= 0) {
      turnDirection(instances!, instance, tx, ty, tz)
      tx = turned[0]!
      ty = turned[1]!
      tz = turned[2]!
    }
  }
  const along = tx * nx + ty * ny + tz * nz
  tx -= along * nx
  ty -= along * ny
  tz -= along * nz
  l = Math.sqrt(tx * tx + ty * ty + tz * tz)
  if (!flat || !(l > 1e-20)) {
    if (Math.abs(ny) < 0.999) {
      tx = nz
      ty = 0
      tz = -nx
    } else {
      tx = 1
      ty = 0
      tz = 0
    }
    const s = tx * nx + ty * ny + tz * nz
    tx -= s * nx
    ty -= s * ny
    tz -= s * nz
    l = Math.sqrt(tx * tx + ty * ty + tz * tz)
  }
  tx /= l
  ty /= l
  tz /= l
  S[POINT.tangent] = tx
  S[POINT.tangent + 1] = ty
  S[POINT.tangent + 2] = tz
  S[POINT.bitangent] = (ny * tz - nz * ty) * sign
  S[POINT.bitangent + 1] = (nz * tx - nx * tz) * sign
  S[POINT.bitangent + 2] = (nx * ty - ny * tx) * sign
  if (!flat) {
    for (let k = 0; k < 6; k++) S[POINT.dpdu + k] = S[POINT.tangent + k]!
    solveRates(S)
  }
  fillTurning(N, instances, a, b, d, instance, perLength, S)
  const colour = geometry.colour
  if (colour.length > 0)
    for (let k = 0; k < 4; k++)
      S[POINT.colour + k] = w * colour[i0 * 4 + k]! + u * colour[i1 * 4 + k]! + v * colour[i2 * 4 + k]!
  else {
    S[POINT.colour] = 1
    S[POINT.colour + 1] = 1
    S[POINT.colour + 2] = 1
    S[POINT.colour + 3] = 1
  }
  S[POINT.view] = direction[at]!
  S[POINT.view + 1] = direction[at + 1]!
  S[POINT.view + 2] = direction[at + 2]!
  S[POINT.footprint] = 0
  S[POINT.place] = -1
  S[POINT.fields] = 0
  const part = instance < 0 ? geometry.part[number]! : instances!.links[instance * INSTANCE_LINKS + PART]!
  S[POINT.part] = part
  fillOwnSpace(geometry.spaces, part * 12, S)
  if (geometry.uvMore.length > 0) fillMoreSets(geometry.uvMore, i0, i1, i2, u, v, S)
}

/**
 * How far from its triangle a point may lie that was computed in double precision from float32 corners, metres.
 */
export const doubtOf = (S: Float64Array): number =>
  1e-9 * (1 + Math.abs(S[POINT.position]!) + Math.abs(S[POINT.position + 1]!) + Math.abs(S[POINT.position + 2]!))
