/** What rays at a place tell of a field, for all radii of a tier at once. */
import { batchNear, castClosest, createRayBatch } from '../trace/cast'
import type { Hierarchy } from '../trace/hierarchy'
import { fields } from '.'
import { NUDGE, site } from './corner-places'
import type { Field } from './field'
import { smoothFrame } from './frame'
import { hemisphere, layRay } from './hemisphere'
import { OVER_STEP, radiusOf, STEPS } from './radii'

/**
 * Rays a place and side. On a sphere of five radii, whose curvature a tenth of them see, they are right to a
 * hundredth.
 */
const RAYS = 128
/**
 * One of so many is cast first, the lowest among them; where none of these meets anything the others are left out. What
 * is missed so is seen by fewer than one of 32.
 */
const FIRST = 4
/** Which of a memory's batches is used: those of `few-rays.ts` have been read by then. */
const BATCH = 3

/** Fields by number, which corners are named by. */
export const NUMBERED: readonly Field[] = [...fields.values()]
const DIRECTIONS = NUMBERED.map(f => hemisphere(f.spread, RAYS))
const NONE = NUMBERED.map(f => f.tells(1))

const frame = new Float64Array(6)
const sums = new Float64Array(STEPS)
/** What was measured last: the mean of what rays tell, for each step of the tier. */
export const measured = new Float32Array(STEPS)
let batch = createRayBatch(RAYS / FIRST)

/** Rays cast since it was last set to 0. */
export const cast = { rays: 0 }

/**
 * Casts rays at the {@link site} and adds up what those that meet something tell.
 * @param first number of the first ray; every `FIRST`th from there on is cast
 * @returns whether any met something
 */
function castFrom(h: Hierarchy, field: number, way: number, radius: number, first: number): boolean {
  const off = way * NUDGE * (1 + Math.abs(site.x) + Math.abs(site.y) + Math.abs(site.z))
  const { distance, triangle } = batch
  let count = 0
  for (let i = first; i < RAYS; i += FIRST) layRay(batch, count++, site, frame, DIRECTIONS[field]!, i, off, radius)
  castClosest(h, batch, count)
  cast.rays += count
  const { tells } = NUMBERED[field]!
  const none = NONE[field]!
  let any = false
  for (let i = 0; i < count; i++) {
    if (triangle[i]! < 0) continue
    any = true
    const t = distance[i]! / radius
    for (let k = 0; k < STEPS; k++) {
      const far = t * OVER_STEP[k]!
      if (far >= 1) break
      sums[k]! += tells(far) - none
    }
  }
  return any
}

/**
 * Measures a field at the {@link site}, into {@link measured}.
 * @param field number of the field
 * @param out whether rays go out of the solid; else into it
 */
export function measure(h: Hierarchy, field: number, out: boolean, tier: number): void {
  const way = out ? 1 : -1
  const radius = radiusOf(tier)
  smoothFrame(frame, site.nx, site.ny, site.nz)
  batch = batchNear(h, batch, BATCH)
  sums.fill(0)
  if (castFrom(h, field, way, radius, 0))
    for (let first = 1; first < FIRST; first++) castFrom(h, field, way, radius, first)
  for (let k = 0; k < STEPS; k++) measured[k] = NONE[field]! + sums[k]! / RAYS
}
