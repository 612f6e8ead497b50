/** From rigs to what a {@link World} holds of lights. */
import { decodeSRGB } from '../colour/rgb'
import type { Picture } from '../formats/image'
import { createLights, type Lights } from '../light/lights'
import type { Rig } from '../light/rig'

type Floats = { width: number, height: number, data: Float32Array, space?: 'acescg' }
const floats = new WeakMap<Picture, Floats>()

/** Lights of a rig; its environment picture comes through `picture`. */
export function lightsFor(rig: Rig, picture: (file: string) => Picture | undefined, allocate?: (bytes: number) => ArrayBufferLike): Lights {
  let map: Floats | undefined
  if (rig.environment.kind === 'image') {
    const p = picture(rig.environment.asset)
    // an encoded picture is taken as sRGB; converted once, so that its tables are made once too
    if (p && !(map = floats.get(p))) floats.set(p, map = { width: p.width, height: p.height, ...(p.space ? { space: p.space } : {}), data: p.data instanceof Float32Array ? p.data : Float32Array.from(p.data, (x, i) => i % 4 === 3 ? x / 255 : decodeSRGB(x / 255)) })
  }
  return createLights(rig, map ?? null, allocate)
}
