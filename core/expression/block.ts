import { variable, type Expression } from './expression'

/** An array that statements write into by numbers. */
export type Store = 'result' | 'openPbr' | 'radii' | 'slopes'

/** What a program does, in order; all between is expressions. */
export type Statement =
  /** Calls a function; what it gives becomes a variable where one is named. */
  | { kind: 'call'; name: string; operands: Expression[]; gives?: Expression }
  /** Begins a variable that others increase. */
  | { kind: 'let'; variable: Expression; value: Expression }
  | { kind: 'increase'; variable: Expression; value: Expression }
  /** Puts numbers beside each other into an array, all at once: what is computed for one may use the array. */
  | { kind: 'store'; into: Store; at: number; values: Expression[] }

/** A stretch of a program, run where its test holds. */
export interface Block {
  parent: Block | null
  depth: number
  /** Its number among the parent's items. */
  at: number
  test: Expression | null
  items: (Statement | Block)[]
}

/** Begins a program. */
export const createBlock = (): Block => ({ parent: null, depth: 0, at: 0, test: null, items: [] })

/** Adds a stretch that is run where `test` holds. */
export function blockIf(parent: Block, test: Expression): Block {
  const block: Block = { parent, depth: parent.depth + 1, at: parent.items.length, test, items: [] }
  parent.items.push(block)
  return block
}

/** Numbers variables, for one program. */
export function createVariables(): () => Expression {
  let serial = 0
  return () => variable(serial++)
}
