/**
 * What an emitter sees of its operation. Expressions are JavaScript that the compiler made: identifiers, numbers
 * and calls, never text of a document.
 */
export interface EmitContext {
  /** Type and number of components of the output. */
  type: string
  size: number
  /** Expressions of an input's components; cheap to repeat. */
  arg(name: string): string[]
  /** Type of an input as the definition has it. */
  typeOf(name: string): string
  /** A string input. */
  text(name: string): string
  /** Value of an input that shapes the code itself (octaves, index); fails when a wire drives it. */
  fixed(name: string): number
  /** Names an expression. */
  local(expression: string): string
  /** Adds a statement. */
  line(statement: string): void
  /** Identifier of the image that a filename input names. */
  image(name: string, colour: boolean): string
  /**
   * Evaluates single-number inputs of this node at the point and at two points beside it, by a function of its
   * own.
   * @param inputs name and component of each
   * @returns for each of them its value at the point, beside it along u, and along v; then the two steps in u and
   * v
   */
  beside(inputs: readonly (readonly [name: string, component: number])[]): {
    values: [string, string, string][]
    du: string
    dv: string
  }
  /** Says what an artist should know, though the node is computed. */
  warn(message: string): void
  /** Expression of the time, seconds. */
  time(): string
  /** Number of a probe of given radius (expression) and side. */
  probe(radius: string, side: 'convex' | 'concave' | 'both'): number
}

/**
 * Writes the code of one operation.
 * @returns an expression for each component of the output (of all outputs in turn for several)
 */
export type Emitter = (c: EmitContext) => string[]

/** A node that gives numbers: an entry of its family's file. Its definitions are the standard's, or ours (`own.ts`). */
export interface NodeEntry {
  /** What it gives, in a sentence. */
  about: string
  emit: Emitter
}

/** Says that an operation cannot be compiled, in words for the artist. */
export class EmitFault extends Error {}

/** Repeats the last component so that a float operand serves every component. */
export const at = (components: string[], i: number): string => components[i] ?? components[0]!

/** Takes what a called function left in `memory.result`, as components of their own. */
export const results = (c: EmitContext, count: number): string[] =>
  Array.from({ length: count }, (_, k) => c.local(`result[${k}]`))

/** Makes an emitter that works on each component alone. */
export function perComponent(names: string[], expression: (...components: string[]) => string): Emitter {
  return c => {
    const args = names.map(n => c.arg(n))
    return Array.from({ length: c.size }, (_, i) => expression(...args.map(a => at(a, i))))
  }
}
