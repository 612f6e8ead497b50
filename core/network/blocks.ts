import type { Op } from './resolve'

/**
 * A stretch of generated code. Values are computed in the innermost block that contains all their uses, so that
 * what a hidden layer needs costs nothing.
 */
export interface Block {
  parent: Block | null
  depth: number
  items: (string | Block)[]
  values: Op[]
  open: string
  close: string
}

export function createBlock(parent: Block | null, open = '', close = ''): Block {
  const block: Block = { parent, depth: parent ? parent.depth + 1 : 0, items: [], values: [], open, close }
  parent?.items.push(block)
  return block
}

/** Innermost block that contains both. */
function common(a: Block, b: Block): Block {
  while (a !== b) {
    if (a.depth >= b.depth) a = a.parent!
    else b = b.parent!
  }
  return a
}

/**
 * Gives every used operation its block.
 * @param ops in topological order (inputs first)
 * @param apart inputs that are computed in functions of their own
 * @param uses block of each direct use; extended to the inputs of used operations
 */
export function placeValues(
  ops: readonly Op[],
  uses: Map<Op, Block>,
  apart: (op: Op, input: string) => boolean = () => false,
): void {
  for (let i = ops.length - 1; i >= 0; i--) {
    const op = ops[i]!
    const block = uses.get(op)
    if (!block) continue
    for (const [name, source] of op.inputs)
      if (source.kind === 'op' && !apart(op, name)) noteUse(uses, source.op, block)
  }
  for (const op of ops) uses.get(op)?.values.push(op)
}

export function noteUse(uses: Map<Op, Block>, op: Op, block: Block): void {
  const before = uses.get(op)
  uses.set(op, before ? common(before, block) : block)
}

/** Writes a block out, its values first. */
export function writeBlock(block: Block, values: (ops: readonly Op[], lines: string[]) => void): string[] {
  const lines = block.open ? [block.open] : []
  values(block.values, lines)
  for (const item of block.items) {
    if (typeof item === 'string') lines.push(item)
    else for (const line of writeBlock(item, values)) lines.push(line)
  }
  if (block.close) lines.push(block.close)
  return lines
}
