/** A rectangle, or a parallelogram, that shines on one side. */
import { lit, memory } from '../memory'
import type { PanelEdges } from '../shape'
import { PANEL } from '../slots'
import { hitFlat, sampleFlat, setRadiance, softEdge } from './flat'

const { met } = memory

export const prepare = ({ cross }: PanelEdges) => ({ area: 4 * cross })
export { aimFlat as aim, densityFlat as density, weighFlat as weigh } from './flat'

/** What is left at (a, b) of its half edges. */
const left = (p: Float64Array, o: number, a: number, b: number): number =>
  p[o + PANEL.soft]! > 0 ? softEdge(p, o, 1 - Math.max(Math.abs(a), Math.abs(b))) : 1

export function sample(p: Float64Array, o: number, S: Float64Array): boolean {
  const a = 2 * lit.u - 1
  const b = 2 * lit.v - 1
  if (!sampleFlat(p, o, S, a, b)) return false
  setRadiance(p, o, left(p, o, a, b))
  return true
}

export const hit = (p: Float64Array, o: number, origin: Float64Array, direction: Float64Array, at: number) =>
  hitFlat(p, o, origin, direction, at, false)

export const fade = (p: Float64Array, o: number): number => left(p, o, met[0]!, met[1]!)
