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
import { memory } from './memory'
import { draw2 } from './sampler'
import { PAIR } from './slots'
import type { Tracer } from './tracer'

const { drawn, places, radii, seeds } = memory

/** Fields with larger radii are not asked for, metres. */
const LARGEST = 1e6

/** What is asked of a material for its fields. */
export type Asking = Pick<Material, 'shader' | 'constants' | 'fields'>

/** What fields are asked of, and what is kept of them. */
export type Asked = Pick<RenderScene, 'geometry' | 'fields'>

/** Fills what a material asks for at S. */
export function fillFields({ geometry, fields: table }: Asked, asking: Asking, S: Float64Array): void {
  const { fields } = asking
  if (fields.length === 0) return
  askRadii(asking, S)
  for (let p = 0; p < fields.length; p++)
    if (isAsked(radii[p]!)) fieldAtPoint(geometry, S, p, fields[p]!, radii[p]!, table ?? null, true)
}

/** {@link fillFields} for where a path stands; what few rays are to tell comes with {@link answerFields}. */
export function askFields(
  t: Tracer,
  scene: RenderScene,
  asking: Asking,
  S: Float64Array,
  path: number,
  bounce: number,
): void {
  if (scene.hasty !== true) return fillFields(scene, asking, S)
  const { fields } = asking
  askRadii(asking, S)
  for (let p = 0; p < fields.length; p++) {
    const r = radii[p]!
    if (!isAsked(r) || fieldAtPoint(scene.geometry, S, p, fields[p]!, r, scene.fields ?? null, false)) continue
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

/** Finds the radii of a material's fields at S, of which nothing else is known then. */
function askRadii({ shader, constants, fields }: Asking, S: Float64Array): void {
  S[POINT.fields] = fields.length
  S.fill(0, POINT.field, POINT.field + fields.length)
  S.fill(0, POINT.fieldBy, POINT.fieldBy + 3 * fields.length)
  shader.requests(S, constants, shader.images, radii)
}

const isAsked = (radius: number): boolean => radius > 0 && radius < LARGEST
