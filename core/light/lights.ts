import type { Choices } from './choices'
import type { Emitters } from './emitters'
import type { PanelBoxes } from './panel-boxes'

/**
 * Environment picture, RGB float, row 0 at the top, with the tables by which it is drawn from: of cells between
 * the pixels' centres, one row of them more than of pixels.
 */
export interface EnvironmentMap {
  /** The same for lights of one picture, wherever they were prepared. */
  id: number
  width: number
  height: number
  rgb: Float32Array
  /** Cumulative rows, then cumulative columns of each row. */
  rows: Float32Array
  columns: Float32Array
  /** Cosines of the angles from above between which each row of cells lies. */
  edges: Float64Array
  /** Mean of luminance · sin θ. */
  mean: number
}

/**
 * Lights of a rig in flat arrays, ready for the render loop. Plain data; large tables may lie in shared memory.
 */
export interface Lights {
  panels: Float64Array
  panelCount: number
  /** Boxes over the panels, for rays; null where they are few. */
  boxes: PanelBoxes | null
  /** What a point chooses among when it draws a light, as far as panels go. */
  choices: Choices
  /** By light: in which layer of a picture it is kept apart. */
  layerOf: Int32Array
  /** How many layers there are. */
  layerCount: number
  /** Radiance of a uniform environment; scale of a picture. */
  environment: [number, number, number]
  /** Environment picture, RGB float, row 0 at the top; null for uniform. */
  map: EnvironmentMap | null
  /** Cosine and sine of the environment picture's turn. */
  cos: number
  sin: number
  /** What the camera sees; null for the environment itself. */
  backdrop: [number, number, number] | null
  /** Estimated irradiance that a picture gives, for choosing between it and panels. */
  mapPower: number
  /** Triangles of the model that shine; found by each thread itself, null until then and where there are none. */
  emitters: Emitters | null
  /** Share of each choice that each part sees, see `visibility.ts`; null for all of it. */
  visible: Float64Array | null
  /** What is seen from the inside of parts, found when it is asked for; null for all of all lights. */
  within: Within | null
  /**
   * How light is gathered: drawn lights and drawn directions joined, or one of them alone where both could find
   * it. Anything but `both` is for measuring what it costs to do without.
   */
  gather: 'both' | 'lights' | 'directions'
}

/** Shares of each choice that are seen from within each part, see `seenFromWithin` in `visibility.ts`. */
export interface Within {
  /** By part: one number a choice; null where all are. */
  shares: (Float64Array | null)[]
  /** Whether light passes a part straight. */
  passes: (part: number) => boolean
}

/** Lights are numbered: panels, the environment, what parts send out. */
export const environmentLight = (lights: Lights): number => lights.panelCount
export const emissionLight = (lights: Lights): number => lights.panelCount + 1

/** Choices are numbered: those for panels, the environment, those for what parts send out. */
export const environmentChoice = (lights: Lights): number => lights.choices.of.length
export const choiceCount = (lights: Lights): number =>
  lights.choices.of.length + 1 + (lights.emitters === null ? 0 : lights.emitters.cut.length)
