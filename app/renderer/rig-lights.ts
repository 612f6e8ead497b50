import type { Picture } from '../../core/formats/pictures/picture'
import type { Lights } from '../../core/light/lights'
import type { Rig } from '../../core/scene/rig'
import { lightsFor } from '../../core/world/lights-for'
import type { Loader } from './loader'

/**
 * Lights of rigs, asked once for the same rig after another. Tables of skies and pictures take their time: the loader
 * makes them, off the page's own thread.
 * @param picture of an environment; undefined while it is not there
 * @returns lights of a rig, by all that says how they are
 */
export function createRigLights(picture: (file: string) => Picture | undefined) {
  let last: { of: string; lights: Promise<Lights> } | undefined
  const shared = (bytes: number): ArrayBufferLike => new SharedArrayBuffer(bytes)

  async function made(rig: Rig, l: Loader): Promise<Lights> {
    const { environment } = rig
    return environment.kind === 'uniform'
      ? lightsFor(rig, picture, shared)
      : l.lights(rig, environment.kind === 'image' ? (picture(environment.asset) ?? null) : null)
  }

  return (of: string, rig: Rig, l: Loader): Promise<Lights> => {
    if (last?.of !== of) {
      const lights = made(rig, l)
      last = { of, lights }
      // asked for again, they are made again
      lights.catch(() => {
        if (last?.lights === lights) last = undefined
      })
    }
    return last.lights
  }
}
