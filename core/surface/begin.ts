/** Beginning a surface: who looks at it, from where. */
import { POINT } from '../point/slots'
import { memory, now } from './memory'

const { emission, seenFrom } = memory

/** What a surface's viewer knows of its surroundings. */
export interface Surroundings {
  /** Index of what lies on the outer side; 1 but where media are nested. */
  surround: number
  /** Whether light that walked below the surface leaves it here. */
  leaving: boolean
}

/** A surface in air, seen from without. */
const IN_AIR: Surroundings = { surround: 1.0, leaving: false }

/** Starts a new surface seen from direction o (unit, away from it), with geometric normal g on the outer side. */
export function beginSurface(ox: number, oy: number, oz: number, gx: number, gy: number, gz: number): void {
  seenFrom.set([-ox, -oy, -oz], POINT.view)
  seenFrom.set([gx, gy, gz], POINT.geometric)
  seenFrom.set([gx, gy, gz], POINT.normal)
  beginSurfaceAt(seenFrom)
}

/** {@link beginSurface} at a shading point, seen by the ray that found it. Wavelengths must be loaded. */
export function beginSurfaceAt(S: Float64Array, { surround, leaving }: Surroundings = IN_AIR): void {
  now.lobes = 0
  now.layers = 0
  now.coat = -1
  now.glass = 0
  now.fills = 0
  now.fillDepth = 0
  now.disperses = 0
  now.thin = false
  now.surround = surround
  now.leaving = leaving
  const ox = -S[POINT.view]!
  const oy = -S[POINT.view + 1]!
  const oz = -S[POINT.view + 2]!
  const gx = S[POINT.geometric]!
  const gy = S[POINT.geometric + 1]!
  const gz = S[POINT.geometric + 2]!
  now.outside = ox * gx + oy * gy + oz * gz >= 0
  const s = now.outside ? 1 : -1
  now.ox = ox
  now.oy = oy
  now.oz = oz
  now.gx = gx * s
  now.gy = gy * s
  now.gz = gz * s
  now.sx = S[POINT.normal]! * s
  now.sy = S[POINT.normal + 1]! * s
  now.sz = S[POINT.normal + 2]! * s
  emission[0] = 0
  emission[1] = 0
  emission[2] = 0
  emission[3] = 0
  emission[4] = 0
  emission[5] = 0
  emission[6] = 0
}
