/** Adding what a lobe brings to `memory.value`, through the layers that it lies under. */
import { cosineWithin } from './medium'
import { memory, now } from './memory'
import { askLayer, filmPass, slantOf } from './layers'
import { ALBEDO, ASK, CHANNELS, LAYER, LOBE } from './slots'

const { albedo, ask, fresnel, layerFresnel, layers, lobes, passes, passIn, tintIn, value } = memory

/** Seven zeros. Written out: `fill` is a call, and cost a tenth of an evaluation. */
export function clearValue(): void {
  value[0] = 0
  value[1] = 0
  value[2] = 0
  value[3] = 0
  value[4] = 0
  value[5] = 0
  value[6] = 0
}

/** What passes each layer from the direction asked for, cumulative from the top. */
export function enterLayers(): void {
  const ix = ask[ASK.x]!
  const iy = ask[ASK.y]!
  const iz = ask[ASK.z]!
  for (let y = 0; y < now.layers; y++) {
    const o = y * LAYER.stride
    const parent = layers[o]!
    const weight = layers[o + LAYER.weight]!
    let cos = layers[o + LAYER.nx]! * ix + layers[o + LAYER.ny]! * iy + layers[o + LAYER.nz]! * iz
    cos = cosineWithin(cos < 1e-5 ? 1e-5 : cos > 1 ? 1 : cos, layers[o + LAYER.shrink]!)
    albedo[ALBEDO.cosine] = cos
    askLayer(o)
    passIn[y] = (1 - weight * albedo[ALBEDO.answer]!) * (parent >= 0 ? passIn[parent]! : 1)
    const tinted = layers[o + LAYER.tinted] === 1
    if (!tinted && parent < 0) {
      const t = y * CHANNELS
      tintIn[t] = 1
      tintIn[t + 1] = 1
      tintIn[t + 2] = 1
      tintIn[t + 3] = 1
      tintIn[t + 4] = 1
      tintIn[t + 5] = 1
      tintIn[t + 6] = 1
      continue
    }
    const slant = tinted ? 0.5 * slantOf(cos, layers[o + LAYER.eta]!) : 0
    const film = layers[o + LAYER.film]! > 0
    if (film) filmPass(o, cos, albedo[ALBEDO.answer]!)
    for (let k = 0; k < CHANNELS; k++) {
      const own = tinted ? 1 - weight + weight * Math.exp(slant * layers[o + LAYER.log + k]!) : 1
      tintIn[y * CHANNELS + k] =
        own * (parent >= 0 ? tintIn[parent * CHANNELS + k]! : 1) * (film ? layerFresnel[k]! : 1)
    }
  }
}

/** Adds ask[factor] · lobe weight · layers of the lobe at o. */
export function accumulate(o: number): void {
  let factor = ask[ASK.factor]!
  const layer = lobes[o + LOBE.layer]!
  const w = o + LOBE.weight
  if (layer < 0) {
    value[0]! += factor * lobes[w]!
    value[1]! += factor * lobes[w + 1]!
    value[2]! += factor * lobes[w + 2]!
    value[3]! += factor * lobes[w + 3]!
    value[4]! += factor * lobes[w + 4]!
    value[5]! += factor * lobes[w + 5]!
    value[6]! += factor * lobes[w + 6]!
    return
  }
  const t = layer * LAYER.stride + LAYER.tint
  const i = layer * CHANNELS
  const out = layers[layer * LAYER.stride + LAYER.pass]!
  const pin = passIn[layer]!
  const norm = lobes[o + LOBE.norm]!
  factor *= norm > 0 ? out * pin * norm : out < pin ? out : pin
  value[0]! += factor * layers[t]! * tintIn[i]! * lobes[w]!
  value[1]! += factor * layers[t + 1]! * tintIn[i + 1]! * lobes[w + 1]!
  value[2]! += factor * layers[t + 2]! * tintIn[i + 2]! * lobes[w + 2]!
  value[3]! += factor * layers[t + 3]! * tintIn[i + 3]! * lobes[w + 3]!
  value[4]! += factor * layers[t + 4]! * tintIn[i + 4]! * lobes[w + 4]!
  value[5]! += factor * layers[t + 5]! * tintIn[i + 5]! * lobes[w + 5]!
  value[6]! += factor * layers[t + 6]! * tintIn[i + 6]! * lobes[w + 6]!
}

/** {@link accumulate} with what is in `memory.fresnel` besides. */
export function accumulateColoured(o: number): void {
  let factor = ask[ASK.factor]!
  const layer = lobes[o + LOBE.layer]!
  const w = o + LOBE.weight
  if (layer < 0) {
    for (let k = 0; k < CHANNELS; k++) value[k]! += factor * lobes[w + k]! * fresnel[k]!
    return
  }
  const t = layer * LAYER.stride + LAYER.tint
  const i = layer * CHANNELS
  const out = layers[layer * LAYER.stride + LAYER.pass]!
  const pin = passIn[layer]!
  factor *= out < pin ? out : pin
  for (let k = 0; k < CHANNELS; k++)
    value[k]! += factor * layers[t + k]! * tintIn[i + k]! * lobes[w + k]! * fresnel[k]!
}

/**
 * Adds what leaves on the far side of the surface: only the layers on the viewer's side are crossed. Tinted by
 * LOBE.f0, and by `memory.passes` where `coloured`.
 */
export function accumulateThrough(o: number, coloured: boolean): void {
  const layer = lobes[o + LOBE.layer]!
  const w = o + LOBE.weight
  const f = o + LOBE.f0
  const factor = ask[ASK.factor]! * (layer >= 0 ? layers[layer * LAYER.stride + LAYER.pass]! : 1)
  const t = layer * LAYER.stride + LAYER.tint
  for (let k = 0; k < CHANNELS; k++)
    value[k]! +=
      factor * lobes[w + k]! * lobes[f + k]! * (coloured ? passes[k]! : 1) * (layer >= 0 ? layers[t + k]! : 1)
}
