import type { FieldAsk } from '../point/field-ask'
import { fields } from '.'

/** A field as it is found at points: its number, and how much what rays into the solid and out of it tell counts. */
export interface FieldUse {
  field: number
  inside: number
  outside: number
}

const NAMES = [...fields.keys()]

/** @throws RangeError for a field that there is not */
export function useOf({ field, side }: FieldAsk): FieldUse {
  const number = NAMES.indexOf(field)
  if (number < 0) throw new RangeError(`there is no field ${field}; known are ${NAMES.join(', ')}`)
  return { field: number, ...fields.get(field)!.weights(side) }
}
