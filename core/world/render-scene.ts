/** What is rendered, as the render loop needs it. */
import type { FieldTable } from '../fields/table'
import type { FieldUse } from '../fields/use'
import type { Lights } from '../light/lights'
import type { Shader } from '../network/instantiate'
import type { Geometry } from '../scene/geometry'

/** A material as the loop needs it. */
export interface Material {
  shader: Shader
  constants: Float64Array
  /** What it asks of the shape around a point. */
  fields: readonly FieldUse[]
  /** Whether shadow rays pass it straight. */ straight?: boolean
  /** Whether it may have openings, which they pass in any case. */
  opens?: boolean
  /** What moved its surface before it was traced. */
  displacement?: Pick<Material, 'shader' | 'constants'>
}

export interface RenderScene {
  geometry: Geometry
  lights: Lights
  materials: readonly Material[]
  /** Material of each part. */
  materialOf: Int32Array
  /** Which of glasses in each other counts, by part; the higher one. */
  priorityOf: Int32Array
  /** Output of `cameraFrame`. */
  camera: Float64Array
  /** What threads know of fields together; null or left out where each keeps its own. */
  fields?: FieldTable | null
  /** Whether fields that are not known are taken from a few rays: for pictures that stand for a moment. */
  hasty?: boolean
  maxOpaque: number
  maxSpecular: number
  /** Steps after which a walk in matter ends; as `render/walk.ts` has it where it is left out. */
  maxSteps?: number
  /** Most that a path may bring after it has scattered; 0 or left out: all of it. */
  clamp?: number
}
