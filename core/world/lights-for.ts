/** From rigs to what a {@link World} holds of lights. */
import { acescgToRec709, decodeSRGB } from '../colour/rgb'
import type { Picture } from '../formats/pictures/picture'
import { createLights } from '../light/create-lights'
import type { Lights } from '../light/lights'
import type { Rig } from '../scene/rig'

type Floats = { width: number; height: number; data: Float32Array }
const floats = new WeakMap<Picture, Floats>()

/** Rows of what turns ACEScg into linear Rec.709. */
const FROM_ACESCG = [0, 1, 2].map(k =>
  [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ].map(c => acescgToRec709(c)[k]!),
)

/** A picture as linear Rec.709: an encoded one is taken as sRGB. */
function linear(p: Picture): Float32Array {
  if (!(p.data instanceof Float32Array))
    return Float32Array.from(p.data, (x, i) => (i % 4 === 3 ? x / 255 : decodeSRGB(x / 255)))
  if (p.space !== 'acescg') return p.data
  const { data } = p
  const out = data.slice()
  for (let i = 0; i < data.length; i += 4)
    for (let k = 0; k < 3; k++) {
      const m = FROM_ACESCG[k]!
      out[i + k] = m[0]! * data[i]! + m[1]! * data[i + 1]! + m[2]! * data[i + 2]!
    }
  return out
}

/** Lights of a rig; its environment picture comes through `picture`. */
export function lightsFor(
  rig: Rig,
  picture: (file: string) => Picture | undefined,
  allocate?: (bytes: number) => ArrayBufferLike,
): Lights {
  let map: Floats | undefined
  if (rig.environment.kind === 'image') {
    const p = picture(rig.environment.asset)
    // converted once, so that its tables are made once too
    if (p && !(map = floats.get(p))) floats.set(p, (map = { width: p.width, height: p.height, data: linear(p) }))
  }
  return createLights(rig, map ?? null, allocate)
}
