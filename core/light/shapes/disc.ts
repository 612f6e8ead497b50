/** The ellipse within its half edges, shining on one side. */
import { CIRCLE, onCircle } from '../../surface/circle'
import { lit, memory } from '../memory'
import type { PanelEdges } from '../shape'
import { PANEL } from '../slots'
import { hitFlat, sampleFlat, setRadiance, softEdge } from './flat'

const { met } = memory

export const prepare = ({ cross }: PanelEdges) => ({ area: Math.PI * cross })
export { aimFlat as aim, densityFlat as density, weighFlat as weigh } from './flat'

/** What is left at (a, b) of its half edges. */
const left = (p: Float64Array, o: number, a: number, b: number): number =>
  p[o + PANEL.soft]! > 0 ? softEdge(p, o, 1 - Math.sqrt(a * a + b * b)) : 1

export function sample(p: Float64Array, o: number, S: Float64Array): boolean {
  const r = Math.sqrt(lit.u)
  onCircle(lit.v)
  const a = r * CIRCLE[0]!
  const b = r * CIRCLE[1]!
  if (!sampleFlat(p, o, S, a, b)) return false
  setRadiance(p, o, left(p, o, a, b))
  return true
}

export const hit = (p: Float64Array, o: number, origin: Float64Array, direction: Float64Array, at: number) =>
  hitFlat(p, o, origin, direction, at, true)

export const fade = (p: Float64Array, o: number): number => left(p, o, met[0]!, met[1]!)
