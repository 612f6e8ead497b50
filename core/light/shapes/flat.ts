/** What rectangles and discs share: a plane that shines on one side. */
import { lit, memory } from '../memory'
import { PANEL } from '../slots'

const { met, toLight } = memory

/** Estimate by the squared distance and the angle of its plane, bounded by its own size. */
export function weighFlat(p: Float64Array, o: number, point: Float64Array, at: number): void {
  const dx = p[o]! - point[at]!
  const dy = p[o + PANEL.y]! - point[at + 1]!
  const dz = p[o + PANEL.z]! - point[at + 2]!
  const d2 = dx * dx + dy * dy + dz * dz
  const area = p[o + PANEL.area]!
  const facing = -(dx * p[o + PANEL.nx]! + dy * p[o + PANEL.ny]! + dz * p[o + PANEL.nz]!)
  lit.estimate =
    facing <= 0 ? 0 : (p[o + PANEL.power]! * area * Math.max(facing / Math.sqrt(d2), 0.05)) / (d2 + area)
}

/** Draws towards the point (a, b) of its half edges; `fade` is what leaves there. */
export function sampleFlat(p: Float64Array, o: number, S: Float64Array, a: number, b: number): boolean {
  const dx = p[o]! + a * p[o + PANEL.u]! + b * p[o + PANEL.v]! - S[0]!
  const dy = p[o + PANEL.y]! + a * p[o + PANEL.u + 1]! + b * p[o + PANEL.v + 1]! - S[1]!
  const dz = p[o + PANEL.z]! + a * p[o + PANEL.u + 2]! + b * p[o + PANEL.v + 2]! - S[2]!
  const d2 = dx * dx + dy * dy + dz * dz
  const d = Math.sqrt(d2)
  const cos = -(dx * p[o + PANEL.nx]! + dy * p[o + PANEL.ny]! + dz * p[o + PANEL.nz]!) / d
  if (!(cos > 1e-9)) return false
  lit.x = dx / d
  lit.y = dy / d
  lit.z = dz / d
  lit.distance = d
  lit.pdf = (lit.share * d2) / (cos * p[o + PANEL.area]!)
  return true
}

/** Density per steradian of even points of its area. */
export function densityFlat(
  p: Float64Array,
  o: number,
  _origin: Float64Array,
  direction: Float64Array,
  at: number,
): void {
  const nx = p[o + PANEL.nx]!
  const ny = p[o + PANEL.ny]!
  const nz = p[o + PANEL.nz]!
  const cos = -(direction[at]! * nx + direction[at + 1]! * ny + direction[at + 2]! * nz)
  lit.pdf = (lit.share * lit.distance * lit.distance) / (cos * p[o + PANEL.area]!)
}

/** Meets its plane within the half edges; what is asked of the point goes to `met`. */
export function hitFlat(
  p: Float64Array,
  o: number,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  round: boolean,
): boolean {
  const dx = direction[at]!
  const dy = direction[at + 1]!
  const dz = direction[at + 2]!
  const nx = p[o + PANEL.nx]!
  const ny = p[o + PANEL.ny]!
  const nz = p[o + PANEL.nz]!
  const facing = dx * nx + dy * ny + dz * nz
  if (facing >= 0 && (facing === 0 || p[o + PANEL.blocks] === 0)) return false
  const cx = p[o]! - origin[at]!
  const cy = p[o + PANEL.y]! - origin[at + 1]!
  const cz = p[o + PANEL.z]! - origin[at + 2]!
  const along = cx * nx + cy * ny + cz * nz
  // behind the ray's origin: most end here, without a division
  if (along > 0 !== facing > 0) return false
  const t = along / facing
  if (!(t > 1e-9 && t < lit.distance)) return false
  const x = t * dx - cx
  const y = t * dy - cy
  const z = t * dz - cz
  const s = x * p[o + PANEL.du]! + y * p[o + PANEL.du + 1]! + z * p[o + PANEL.du + 2]!
  const q = x * p[o + PANEL.dv]! + y * p[o + PANEL.dv + 1]! + z * p[o + PANEL.dv + 2]!
  if (Math.abs(s) > 1 || Math.abs(q) > 1) return false
  if (round && s * s + q * q > 1) return false
  met[0] = s
  met[1] = q
  lit.distance = t
  return true
}

/** How much of a soft edge's light is left, `inside` half edges within it. */
export function softEdge(p: Float64Array, o: number, inside: number): number {
  const t = Math.min(1, Math.max(0, inside / p[o + PANEL.soft]!))
  return t * t * (3 - 2 * t)
}

/** Sets what leaves of its radiance. */
export function setRadiance(p: Float64Array, o: number, f: number): void {
  lit.r = p[o + PANEL.radiance]! * f
  lit.g = p[o + PANEL.radiance + 1]! * f
  lit.b = p[o + PANEL.radiance + 2]! * f
}

/** Aims at a point of the square of its half edges. */
export function aimFlat(p: Float64Array, o: number, point: Float64Array, draw: Float64Array): boolean {
  for (let k = 0; k < 3; k++)
    toLight[k] =
      p[o + k]! + (2 * draw[1]! - 1) * p[o + PANEL.u + k]! + (2 * draw[2]! - 1) * p[o + PANEL.v + k]! - point[k]!
  lit.distance = Math.hypot(toLight[0]!, toLight[1]!, toLight[2]!)
  const facing = -(
    toLight[0]! * p[o + PANEL.nx]! +
    toLight[1]! * p[o + PANEL.ny]! +
    toLight[2]! * p[o + PANEL.nz]!
  )
  for (let k = 0; k < 3; k++) toLight[k]! /= lit.distance
  return facing > 0
}
