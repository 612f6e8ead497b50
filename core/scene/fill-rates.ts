/** What changes with the coordinates of a hit: normals, and further sets of coordinates. */
import { POINT } from '../point/slots'
import type { Instances } from '../trace/hierarchy'
import { triangle } from '../trace/triangle'
import { memory } from './memory'
import { turnNormal } from './turn'

const { rates, turned } = memory

/** Words of `memory.rates`: how the barycentric u and v of a hit grow with its coordinates u and v. */
export const RATE = { uByU: 0, vByU: 1, uByV: 2, vByV: 3 } as const

/** Finds the rates of a triangle without coordinates, from dpdu and dpdv, which lie near its plane. */
export function solveRates(S: Float64Array): void {
  const { e1x, e1y, e1z, e2x, e2y, e2z } = triangle
  const E = e1x * e1x + e1y * e1y + e1z * e1z
  const F = e1x * e2x + e1y * e2y + e1z * e2z
  const G = e2x * e2x + e2y * e2y + e2z * e2z
  const D = E * G - F * F
  for (let axis = 0; axis < 2; axis++) {
    const way = axis === 0 ? POINT.dpdu : POINT.dpdv
    const p = S[way]! * e1x + S[way + 1]! * e1y + S[way + 2]! * e1z
    const q = S[way]! * e2x + S[way + 1]! * e2y + S[way + 2]! * e2z
    rates[2 * axis] = D > 0 ? (G * p - F * q) / D : 0
    rates[2 * axis + 1] = D > 0 ? (E * q - F * p) / D : 0
  }
}

/** Further sets of coordinates at barycentric u, v of the corners, and how they grow with the first set. */
export function fillMoreSets(
  sets: readonly Float32Array[],
  i0: number,
  i1: number,
  i2: number,
  u: number,
  v: number,
  S: Float64Array,
): void {
  for (let k = 0; k < sets.length; k++) {
    const set = sets[k]!
    for (let c = 0; c < 2; c++) {
      const from = set[i0 * 2 + c]!
      const by1 = set[i1 * 2 + c]! - from
      const by2 = set[i2 * 2 + c]! - from
      S[POINT.uvMore + 2 * k + c] = from + u * by1 + v * by2
      for (let axis = 0; axis < 2; axis++)
        S[POINT.uvMoreBy + 4 * k + 2 * c + axis] = rates[2 * axis]! * by1 + rates[2 * axis + 1]! * by2
    }
  }
}

/**
 * How the interpolated normal turns along dpdu and dpdv, from the normals N of the corners at a, b and d.
 * @param perLength one over the length of what was interpolated
 */
export function fillTurning(
  N: Float32Array,
  instances: Instances | null,
  a: number,
  b: number,
  d: number,
  instance: number,
  perLength: number,
  S: Float64Array,
): void {
  let x1 = N[b]! - N[a]!
  let y1 = N[b + 1]! - N[a + 1]!
  let z1 = N[b + 2]! - N[a + 2]!
  let x2 = N[d]! - N[a]!
  let y2 = N[d + 1]! - N[a + 1]!
  let z2 = N[d + 2]! - N[a + 2]!
  if (x1 === 0 && y1 === 0 && z1 === 0 && x2 === 0 && y2 === 0 && z2 === 0) {
    for (let k = 0; k < 6; k++) S[POINT.dndu + k] = 0
    return
  }
  if (instance >= 0) {
    turnNormal(instances!, instance, x1, y1, z1)
    x1 = turned[0]!
    y1 = turned[1]!
    z1 = turned[2]!
    turnNormal(instances!, instance, x2, y2, z2)
    x2 = turned[0]!
    y2 = turned[1]!
    z2 = turned[2]!
  }
  const nx = S[POINT.normal]!
  const ny = S[POINT.normal + 1]!
  const nz = S[POINT.normal + 2]!
  for (let axis = 0; axis < 2; axis++) {
    const s = rates[2 * axis]!
    const t = rates[2 * axis + 1]!
    const x = (s * x1 + t * x2) * perLength
    const y = (s * y1 + t * y2) * perLength
    const z = (s * z1 + t * z2) * perLength
    // a unit normal turns across itself
    const along = x * nx + y * ny + z * nz
    const to = axis === 0 ? POINT.dndu : POINT.dndv
    S[to] = x - along * nx
    S[to + 1] = y - along * ny
    S[to + 2] = z - along * nz
  }
}
