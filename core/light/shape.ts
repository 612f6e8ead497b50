/** What a shape of light is, and those that are added while the program runs. */
import { FIRST_ADDED_SHAPE, nameShape } from '../scene/shape-kinds'

/** Half edges, and the length of u × v, of a panel that is being prepared. */
export interface PanelEdges {
  u: readonly number[]
  v: readonly number[]
  cross: number
  /** Of a ball: degrees. */
  cone?: readonly [number, number] | undefined
}

/** What does not depend on who asks. */
export interface PreparedShape {
  /** That it shows, m²; 0 for what lies in a direction, whoever looks. */
  area: number
  /** The two words of its cone. */
  cone?: readonly [scale: number, offset: number]
  /** Whether it has no edges that may be soft. */
  hard?: boolean
  /**
   * Given for what is met within its first half edge on all sides: degrees from its axis up to which light leaves. All
   * else is flat, and is met within both half edges.
   */
  around?: number
}

/**
 * One shape of a rig's lights: a file in `shapes/`, and a line in `scene/shape-kinds.ts`. Methods get the panels
 * p and the offset o of one of them; results go to `lit`.
 */
export interface LightShape {
  prepare(edges: PanelEdges): PreparedShape
  /** Estimates what it gives at the point that begins at `at`, unshadowed, to lit.estimate. */
  weigh(p: Float64Array, o: number, point: Float64Array, at: number): void
  /**
   * Draws a direction to it from the point S by lit.u and lit.v: direction, distance, radiance, and the density per
   * steradian times lit.share. @returns false when there is none
   */
  sample(p: Float64Array, o: number, S: Float64Array): boolean
  /** Density of {@link sample} for a ray that met it at lit.distance, times lit.share. */
  density(p: Float64Array, o: number, origin: Float64Array, direction: Float64Array, at: number): void
  /** Whether a ray meets its shining side before lit.distance, which then is the distance; where goes to `met`. */
  hit(p: Float64Array, o: number, origin: Float64Array, direction: Float64Array, at: number): boolean
  /** Share of its radiance that leaves where a ray met it last. */
  fade(p: Float64Array, o: number): number
  /**
   * A point of it by two draws, as a way from `point` into `toLight`; lit.distance is how far.
   * @returns false where that side does not shine
   */
  aim(p: Float64Array, o: number, point: Float64Array, draw: Float64Array): boolean
}

const added: LightShape[] = []

/** Adds a shape from outside, under a name that rigs may use. @returns its number */
export function registerShape(name: string, shape: LightShape): number {
  added.push(shape)
  return nameShape(name)
}

/** A shape that was registered. */
export const registeredShape = (number: number): LightShape => added[number - FIRST_ADDED_SHAPE]!
