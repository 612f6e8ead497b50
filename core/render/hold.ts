/**
 * Holding fireflies: a path whose scattered light is brighter than a limit brings only the limit, in its own
 * colour. It takes light away that belongs to the picture, so it is off unless a scene asks for it, and said
 * wherever the picture goes. What the camera sees directly is never held. (Common practice.)
 */
import { CHANNELS } from '../surface/slots'
import { BATCH } from './film'
import { EMISSION_LAYER, toRec709, type Layers } from './layers'
import { rounded } from './rounded'
import { memory } from './memory'

const { direct, lanes, radiance, seen } = memory

let seenLight = new Float64Array(0)

/** Keeps what the paths carry before any light has been scattered. */
export function keepSeen(layers: Layers | null): void {
  seen.set(radiance)
  if (!layers) return
  if (seenLight.length < layers.light.length) seenLight = new Float64Array(layers.light.length)
  seenLight.set(layers.light)
}

/**
 * Holds the samples of a tile, and what is kept apart of them in step.
 * @param limit radiance of the brightest component
 * @param out linear Rec.709 of each path
 */
export function holdSamples(n: number, limit: number, out: Float64Array, layers: Layers | null): void {
  for (let path = 0; path < n; path++) {
    const o = path * 3
    toRec709(seen, path * CHANNELS, lanes, path * 4, direct, 0)
    const most = Math.max(out[o]! - direct[0]!, out[o + 1]! - direct[1]!, out[o + 2]! - direct[2]!)
    if (!(most > limit)) continue
    const share = limit / most
    for (let k = 0; k < 3; k++) out[o + k] = rounded(direct[k]! + (out[o + k]! - direct[k]!) * share)
    if (layers) holdLayers(layers, path, share)
  }
}

function holdLayers(l: Layers, path: number, share: number): void {
  for (let light = 0; light < l.lights; light++)
    for (let j = 0, t = (light * BATCH + path) * CHANNELS; j < CHANNELS; j++, t++)
      l.light[t] = seenLight[t]! + (l.light[t]! - seenLight[t]!) * share
  // lobes: what is seen directly has layers of its own, emission and background, the last two
  if (l.lobes)
    for (let lobe = 0; lobe < EMISSION_LAYER; lobe++)
      for (let j = 0, t = (lobe * BATCH + path) * CHANNELS; j < CHANNELS; j++) l.lobe[t + j]! *= share
}
