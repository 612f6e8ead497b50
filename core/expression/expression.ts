/**
 * Typed expressions of a shading point's values: what the nodes of a network become, before one back end or another
 * (`print.ts`) makes code of them. They are plain values without names and without order: a value that is asked for
 * twice is one expression once it is shared (`share.ts`), and one that nobody asks for is never printed.
 */
import { OPERATIONS, type Arithmetic } from './operations'

/** What an expression is: a number, whether something is so, a picture, or the several numbers a call leaves. */
export type Type = 'number' | 'truth' | 'picture' | 'several'

/**
 * Leaves: `number`, a literal; `point`, a word of the shading point; `constant`, a word of the document's numbers;
 * `picture`, one of the program's pictures; `variable`, what a statement made (`block.ts`). Beside arithmetic there
 * are `call`, a function that gives a number or leaves several; `part`, one of those; `beside`, values at the point
 * and at two beside it.
 */
export type Operation =
  'number' | 'point' | 'constant' | 'picture' | 'variable' | 'call' | 'part' | 'beside' | Arithmetic

export interface Expression {
  readonly operation: Operation
  readonly type: Type
  readonly operands: readonly Expression[]
  /** Value of a literal; number of a word, a picture, a variable or a part; how many operands a call is handed. */
  readonly at: number
  /** Function that is called. */
  readonly name: string
}

const NONE: readonly Expression[] = []

const leaf = (operation: Operation, type: Type, at: number): Expression => ({
  operation,
  type,
  operands: NONE,
  at,
  name: '',
})

/** A literal. */
export const number = (value: number): Expression => leaf('number', 'number', value)
/** A word of the shading point. */
export const point = (word: number): Expression => leaf('point', 'number', word)
/** A word of the constants. */
export const constant = (word: number): Expression => leaf('constant', 'number', word)
/** A picture by its number in the program. */
export const picture = (index: number): Expression => leaf('picture', 'picture', index)
/** What a statement made; each its own. */
export const variable = (serial: number): Expression => leaf('variable', 'number', serial)

/**
 * Calls a function that gives a number.
 * @param list numbers that it is handed in `memory.knots`
 */
export const call = (name: string, operands: readonly Expression[], list = NONE): Expression => ({
  operation: 'call',
  type: 'number',
  operands: [...operands, ...list],
  at: operands.length,
  name,
})

/** Calls a function that leaves several numbers in `memory.result`. @returns as many of them, in order */
export function several(name: string, operands: readonly Expression[], count: number, list = NONE): Expression[] {
  const called: Expression = { ...call(name, operands, list), type: 'several' }
  return parts(called, count)
}

/** Parts of something that is several, in order. */
export const parts = (of: Expression, count: number): Expression[] =>
  Array.from({ length: count }, (_, k) => ({
    operation: 'part',
    type: 'number',
    operands: [of],
    at: k,
    name: '',
  }))

/**
 * Values at the point, and at those half a pixel further along u and along v: three parts for each value, then the
 * steps in u and v.
 */
export const beside = (values: readonly Expression[]): Expression => ({
  operation: 'beside',
  type: 'several',
  operands: values,
  at: 0,
  name: '',
})

const isNumber = (e: Expression, value?: number): boolean =>
  e.operation === 'number' && (value === undefined || e.at === value)

/** What an operation is without computing: of literals their value, and x + 0, x · 1 and the like. */
function folded(operation: Arithmetic, operands: readonly Expression[]): Expression | undefined {
  const [a, b, c] = operands as [Expression, Expression, Expression]
  if (operation === 'select') return isNumber(a) ? (a.at ? b : c) : undefined
  if (operands.every(e => isNumber(e))) return number(Number(OPERATIONS[operation].run(a?.at, b?.at, c?.at)))
  if (operation === 'add') return isNumber(b, 0) ? a : isNumber(a, 0) ? b : undefined
  if (operation === 'subtract') return isNumber(b, 0) ? a : undefined
  if (operation === 'multiply') return isNumber(b, 1) ? a : isNumber(a, 1) ? b : undefined
  if (operation === 'divide') return isNumber(b, 1) ? a : undefined
  return undefined
}

/** An operation of arithmetic; folded where its value is known. */
export function apply(operation: Arithmetic, ...operands: Expression[]): Expression {
  return folded(operation, operands) ?? { operation, type: OPERATIONS[operation].gives, operands, at: 0, name: '' }
}
