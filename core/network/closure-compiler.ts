import type { Block } from './blocks'
import type { Fault, Op } from './resolve'

/** What `emitClosures` needs of the compiler. */
export interface ClosureCompiler {
  /** Component expressions of an input for a statement in `block`. */
  arg(op: Op, name: string, block: Block): string[]
  text(op: Op, name: string): string
  /**
   * Whether the document says anything of an input. Unlike {@link untouched}, values play no part in it, so that
   * code that asks depends on the topology alone.
   */
  mentions(op: Op, name: string): boolean
  /** Whether the document leaves an input at its default. */
  untouched(op: Op, name: string): boolean
  unique(prefix: string): string
  /** Whether one more closure is written; says so once where there are too many. */
  afford(op: Op): boolean
  fault(op: Op, message: string, severity?: Fault['severity']): void
}
