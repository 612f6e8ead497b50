/** How much of what facets below a coat reflect its inner face sends back, by the tables of scripts/fit-coated.ts. */
import table from './coated.json'
import { COATED_AXES, F_MAX } from './albedo-axes'

const first = Float64Array.from(table.first)
const further = Float64Array.from(table.further)
/** Raised a little: between the table's places no light may be gained. */
const passes = Float64Array.from(table.passes, x => Math.min(1, x * 1.002))
const { mu: M, alpha: A, eta: H } = COATED_AXES

/**
 * Answers of {@link askCoated}: what is sent back of light that met the facets once, and of what meets them again after
 * that, both beyond what a smooth face sends back of the mirrored direction; and what layers let through of such light
 * on the average (`accumulate.ts`), in parts of what passes towards the viewer.
 */
export const coated = { first: 0.5, further: 0.5, passes: 0.5 }

/**
 * Asks the tables.
 * @param mu cosine above the coat
 * @param alpha of the facets, 0..1
 * @param eta index of the coat over that of what lies above it, at least 1
 */
export function askCoated(mu: number, alpha: number, eta: number): void {
  const x = Math.sqrt(mu) * (M - 1)
  const y = Math.sqrt(alpha) * (A - 1)
  const z = Math.min(1, (eta - 1) / (eta + 1) / F_MAX) * (H - 1)
  const i = Math.min(M - 2, x | 0)
  const j = Math.min(A - 2, y | 0)
  const k = Math.min(H - 2, z | 0)
  coated.first = between(first, i, j, k, x - i, y - j, z - k)
  coated.passes = between(passes, i, j, k, x - i, y - j, z - k)
  coated.further = between(further, i, j, k, x - i, y - j, z - k)
}

function between(t: Float64Array, i: number, j: number, k: number, fx: number, fy: number, fz: number): number {
  const o = (k * A + j) * M + i
  const p = o + A * M
  const a = t[o]! + (t[o + 1]! - t[o]!) * fx
  const b = t[o + M]! + (t[o + M + 1]! - t[o + M]!) * fx
  const c = t[p]! + (t[p + 1]! - t[p]!) * fx
  const d = t[p + M]! + (t[p + M + 1]! - t[p + M]!) * fx
  const e = a + (b - a) * fy
  return e + (c + (d - c) * fy - e) * fz
}
