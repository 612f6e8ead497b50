/**
 * Drawing of a new direction from the current surface. Lobes share one-sample multiple importance sampling (Veach
 * 1997, §9.2.4): the density is that of the whole mixture.
 */
import { evaluateIncoming } from './evaluate'
import { passageOfLobe, sampleByLobe } from './lobes/dispatch'
import { memory, now, scattered } from './memory'
import { ASK, CHANNELS, LOBE } from './slots'

const { ask, lobes, value } = memory

/**
 * Draws a direction by a lobe picked with u1. Fills `scattered` and `memory.value`.
 * @returns false when the sample carries nothing
 */
export function sample(u1: number, u2: number, u3: number): boolean {
  ask[ASK.choose] = u1
  ask[ASK.u] = u2
  ask[ASK.v] = u3
  return sampleDrawn()
}

/** {@link sample} with the draws in `memory.ask`. */
export function sampleDrawn(): boolean {
  let l = 0
  let u1 = ask[ASK.choose]!
  while (l < now.lobes - 1 && u1 >= lobes[l * LOBE.stride + LOBE.pick]!)
    u1 -= lobes[l++ * LOBE.stride + LOBE.pick]!
  const pick = lobes[l * LOBE.stride + LOBE.pick]!
  ask[ASK.choose] = Math.min(0.9999999999, u1 / pick)
  if (!sampleLobeDrawn(l)) return false
  if (scattered.smooth) {
    const scale = 1 / pick
    for (let k = 0; k < CHANNELS; k++) value[k]! *= scale
    scattered.pdf = pick
    return true
  }
  ask[ASK.x] = scattered.x
  ask[ASK.y] = scattered.y
  ask[ASK.z] = scattered.z
  evaluateIncoming()
  const pdf = ask[ASK.pdf]!
  if (!(pdf > 1e-12)) return false
  const inverse = 1 / pdf
  for (let k = 0; k < CHANNELS; k++) value[k]! *= inverse
  scattered.pdf = pdf
  return true
}

/** Draws from lobe l alone: smooth ones put their whole weight into `memory.value`; rough ones only choose. */
export function sampleLobe(l: number, choose: number, u2: number, u3: number): boolean {
  ask[ASK.choose] = choose
  ask[ASK.u] = u2
  ask[ASK.v] = u3
  return sampleLobeDrawn(l)
}

function sampleLobeDrawn(l: number): boolean {
  const o = l * LOBE.stride
  const kind = lobes[o + LOBE.kind]!
  scattered.kind = kind
  scattered.passage = passageOfLobe(kind)
  scattered.alpha = lobes[o + LOBE.alpha]!
  scattered.class = lobes[o + LOBE.class]!
  scattered.smooth = false
  scattered.transmitted = false
  return sampleByLobe(kind, o)
}
