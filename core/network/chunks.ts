import type { Op } from './resolve'

/**
 * Long stretches of values as functions of their own, which pass what others need through one array V: the engine
 * gives up on functions of much more than 60 kB of its bytecode, and a point costs several times as much then.
 * Measured, time a node of a chain of noises and adjustments (`benchmark network`): see `docs/performance.md`.
 */

/** Values that one function computes; up to twice as many stay where they are. */
const CHUNK = 96

export interface ChunkWriter {
  /** Writes the values, in order, as lines; short stretches as they are. */
  write(values: readonly Op[], lines: string[]): void
  /** Declaration of V; nothing where none is needed. */
  declaration(): string[]
}

export interface ChunkContext {
  emit(op: Op, lines: string[]): void
  /** Expressions of an operation's components, after it was emitted. */
  components(): Map<Op, string[]>
  /** Takes the lines of a function beside the others. */
  addFunction(lines: string[]): void
  unique(prefix: string): string
}

/**
 * @param ops all operations of the network
 * @param root whose value is wanted at the end, if it gives numbers
 */
export function createChunkWriter(ops: readonly Op[], root: Op | undefined, c: ChunkContext): ChunkWriter {
  let slots = 0
  let users: Map<Op, Op[]> | undefined
  const usersOf = (op: Op): readonly Op[] => {
    if (!users) {
      users = new Map()
      for (const user of ops)
        for (const source of user.inputs.values())
          if (source.kind === 'op') {
            const list = users.get(source.op)
            if (list) list.push(user)
            else users.set(source.op, [user])
          }
    }
    return users.get(op) ?? []
  }
  function writeChunk(values: readonly Op[], lines: string[]): void {
    const inside = new Set(values)
    const body: string[] = []
    const name = c.unique('k')
    for (const op of values) c.emit(op, body)
    const components = c.components()
    for (const op of values) {
      if (op !== root && usersOf(op).every(user => inside.has(user))) continue
      const kept = components.get(op)!.map(e => {
        // words of the point, constants, numbers and what is kept already can be read from anywhere
        if (/^(?:[SCV]\[\d+\]|\d+)$/.test(e)) return e
        const word = `V[${slots++}]`
        body.push(`${word} = ${e};`)
        return word
      })
      components.set(op, kept)
    }
    c.addFunction([`function ${name}(S, C, I) {`, ...body.map(l => '  ' + l), '}'])
    lines.push(`${name}(S, C, I);`)
  }
  return {
    write(values, lines) {
      if (values.length <= 2 * CHUNK) for (const op of values) c.emit(op, lines)
      else for (let i = 0; i < values.length; i += CHUNK) writeChunk(values.slice(i, i + CHUNK), lines)
    },
    declaration: () => (slots > 0 ? [`const V = new Float64Array(${slots});`] : []),
  }
}
