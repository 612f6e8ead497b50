import { CONTROL } from '../../workers/protocol'

/** Who has more of the machine while the render rests. */
export type RestFor = 'canvas' | 'shape'

/**
 * Rests of the render workers between two tiles. @returns sets one, ms; the longest that anybody needs counts
 */
export function createRests(control: Int32Array): (ms: number, to?: RestFor) => void {
  const rests: Record<RestFor, number> = { canvas: 0, shape: 0 }
  return (ms, to = 'canvas') => {
    rests[to] = ms
    Atomics.store(control, CONTROL.rest, Math.max(rests.canvas, rests.shape))
  }
}
