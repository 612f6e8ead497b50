/** Closes a surface: how likely each lobe is picked, and its albedo for guides. */
import { answersBehind, lobeAnswers, lobeOfKind, pickOfLobe } from './lobes/dispatch'
import { pushWalk } from './lobes/walk'
import { memory, now } from './memory'
import { CHANNELS, LAYER, LOBE } from './slots'

const { layers, lobes } = memory

/**
 * Computes what depends on all lobes together: how likely each is picked. Call after the last push.
 * @returns false when nothing scatters
 */
export function finishSurface(): boolean {
  let sum = 0
  now.answers = false
  now.behind = false
  for (let i = 0; i < now.lobes; i++) {
    const o = i * LOBE.stride
    const y = lobes[o + LOBE.layer]! * LAYER.stride
    const kind = lobes[o + LOBE.kind]!
    if (lobeAnswers(kind, o)) {
      now.answers = true
      if (answersBehind(kind)) now.behind = true
    }
    let share =
      Math.max(0, lobes[o + LOBE.weight + 4]!) +
      Math.max(0, lobes[o + LOBE.weight + 5]!) +
      Math.max(0, lobes[o + LOBE.weight + 6]!)
    share *= pickOfLobe(kind, o)
    if (y >= 0) {
      const tint = (layers[y + LAYER.tint + 4]! + layers[y + LAYER.tint + 5]! + layers[y + LAYER.tint + 6]!) / 3
      share *= layers[y + LAYER.pass]! * tint
      if (lobes[o + LOBE.norm]! > 0) {
        lobes[o + LOBE.norm] = 1 / layers[y + LAYER.average]!
        if (layers[y + LAYER.film]! > 0)
          for (let k = 0; k < CHANNELS; k++) lobes[o + LOBE.weight + k]! *= layers[y + LAYER.even + k]!
      }
    }
    share = Math.max(share, 1e-4)
    lobes[o + LOBE.pick] = share
    sum += share
  }
  for (let i = 0; i < now.lobes; i++) lobes[i * LOBE.stride + LOBE.pick]! /= sum
  return now.lobes > 0
}

/**
 * {@link finishSurface} where light that walked below the surface leaves it: all of it leaves, through the layers
 * above, whose part on the viewer's side has been taken already when it came in. Without any lobe (a mask ends
 * here) it leaves bare.
 */
export function finishLeaving(): void {
  now.answers = true
  now.behind = true
  if (now.lobes === 0) pushWalk(-1, 1, 1, 1, 1, 1, 1, 1, 0, now.ox, now.oy, now.oz)
  let total = 0
  for (let i = 0; i < now.lobes; i++) total += lobes[i * LOBE.stride + LOBE.weight + 4]!
  for (let i = 0; i < now.lobes; i++) {
    const o = i * LOBE.stride
    const y = lobes[o + LOBE.layer]! * LAYER.stride
    const share = lobes[o + LOBE.weight + 4]! / total
    lobes[o + LOBE.pick] = share
    lobes[o + LOBE.norm] = y >= 0 ? 1 / (layers[y + LAYER.average]! * layers[y + LAYER.pass]!) : 1
    for (let k = 0; k < CHANNELS; k++)
      lobes[o + LOBE.weight + k] =
        y >= 0
          ? (share / layers[y + LAYER.tint + k]!) * (layers[y + LAYER.film]! > 0 ? layers[y + LAYER.even + k]! : 1)
          : share
  }
  now.leaving = false
}

/**
 * Directional albedo of the surface per RGB component, as far as it is known without integrating; guides and AOVs
 * only. Call after {@link finishSurface}.
 */
export function surfaceAlbedo(target: Float64Array, o: number): void {
  for (let k = 0; k < 3; k++) {
    let sum = 0
    for (let i = 0; i < now.lobes; i++) {
      const l = i * LOBE.stride
      const y = lobes[l + LOBE.layer]! * LAYER.stride
      const a = lobes[l + LOBE.weight + 4 + k]! * lobeOfKind(lobes[l + LOBE.kind]!).guide(l, k)
      sum += a * (y >= 0 ? layers[y + LAYER.pass]! * layers[y + LAYER.tint + 4 + k]! : 1)
    }
    target[o + k] = sum
  }
}
