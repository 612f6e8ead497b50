import { differ, select } from '../expression/arithmetic'
import { number } from '../expression/expression'
import { components, type Emitter, type NodeEntry } from './emit'
import { COMPONENTS } from './types'

const combine: Emitter = c =>
  Array.from({ length: 4 }, (_, i) => 'in' + (i + 1))
    .filter(n => c.typeOf(n) !== '')
    .flatMap(n => c.arg(n))
    .slice(0, c.size)
const separate: Emitter = c => c.arg('in')

/** Constants and channels (MaterialX specification, "Channel nodes"). */
export const entries: Record<string, NodeEntry> = {
  constant: { about: 'One value everywhere.', emit: c => c.arg('value') },
  combine2: { about: 'Two numbers as one value.', emit: combine },
  combine3: { about: 'Three numbers as one value.', emit: combine },
  combine4: { about: 'Four numbers as one value.', emit: combine },
  separate2: { about: 'Components of two, each by itself.', emit: separate },
  separate3: { about: 'Components of three, each by itself.', emit: separate },
  separate4: { about: 'Components of four, each by itself.', emit: separate },
  extract: {
    about: 'One component by its number, from 0.',
    emit: c => {
      const index = c.fixed('index')
      const all = c.arg('in')
      const chosen = all[index]
      // the standard's library gives the first one then
      if (chosen === undefined) c.warn(`index ${index} lies outside 0…${all.length - 1}: the first is taken`)
      return [chosen ?? all[0]!]
    },
  },
  /** Scalars fill every component; alpha and w are appended as 1, z as 0; surplus components dropped. */
  convert: {
    about: 'The same value as another type.',
    emit: c => {
      const from = c.arg('in')
      if (COMPONENTS[c.typeOf('in')] === 1)
        return components(c, () => (c.type === 'boolean' ? select(differ(from[0]!, 0), 1, 0) : from[0]!))
      return components(c, i => from[i] ?? number(i === 3 ? 1 : 0))
    },
  },
}
