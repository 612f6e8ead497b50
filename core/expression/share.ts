import type { Expression } from './expression'

/** An expression of which there is one in its program, however often it is asked for. */
export interface Shared extends Expression {
  readonly operands: readonly Shared[]
  /** Number in the order of making: what an expression is made of comes before it. */
  readonly id: number
  /** Points beside points that it is asked at, one within the other. */
  readonly reliefs: number
  /** Whether a statement's variable is in it: such values have a place in the order of statements. */
  readonly ordered: boolean
}

/** The expressions of one program. */
export interface Sharing {
  /** The one expression that is equal to this one. Its operands, down to what is shared already, are shared too. */
  share(e: Expression): Shared
  /** All of them, by their numbers. */
  readonly all: readonly Shared[]
}

/** Whether an expression with these operands is the one that is known. */
function isSame(known: Shared, e: Expression, operands: readonly Shared[]): boolean {
  if (known.operation !== e.operation || known.type !== e.type || known.name !== e.name) return false
  if (!Object.is(known.at, e.at) || known.operands.length !== operands.length) return false
  for (let k = 0; k < operands.length; k++) if (known.operands[k] !== operands[k]) return false
  return true
}

/** A number that equal expressions have in common. */
function hashOf(e: Expression, operands: readonly Shared[]): number {
  let h = e.operation.length * 31 + e.operation.charCodeAt(0)
  h = Math.imul(h, 31) + ((e.at * 8191) | 0)
  for (const o of operands) h = Math.imul(h ^ o.id, 0x9e3779b1)
  return h
}

/** Begins a program's expressions. What is handed to `share` may be as deep as one node makes it. */
export function createSharing(): Sharing {
  const all: Shared[] = []
  const known = new Map<number, Shared[]>()
  const own = new Map<Expression, Shared>()

  function share(e: Expression): Shared {
    if (all[(e as Shared).id] === e) return e as Shared
    const before = e.operands.length ? own.get(e) : undefined
    if (before) return before
    const operands = e.operands.length ? e.operands.map(share) : (e.operands as readonly Shared[])
    const hash = hashOf(e, operands)
    const alike = known.get(hash)
    const one = alike?.find(k => isSame(k, e, operands)) ?? make(e, operands)
    if (!alike) known.set(hash, [one])
    else if (!alike.includes(one)) alike.push(one)
    if (operands.length) own.set(e, one)
    return one
  }

  function make(e: Expression, operands: readonly Shared[]): Shared {
    let reliefs = 0
    let ordered = e.operation === 'variable'
    for (const o of operands) {
      reliefs = Math.max(reliefs, o.reliefs)
      ordered ||= o.ordered
    }
    const one: Shared = {
      operation: e.operation,
      type: e.type,
      operands,
      at: e.at,
      name: e.name,
      id: all.length,
      reliefs: reliefs + (e.operation === 'beside' ? 1 : 0),
      ordered,
    }
    all.push(one)
    return one
  }

  return { share, all }
}
