import { createVariables, type Block } from '../expression/block'
import type { Expression } from '../expression/expression'
import { parseValue } from '../nodes/types'
import type { Fault, Op } from './resolve'

/**
 * What of a surface is wanted: all of it; the light that it sends out; or what light may pass straight, with what
 * weakens it.
 */
export type Wanted = 'all' | 'light' | 'passage'

/** What writing closures needs of the compiler. */
export interface ClosureCompiler {
  want: Wanted
  /** Components of an input. */
  arg(op: Op, name: string): Expression[]
  text(op: Op, name: string): string
  /**
   * Whether the document says anything of an input. Unlike {@link untouched}, values play no part in it, so that
   * code that asks depends on the topology alone.
   */
  mentions(op: Op, name: string): boolean
  /** Whether the document leaves an input at its default. */
  untouched(op: Op, name: string): boolean
  /** A variable that no statement has made yet. */
  variable(): Expression
  /** Whether one more closure is written; says so once where there are too many. */
  afford(op: Op): boolean
  fault(op: Op, message: string, severity?: Fault['severity']): void
}

/** Surfaces, scatterings and emissions that a material may unfold to, mixes and sums counted. */
const MOST_CLOSURES = 1024

/** @param arg components of an input */
export function createClosureCompiler(
  want: Wanted,
  arg: ClosureCompiler['arg'],
  fault: ClosureCompiler['fault'],
): ClosureCompiler {
  let closures = 0
  return {
    want,
    arg,
    fault,
    text: (op, name) => {
      const s = op.inputs.get(name)
      return s?.kind === 'text' ? s.value : ''
    },
    untouched: (op, name) => {
      const s = op.inputs.get(name)
      if (!s || s.kind === 'none') return true
      if (s.kind !== 'number') return false
      const d = op.definition.inputs.find(i => i.name === name)?.default ?? ''
      const usual = d === '' ? s.value.map(() => 0) : parseValue(s.type, d)
      return usual?.every((v, k) => v === s.value[k]) === true
    },
    mentions: (op, name) => {
      const s = op.inputs.get(name)
      return (
        s !== undefined &&
        s.kind !== 'none' &&
        !(s.kind === 'number' && s.unsaid) &&
        !(s.kind === 'op' && s.op.path.startsWith('@'))
      )
    },
    variable: createVariables(),
    afford: op => {
      closures++
      if (closures === MOST_CLOSURES + 1)
        fault(op, `the material unfolds to more than ${MOST_CLOSURES} pieces of scattering and light here`)
      return closures <= MOST_CLOSURES
    },
  }
}

/** Adds a call. */
export const run = (block: Block, name: string, operands: Expression[]): void =>
  void block.items.push({ kind: 'call', name, operands })

/** Adds a call, and names what it gives. */
export function runFor(block: Block, name: string, operands: Expression[], c: ClosureCompiler): Expression {
  const gives = c.variable()
  block.items.push({ kind: 'call', name, operands, gives })
  return gives
}
