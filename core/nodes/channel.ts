import { COMPONENTS } from './types'
import { EmitFault, type Emitter } from './emit'

const combine: Emitter = c =>
  Array.from({ length: 4 }, (_, i) => 'in' + (i + 1))
    .filter(n => c.typeOf(n) !== '')
    .flatMap(n => c.arg(n))
    .slice(0, c.size)
const separate: Emitter = c => c.arg('in')

/** Constants and channels (MaterialX specification, "Channel nodes"). */
export const emitters: Record<string, Emitter> = {
  constant: c => c.arg('value'),
  combine2: combine,
  combine3: combine,
  combine4: combine,
  separate2: separate,
  separate3: separate,
  separate4: separate,
  extract: c => {
    const index = c.fixed('index')
    const components = c.arg('in')
    const chosen = components[index]
    if (chosen === undefined) throw new EmitFault(`index ${index} lies outside 0…${components.length - 1}`)
    return [chosen]
  },
  /** Scalars are repeated, alpha and w appended as 1, z as 0; surplus components dropped. */
  convert: c => {
    const from = c.arg('in')
    const n = c.size
    const scalar = COMPONENTS[c.typeOf('in')] === 1
    if (scalar)
      return c.type === 'boolean'
        ? [`(${from[0]} !== 0 ? 1 : 0)`]
        : Array.from({ length: n }, (_, i) => (c.type === 'color4' && i === 3 ? '1' : from[0]!))
    return Array.from({ length: n }, (_, i) => from[i] ?? (i === 3 ? '1' : '0'))
  },
}
