import type { Expression } from '../expression/expression'
import type { Side } from '../point/field-ask'

/** What an emitter sees of its operation. */
export interface EmitContext {
  /** Type and number of components of the output. */
  type: string
  size: number
  /** An input's components; a `boolean` is 0 or 1. */
  arg(name: string): Expression[]
  /** Type of an input as the definition has it. */
  typeOf(name: string): string
  /** A string input. */
  text(name: string): string
  /** Value of an input that shapes the code itself (octaves, index); fails when a wire drives it. */
  fixed(name: string): number
  /** The picture that a filename input names. */
  picture(name: string, colour: boolean): Expression
  /** How a value changes over a pixel, along the picture's width and its height. */
  change(value: Expression): [Expression, Expression]
  /**
   * Values of single-number inputs of this node at the point and at two points beside it.
   * @param inputs name and component of each
   * @returns for each of them its value at the point, beside it along u, and along v; then the two steps in u and
   * v
   */
  beside(inputs: readonly (readonly [name: string, component: number])[]): {
    values: [Expression, Expression, Expression][]
    du: Expression
    dv: Expression
  }
  /** Says what an artist should know, though the node is computed. */
  warn(message: string): void
  /** The time, seconds. */
  time(): Expression
  /** A field of a side around the point, within the radius that the node's input of that name gives. */
  field(name: string, side: Side): Expression
}

/**
 * Says what one operation computes.
 * @returns an expression for each component of the output (of all outputs in turn for several)
 */
export type Emitter = (c: EmitContext) => Expression[]

/** A node that gives numbers: an entry of its family's file. Its definitions are the standard's, or ours (`own.ts`). */
export interface NodeEntry {
  /** What it gives, in a sentence. */
  about: string
  emit: Emitter
}

/** Says that an operation cannot be compiled, in words for the artist. */
export class EmitFault extends Error {}

/** Repeats the last component so that a float operand serves every component. */
export const at = (components: readonly Expression[], i: number): Expression => components[i] ?? components[0]!

/** As many components as the output has, each made by its number. */
export const components = (c: EmitContext, make: (k: number) => Expression): Expression[] =>
  Array.from({ length: c.size }, (_, k) => make(k))

/** Makes an emitter that works on each component alone. */
export function perComponent(names: readonly string[], make: (...operands: Expression[]) => Expression): Emitter {
  return c => {
    const args = names.map(n => c.arg(n))
    return components(c, i => make(...args.map(a => at(a, i))))
  }
}
