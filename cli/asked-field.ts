import { fields } from '../core/fields'
import type { Field } from '../core/fields/field'
import { SIDES, type Side } from '../core/point/field-ask'
import { InputError, lengthOf, type Options } from './options'

/** A field that options ask for. */
export interface AskedField {
  name: string
  field: Field
  side: Side
  /** Metres. */
  radius: number
}

/** What `--field`, `--radius` and `--side` ask for. @throws InputError for what is not known */
export function askedField(o: Options): AskedField | undefined {
  const name = o.text('field')
  if (name === undefined) return undefined
  const field = fields.get(name)
  if (!field) throw new InputError(`there is no field ${name}; known are ${[...fields.keys()].join(', ')}`)
  const side = (o.text('side') ?? 'both') as Side
  if (!SIDES.includes(side)) throw new InputError(`there is no side ${side}; known are ${SIDES.join(', ')}`)
  const radius = lengthOf(o, 'radius')
  if (radius === undefined) throw new InputError('--field needs a --radius')
  return { name, field, side, radius }
}
