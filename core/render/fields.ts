/**
 * Fields at one point: what a network asks of the shape around it, found before it is shaded. Paths ask in batches
 * (`meet.ts`); who looks at a point by itself (an opening that a shadow ray passes, where a light ends) asks here.
 * Shading itself only reads the point.
 */
import type { Geometry } from '../scene/geometry'
import type { Material } from '../world/render-scene'
import { memory } from './memory'
import { createProbes } from './probes'

const { radii, turnedDraws } = memory
const lone = createProbes(1)

/** Steps of an even sequence in the plane (Roberts 2018, from memory), by which the draws of one path are turned. */
const STEP = [0.7548776662466927, 0.5698402909980532] as const

/**
 * Fills what a material asks for at S.
 * @param draws two numbers in 0..1
 * @param turn how often points of this path have asked with them
 * @returns rays cast
 */
export function fillFields(
  geometry: Geometry,
  material: Material,
  S: Float64Array,
  draws: Float64Array,
  turn: number,
): number {
  if (material.probes.length === 0) return 0
  material.shader.requests(S, material.constants, material.shader.images, radii)
  turnedDraws[0] = (draws[0]! + turn * STEP[0]) % 1
  turnedDraws[1] = (draws[1]! + turn * STEP[1]) % 1
  lone.ask(S, material.probes, radii, turnedDraws)
  return lone.answer(geometry.hierarchy)
}
