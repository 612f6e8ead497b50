import type { FieldTable } from '../fields/table'
import { useOf } from '../fields/use'
import type { Lights } from '../light/lights'
import type { Program } from '../network/compile'
import { instantiate } from '../network/instantiate'
import type { TextureMap } from '../maps/map'
import { openMap, type Texture } from '../maps/texture'
import type { Material } from './render-scene'
import type { Geometry } from '../scene/geometry'

/** Everything the workers need but the camera. Plain data; geometry and textures may lie in shared memory. */
export interface World {
  geometry: Geometry
  lights: Lights
  programs: Program[]
  /** Maps of each program, in the order of {@link imagesOf}; null where a picture is missing. */
  maps: (TextureMap | null)[][]
  materialOf: Int32Array
  /** Which of glasses in each other counts, by part; the higher one. */
  priorityOf: Int32Array
  /** What threads know of fields together; null or left out where each keeps its own. */
  fields?: FieldTable | null
  maxOpaque: number
  maxSpecular: number
  /** See the scene's; 0 or left out: nothing is held. */
  clamp?: number
}

/**
 * Makes a world's materials ready to run in this thread.
 * @param open opens a map; each once, where several programs have it
 */
export const instantiateMaterials = (world: World, open?: (map: TextureMap) => Texture): Material[] =>
  world.programs.map((p, i) => instantiateMaterial(p, world.maps[i]!, open))

/**
 * Makes one program ready to run in this thread, with its displacement.
 * @param maps in the order of {@link imagesOf}
 */
export function instantiateMaterial(
  program: Program,
  maps: readonly (TextureMap | null)[],
  open: (map: TextureMap) => Texture = openMap,
): Material {
  const images = maps.map(m => m && open(m))
  const own = program.images.length
  const { displacement } = program
  return {
    shader: instantiate(program, images.slice(0, own)),
    constants: Float64Array.from(program.constants),
    fields: program.fields.map(useOf),
    straight: program.straight === true,
    opens: program.opens === true,
    ...(displacement
      ? {
          displacement: {
            shader: instantiate(displacement, images.slice(own)),
            constants: Float64Array.from(displacement.constants),
          },
        }
      : {}),
  }
}
