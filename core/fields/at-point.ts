/** A field at a shading point. */
import { POINT } from '../point/slots'
import { site, type Ground } from './corner-places'
import { found, lookUp } from './look-up'
import { measure, measured } from './measure'
import { place, placeRadius, valueAtRadius } from './radii'
import type { FieldTable } from './table'
import type { FieldUse } from './use'

/**
 * Writes a field into a shading point: its value, and how it grows along the surface.
 * @param slot which of the point's fields it is
 * @param radius metres, above 0
 * @param table what is kept; null for the thread's own
 * @param compute whether what is not known is computed
 * @returns false where it is not known and was not to be computed: then nothing is written
 */
export function fieldAtPoint(
  ground: Ground,
  S: Float64Array,
  slot: number,
  use: FieldUse,
  radius: number,
  table: FieldTable | null,
  compute: boolean,
): boolean {
  const at = S[POINT.place]!
  if (at < 0) {
    S[POINT.field + slot] = measuredAt(ground, S, use, radius)
    S.fill(0, POINT.fieldBy + slot * 3, POINT.fieldBy + slot * 3 + 3)
    return true
  }
  const u = S[POINT.barycentric]!
  const v = S[POINT.barycentric + 1]!
  lookUp(ground, at, u, v, use, radius, S[POINT.footprint]!, table, compute)
  if (!(found.value === found.value)) return false
  S[POINT.field + slot] = found.value
  S[POINT.fieldBy + slot * 3] = found.x
  S[POINT.fieldBy + slot * 3 + 1] = found.y
  S[POINT.fieldBy + slot * 3 + 2] = found.z
  return true
}

/** The value at a point that no hierarchy holds (a texel that is baked), by rays of its own. */
function measuredAt(ground: Ground, S: Float64Array, use: FieldUse, radius: number): number {
  site.x = S[POINT.position]!
  site.y = S[POINT.position + 1]!
  site.z = S[POINT.position + 2]!
  site.nx = S[POINT.geometric]!
  site.ny = S[POINT.geometric + 1]!
  site.nz = S[POINT.geometric + 2]!
  placeRadius(radius)
  const mean = (out: boolean): number => {
    measure(ground.hierarchy, use.field, out, place.tier)
    return valueAtRadius(measured, 0)
  }
  return (use.inside ? use.inside * mean(false) : 0) + (use.outside ? use.outside * mean(true) : 0)
}
