import { number, type Expression } from '../expression/expression'
import { EmitFault, type EmitContext, type NodeEntry } from './emit'
import { call, several } from './functions'
import { MOST_POINTS } from './memory'
import { table } from './table'

const INTERPOLATION = table<number>({ constant: 0, linear: 1, smooth: 2 })

/** What `ramp` and `curve` are asked: where, how many points, in which way; and the points, as `knots` has them. */
function points(c: EmitContext, value: string): [Expression[], Expression[]] {
  const count = c.fixed('count')
  const mode = INTERPOLATION[c.text('interpolation')]
  if (!(Number.isInteger(count) && count >= 1 && count <= MOST_POINTS))
    throw new EmitFault(`count is a whole number from 1 to ${MOST_POINTS}`)
  if (mode === undefined) throw new EmitFault('interpolation is constant, linear or smooth')
  const numbers = Array.from({ length: count }, (_, k) => k + 1)
  const places = numbers.map(k => c.arg(`position${k}`)[0]!)
  const unused = new Array<Expression>(MOST_POINTS - count).fill(number(0))
  return [
    [c.arg('in')[0]!, number(count), number(mode)],
    [...places, ...unused, ...numbers.flatMap(k => c.arg(value + k))],
  ]
}

/**
 * Our ramp and curve: `count` points in order; one that lies before its predecessor stands where that one does.
 * Constant beyond the ends.
 */
export const entries: Record<string, NodeEntry> = {
  wl_ramp: {
    about: 'Colour between points that an artist sets.',
    emit: c => {
      const [asked, knots] = points(c, 'color')
      return several('ramp', asked, 3, knots)
    },
  },
  wl_curve: {
    about: 'Number between points that an artist sets.',
    emit: c => {
      const [asked, knots] = points(c, 'value')
      return [call('curve', asked, knots)]
    },
  },
}
