import type { Element } from '../../core/network/document'
import { definitionOf } from '../../core/network/edit'
import { endsOf, nodeAt, type InputPlace } from '../../core/network/ends'
import { referenceOf } from '../../core/network/thickness'
import type { InputDefinition } from '../../core/nodes/definition'
import { ownUnit, rangeOf } from './labels'

/** How a number of an input is shown. */
export interface ShownAs {
  quantity: string
  unit: string
  low: number
  high: number
  /** Whether a slider goes by its logarithm. */
  log?: boolean
  /** Scene units (metres) of one in the document. */
  own: number
  /** Whether it feeds rows of different units, and is shown as a plain number therefore. */
  mixed: boolean
  /** Whether a length may be below nothing. */
  signed?: boolean
}

/** How far a height of one moves a surface. */
const AMOUNT: ShownAs = {
  quantity: 'length',
  unit: 'mm',
  low: 1e-5,
  high: 0.1,
  log: true,
  own: 1,
  mixed: false,
  signed: true,
}

/** By its name, else by the kind of unit that its definition states. */
function plainly(input: InputDefinition): ShownAs {
  const shown = { ...rangeOf(input), own: ownUnit(input), mixed: false }
  return input.unittype === 'distance' && shown.quantity === 'plain' && input.type === 'float'
    ? { ...shown, quantity: 'length', unit: 'mm', low: 1e-4, high: 1, log: true }
    : shown
}

/** How an input is shown by itself, whatever it feeds: a layer's thickness, or what its name says. */
function byItself(document: Element, place: InputPlace): ShownAs | undefined {
  const reference = referenceOf(document, place)
  if (reference !== undefined)
    return { quantity: 'length', unit: 'µm', low: 1e-6, high: 5e-4, log: true, own: reference, mixed: false }
  const node = nodeAt(document, place.node)
  if (node?.tag === 'displacement' && place.input === 'scale') return AMOUNT
  const input = node && definitionOf(node)?.inputs.find(i => i.name === place.input)
  return input && plainly(input)
}

/**
 * How a number is shown: in the unit of what it ends in, where all of that has one unit; else as its own definition
 * says.
 */
export function shownAs(document: Element, node: string, input: InputDefinition): ShownAs {
  const ends = endsOf(document, { node, input: input.name })
  const shown = ends.flatMap(e => byItself(document, e) ?? [])
  const first = shown[0]
  const own = plainly(input)
  if (!first || shown.every(s => s.unit === '')) return own
  const same = shown.every(s => s.unit === first.unit && s.own === first.own)
  return same ? first : { ...own, mixed: true }
}
