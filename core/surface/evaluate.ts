/** Evaluation of the current surface for a given direction: the density is that of the whole mixture of lobes. */
import { clearValue, enterLayers } from './accumulate'
import { evaluateLobe } from './lobes/dispatch'
import { memory, now } from './memory'
import { ASK, FACET, LOBE } from './slots'

const { ask, facet, lobes } = memory

/**
 * Evaluates f·|cos θi| for light from direction i into `memory.value`, smooth lobes left out.
 * @returns density (per steradian) with which `sample` would choose i
 */
export function evaluate(ix: number, iy: number, iz: number): number {
  ask[ASK.x] = ix
  ask[ASK.y] = iy
  ask[ASK.z] = iz
  evaluateIncoming()
  return ask[ASK.pdf]!
}

/** {@link evaluateIncoming} of the lobes of one class alone; the density is then theirs too. */
export function evaluateClass(of: number): void {
  now.only = of
  evaluateIncoming()
  now.only = -1
}

/** {@link evaluate} for the direction in `memory.ask`; the density goes to its pdf. */
export function evaluateIncoming(): void {
  const ix = ask[ASK.x]!
  const iy = ask[ASK.y]!
  const iz = ask[ASK.z]!
  clearValue()
  facet[FACET.x] = ix
  facet[FACET.y] = iy
  facet[FACET.z] = iz
  now.reflected =
    ix * now.gx + iy * now.gy + iz * now.gz > 0 || (now.lenient && ix * now.sx + iy * now.sy + iz * now.sz > 0)
  if (now.layers > 0 && now.reflected) enterLayers()
  let pdf = 0
  for (let l = 0, o = 0; l < now.lobes; l++, o += LOBE.stride) {
    if (now.only >= 0 && lobes[o + LOBE.class] !== now.only) continue
    facet[FACET.light] = lobes[o + LOBE.nx]! * ix + lobes[o + LOBE.ny]! * iy + lobes[o + LOBE.nz]! * iz
    ask[ASK.pdf] = 0
    evaluateLobe(lobes[o + LOBE.kind]!, o)
    pdf += lobes[o + LOBE.pick]! * ask[ASK.pdf]!
  }
  ask[ASK.pdf] = pdf
}
