/**
 * The smooth surface that flat triangles with turned normals stand for: how far a point is to be moved so that shadow
 * rays from it do not meet the triangles beside it (Hanika 2021, "Hacking the Shadow Terminator", Ray Tracing Gems II,
 * ch. 4).
 */
import { POINT } from '../point/slots'
import type { Instances } from '../trace/hierarchy'
import { triangle } from '../trace/triangle'
import { memory } from './memory'
import { turnNormal } from './turn'

const { turned } = memory

/**
 * Fills the way from the point to the smooth surface: the mean, by the barycentric weights, of the ways up to the
 * planes through the corners that are square to their normals; nothing where these lie below.
 * @param N normals; a, b, c the words where those of the corners of the triangle taken up last begin
 * @param w, u, v barycentric weights of the corners
 */
export function fillSmooth(
  N: Float32Array,
  a: number,
  b: number,
  c: number,
  w: number,
  u: number,
  v: number,
  instances: Instances | null,
  S: Float64Array,
): void {
  S[POINT.smooth] = 0
  S[POINT.smooth + 1] = 0
  S[POINT.smooth + 2] = 0
  const same =
    N[a] === N[b] &&
    N[a] === N[c] &&
    N[a + 1] === N[b + 1] &&
    N[a + 1] === N[c + 1] &&
    N[a + 2] === N[b + 2] &&
    N[a + 2] === N[c + 2]
  if (same) return
  const { ax, ay, az, e1x, e1y, e1z, e2x, e2y, e2z } = triangle
  raise(N, a, w, ax, ay, az, instances, S)
  raise(N, b, u, ax + e1x, ay + e1y, az + e1z, instances, S)
  raise(N, c, v, ax + e2x, ay + e2y, az + e2z, instances, S)
}

/** Adds the way to one corner's plane, times its weight. */
function raise(
  N: Float32Array,
  at: number,
  weight: number,
  x: number,
  y: number,
  z: number,
  instances: Instances | null,
  S: Float64Array,
): void {
  let nx = N[at]!
  let ny = N[at + 1]!
  let nz = N[at + 2]!
  if (triangle.instance >= 0) {
    turnNormal(instances!, triangle.instance, nx, ny, nz)
    nx = turned[0]!
    ny = turned[1]!
    nz = turned[2]!
  }
  const l2 = nx * nx + ny * ny + nz * nz
  const height =
    (S[POINT.position]! - x) * nx + (S[POINT.position + 1]! - y) * ny + (S[POINT.position + 2]! - z) * nz
  // normals against the winding are taken at the winding: their planes lie above where these say below
  const outward = nx * triangle.nx + ny * triangle.ny + nz * triangle.nz > 0
  if (!(l2 > 1e-12) || (outward ? height >= 0 : height <= 0)) return
  const s = (weight * height) / l2
  S[POINT.smooth]! -= s * nx
  S[POINT.smooth + 1]! -= s * ny
  S[POINT.smooth + 2]! -= s * nz
}
