/** Arithmetic as words to write expressions in. */
import { apply, number, type Expression } from './expression'

export type Operand = Expression | number

const of = (x: Operand): Expression => (typeof x === 'number' ? number(x) : x)

export const add = (a: Operand, b: Operand): Expression => apply('add', of(a), of(b))
export const subtract = (a: Operand, b: Operand): Expression => apply('subtract', of(a), of(b))
export const multiply = (a: Operand, b: Operand): Expression => apply('multiply', of(a), of(b))
export const divide = (a: Operand, b: Operand): Expression => apply('divide', of(a), of(b))
export const negate = (a: Operand): Expression => apply('negate', of(a))
export const least = (a: Operand, b: Operand): Expression => apply('min', of(a), of(b))
export const most = (a: Operand, b: Operand): Expression => apply('max', of(a), of(b))
export const power = (a: Operand, b: Operand): Expression => apply('power', of(a), of(b))
export const absolute = (a: Operand): Expression => apply('abs', of(a))
export const sign = (a: Operand): Expression => apply('sign', of(a))
export const floor = (a: Operand): Expression => apply('floor', of(a))
export const ceil = (a: Operand): Expression => apply('ceil', of(a))
export const squareRoot = (a: Operand): Expression => apply('sqrt', of(a))
export const sine = (a: Operand): Expression => apply('sin', of(a))
export const cosine = (a: Operand): Expression => apply('cos', of(a))
export const tangent = (a: Operand): Expression => apply('tan', of(a))
export const arcSine = (a: Operand): Expression => apply('asin', of(a))
export const arcCosine = (a: Operand): Expression => apply('acos', of(a))
/** Angle of the direction (x, y), radians. */
export const angle = (y: Operand, x: Operand): Expression => apply('atan2', of(y), of(x))
export const logarithm = (a: Operand): Expression => apply('log', of(a))
export const exponential = (a: Operand): Expression => apply('exp', of(a))
/** What is left of a after whole b, with the sign of a. */
export const remainder = (a: Operand, b: Operand): Expression => apply('remainder', of(a), of(b))

export const above = (a: Operand, b: Operand): Expression => apply('above', of(a), of(b))
export const atLeast = (a: Operand, b: Operand): Expression => apply('atLeast', of(a), of(b))
export const equal = (a: Operand, b: Operand): Expression => apply('equal', of(a), of(b))
export const both = (a: Expression, b: Expression): Expression => apply('and', a, b)
export const either = (a: Expression, b: Expression): Expression => apply('or', a, b)
export const differ = (a: Operand, b: Operand): Expression => apply('differ', of(a), of(b))
/** One of two by whether something is so. */
export const select = (so: Expression, a: Operand, b: Operand): Expression => apply('select', so, of(a), of(b))

/** Sum in the order given. */
export const sum = (all: readonly Operand[]): Expression => all.map(of).reduce((a, b) => add(a, b))
/** Sum of the products of components, in their order. */
export const dot = (a: readonly Operand[], b: readonly Operand[]): Expression =>
  sum(a.map((x, k) => multiply(x, b[k]!)))
/** Length of a vector. */
export const length = (v: readonly Operand[]): Expression => squareRoot(dot(v, v))
/** Straight line from a to b. */
export const fade = (a: Operand, b: Operand, t: Operand): Expression => add(a, multiply(subtract(b, a), t))
/** Between two bounds; the upper one counts where they are the wrong way round. */
export const between = (x: Operand, low: Operand, high: Operand): Expression => least(most(x, low), high)
