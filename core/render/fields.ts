/**
 * Fields: what a network asks of the shape around a point, found before it is shaded. Paths ask in batches
 * (`meet.ts`); who looks at a point by itself (an opening that a shadow ray passes, where a light ends, a value that is
 * shown alone) has it filled here. Shading itself only reads the point.
 */
import type { Geometry } from '../scene/geometry'
import type { Material } from '../world/render-scene'
import { memory } from './memory'
import { createProbes, type Probes } from './probes'
import { draw2 } from './sampler'
import { PAIR } from './slots'

const { drawn, places, radii, seeds, turnedDraws } = memory
const lone = createProbes(1)

/** What is asked of a material for its fields. */
export type Asking = Pick<Material, 'shader' | 'constants' | 'probes'>

/** Steps of an even sequence in the plane (Roberts 2018, from memory), by which draws are turned. */
const STEP = [0.7548776662466927, 0.5698402909980532] as const

/** Asks for the fields of a material at S. @param draws two numbers in 0..1 */
export function askFields(
  probes: Probes,
  { shader, constants, probes: sides }: Asking,
  S: Float64Array,
  draws: Float64Array,
) {
  shader.requests(S, constants, shader.images, radii)
  probes.ask(S, sides, radii, draws)
}

/**
 * Fills what a material asks for at S.
 * @param draws two numbers in 0..1
 * @param turn how often was asked with them before
 */
export function fillFields(
  geometry: Geometry,
  material: Asking,
  S: Float64Array,
  draws: Float64Array,
  turn: number,
): void {
  if (material.probes.length === 0) return
  turnedDraws[0] = (draws[0]! + turn * STEP[0]) % 1
  turnedDraws[1] = (draws[1]! + turn * STEP[1]) % 1
  askFields(lone, material, S, turnedDraws)
  lone.answer(geometry.hierarchy)
}

/** Draws, into `drawn`, for the fields of a path at a bounce. */
export const drawFields = (path: number, bounce: number): void =>
  draw2(places[path]!, seeds[path]!, PAIR.first + bounce * PAIR.stride + PAIR.probes)

/** {@link fillFields} at a point beside a path's own, by the draws of the path where it stands. */
export function fillFieldsBeside(
  geometry: Geometry,
  material: Asking,
  S: Float64Array,
  path: number,
  bounce: number,
  turn: number,
): void {
  if (material.probes.length === 0) return
  drawFields(path, bounce)
  fillFields(geometry, material, S, drawn, turn)
}
