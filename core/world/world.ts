import type { Lights } from '../light/lights'
import type { Program } from '../network/compile'
import { instantiate } from '../network/instantiate'
import type { Texture } from '../maps/texture'
import type { Material } from './render-scene'
import type { Geometry } from '../scene/geometry'

/** Everything the workers need but the camera. Plain data; geometry and textures may lie in shared memory. */
export interface World {
  geometry: Geometry
  lights: Lights
  programs: Program[]
  /** Textures of each program, in the order of its images. */
  textures: (Texture | null)[][]
  materialOf: Int32Array
  /** Which of glasses in each other counts, by part; the higher one. */
  priorityOf: Int32Array
  maxOpaque: number
  maxSpecular: number
  /** See the scene's; 0 or left out: nothing is held. */
  clamp?: number
}

/** Makes a world's materials ready to run in this thread. */
export function instantiateMaterials(world: World): Material[] {
  return world.programs.map((p, i) => ({
    shader: instantiate(p, world.textures[i]!),
    constants: Float64Array.from(p.constants),
    probes: p.probes,
    straight: p.straight === true,
  }))
}
