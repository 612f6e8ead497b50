/**
 * Fields: what a network asks of the shape around a point, found before it is shaded (`core/fields`). Shading itself
 * only reads the point. What is kept is there at once, what is missing is computed and kept. Coarse pictures take what
 * is missing from a few rays a point, which a tile's paths cast together.
 */
import { fieldAtPoint } from '../fields/at-point'
import { cast } from '../fields/measure'
import { POINT } from '../point/slots'
import type { Geometry } from '../scene/geometry'
import type { Material, RenderScene } from '../world/render-scene'
import type { FieldTable } from '../fields/table'
import { memory } from './memory'
import { draw2 } from './sampler'
import { PAIR } from './slots'
import type { Tracer } from './tracer'

const { drawn, places, radii, seeds } = memory

/** Fields with larger radii are not asked for, metres. */
const LARGEST = 1e6

/** What is asked of a material for its fields. */
export type Asking = Pick<Material, 'shader' | 'constants' | 'fields'>

/**
 * Fills what a material asks for at S.
 * @param table what is kept; null for the thread's own
 */
export function fillFields(
  geometry: Geometry,
  { shader, constants, fields }: Asking,
  S: Float64Array,
  table: FieldTable | null,
): void {
  if (fields.length === 0) return
  begin(S, fields.length)
  shader.requests(S, constants, shader.images, radii)
  for (let p = 0; p < fields.length; p++) {
    const r = radii[p]!
    if (r > 0 && r < LARGEST) fieldAtPoint(geometry, S, p, fields[p]!, r, table, true)
  }
}

/** {@link fillFields} for where a path stands; what few rays are to tell comes with {@link answerFields}. */
export function askFields(
  t: Tracer,
  scene: RenderScene,
  { shader, constants, fields }: Asking,
  S: Float64Array,
  path: number,
  bounce: number,
): void {
  if (scene.hasty !== true) {
    fillFields(scene.geometry, { shader, constants, fields }, S, scene.fields ?? null)
    return
  }
  begin(S, fields.length)
  shader.requests(S, constants, shader.images, radii)
  for (let p = 0; p < fields.length; p++) {
    const r = radii[p]!
    if (!(r > 0 && r < LARGEST)) continue
    if (fieldAtPoint(scene.geometry, S, p, fields[p]!, r, scene.fields ?? null, false)) continue
    draw2(places[path]!, seeds[path]!, PAIR.first + bounce * PAIR.stride + PAIR.fields)
    t.fewRays.ask(S, POINT.field + p, fields[p]!, r, drawn)
  }
}

/** Casts the few rays that were asked for. @returns rays cast for fields since it was last called */
export function answerFields(t: Tracer, { hierarchy }: Geometry): number {
  const rays = cast.rays + (t.fewRays.count > 0 ? t.fewRays.answer(hierarchy) : 0)
  cast.rays = 0
  return rays
}

/** A point with so many fields, of which nothing is known. */
function begin(S: Float64Array, count: number): void {
  S[POINT.fields] = count
  for (let p = 0; p < count; p++) {
    S[POINT.field + p] = 0
    const by = POINT.fieldBy + 3 * p
    S[by] = 0
    S[by + 1] = 0
    S[by + 2] = 0
  }
}
