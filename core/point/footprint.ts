/**
 * What a point stands for, laid onto the surface: the cone of a path (`render/cone.ts`) cuts an ellipse out of the
 * tangent plane, longer the more obliquely it is seen.
 */
import { POINT } from './slots'

/** Words that a footprint has: from the first on, up to before the end. */
const FIRST = POINT.dpdx
const END = POINT.duvdy + 2

/** Whether a word of a point is there once its footprint is laid. */
export const isFootprint = (word: number): boolean => word >= FIRST && word < END

/** Least cosine at which the ellipse is laid: beyond, it would be longer than the plane stands for the surface. */
const LEAST_COSINE = 1e-3

/** Writes the changes of coordinates and normal that go with a change of position. */
function layChange(S: Float64Array, dp: number, duv: number, dn: number): void {
  const x = S[dp]!
  const y = S[dp + 1]!
  const z = S[dp + 2]!
  const ux = S[POINT.dpdu]!
  const uy = S[POINT.dpdu + 1]!
  const uz = S[POINT.dpdu + 2]!
  const vx = S[POINT.dpdv]!
  const vy = S[POINT.dpdv + 1]!
  const vz = S[POINT.dpdv + 2]!
  const E = ux * ux + uy * uy + uz * uz
  const F = ux * vx + uy * vy + uz * vz
  const G = vx * vx + vy * vy + vz * vz
  const D = E * G - F * F
  const a = x * ux + y * uy + z * uz
  const b = x * vx + y * vy + z * vz
  const turns = D > 1e-12 * E * G
  const du = turns ? (G * a - F * b) / D : 0
  const dv = turns ? (E * b - F * a) / D : 0
  S[duv] = du
  S[duv + 1] = dv
  for (let k = 0; k < 3; k++) S[dn + k] = S[POINT.dndu + k]! * du + S[POINT.dndv + k]! * dv
}

/** Lays the footprint of S: its words from `dpdx` to `duvdy`. */
export function layFootprint(S: Float64Array): void {
  const r = S[POINT.footprint]!
  if (!(r > 0)) {
    S.fill(0, FIRST, END)
    return
  }
  const nx = S[POINT.geometric]!
  const ny = S[POINT.geometric + 1]!
  const nz = S[POINT.geometric + 2]!
  const dx = S[POINT.view]!
  const dy = S[POINT.view + 1]!
  const dz = S[POINT.view + 2]!
  const cos = nx * dx + ny * dy + nz * dz
  let mx = dx - cos * nx
  let my = dy - cos * ny
  let mz = dz - cos * nz
  let l = Math.sqrt(mx * mx + my * my + mz * mz)
  if (!(l > 1e-9)) {
    mx = S[POINT.tangent]!
    my = S[POINT.tangent + 1]!
    mz = S[POINT.tangent + 2]!
    l = 1
  }
  const along = r / (l * Math.max(LEAST_COSINE, Math.abs(cos)))
  const across = r / l
  S[POINT.dpdx] = mx * along
  S[POINT.dpdx + 1] = my * along
  S[POINT.dpdx + 2] = mz * along
  S[POINT.dpdy] = (ny * mz - nz * my) * across
  S[POINT.dpdy + 1] = (nz * mx - nx * mz) * across
  S[POINT.dpdy + 2] = (nx * my - ny * mx) * across
  layChange(S, POINT.dpdx, POINT.duvdx, POINT.dndx)
  layChange(S, POINT.dpdy, POINT.duvdy, POINT.dndy)
}

/**
 * Mean curvature of the shading normals at S, 1/m: above 0 where the outer side bulges, 0 where it is flat. Half the
 * trace of the Weingarten map (do Carmo 1976, "Differential Geometry of Curves and Surfaces", §3-3), of normals that
 * are interpolated.
 */
export function curvatureAt(S: Float64Array): number {
  const nu = POINT.dndu
  const nv = POINT.dndv
  let E = 0
  let F = 0
  let G = 0
  let e = 0
  let f = 0
  let g = 0
  for (let k = 0; k < 3; k++) {
    const u = S[POINT.dpdu + k]!
    const v = S[POINT.dpdv + k]!
    E += u * u
    F += u * v
    G += v * v
    e += S[nu + k]! * u
    f += S[nu + k]! * v + S[nv + k]! * u
    g += S[nv + k]! * v
  }
  if (e === 0 && f === 0 && g === 0) return 0
  const D = E * G - F * F
  return D > 1e-12 * E * G ? (E * g - F * f + G * e) / (2 * D) : 0
}
