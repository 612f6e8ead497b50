/**
 * Programs as JavaScript: one back end of expressions. What it writes holds numbers, names of functions that the
 * caller gave, and identifiers made here.
 *
 * Functions stay small: the engine gives up on functions of much more than 60 kB of its bytecode, and a point costs
 * several times as much then, so long stretches of values are functions of their own, which pass what others need
 * through one array V. Measured (`benchmark network`): see `docs/performance.md`. Values that are asked for once are
 * written where they are asked for; the engine makes the same of both.
 */
import { createBlock, type Block, type Statement, type Store } from './block'
import type { Expression } from './expression'
import { OPERATIONS, type Arithmetic } from './operations'
import { placeValues } from './place'
import type { Shared, Sharing } from './share'

/** Nodes of expressions that one function computes; up to twice as many stay where they are. */
const CHUNK = 160
/** How deep an expression is written before it gets a name. */
const DEEPEST = 12

const STORES: Record<Store, string> = { result: 'result', openPbr: 'openPbr', radii: 'R', slopes: 'foundSlopes' }
const LEAVES = new Set<string>(['number', 'point', 'constant', 'picture', 'variable'])

/** Functions as text, and what they share. */
export interface Printer {
  /**
   * Writes a function.
   * @param parameters after S, C and I
   * @param first functions that are called with S before all else
   */
  write(name: string, parameters: readonly string[], body: Block, first?: readonly string[]): void
  /** All that was written. */
  source(): string
}

/** A literal as JavaScript reads it back to the bit. */
function written(x: number): string {
  if (Object.is(x, -0)) return '-0'
  return x < 0 ? `(${x})` : String(x)
}

/** Prints the functions of one program. */
export function createPrinter(sharing: Sharing): Printer {
  const functions: string[] = []
  const heights = new Map<Shared, string>()
  let slots = 0
  let serial = 0

  function heightsOf(e: Shared): string {
    let name = heights.get(e)
    if (!name) {
      heights.set(e, (name = `f${serial++}`))
      const body = createBlock()
      body.items.push({ kind: 'store', into: 'result', at: 0, values: [...e.operands] })
      const text = printFunction(name, [], body)
      functions.push(`const x${name} = new Float64Array(stride);`, ...text)
    }
    return name
  }

  function printFunction(
    name: string,
    parameters: readonly string[],
    body: Block,
    first: readonly string[] = [],
  ): string[] {
    const placed = placeValues(body, sharing)
    const names = new Map<Shared, string>()
    const depths = new Map<Shared, number>()
    /** Values of a stretch's function that are asked for outside of it. */
    const needed = new Set<Shared>()

    function text(e: Shared): string {
      const named = names.get(e)
      if (named !== undefined) return named
      switch (e.operation) {
        case 'number':
          return written(e.at)
        case 'point':
          return `S[${e.at}]`
        case 'constant':
          return `C[${e.at}]`
        case 'picture':
          return `I[${e.at}]`
        case 'variable':
          return `w${e.at}`
        case 'call':
          return `${e.name}(${e.operands.slice(0, e.at).map(text).join(', ')})`
        default: {
          const [a, b, c] = e.operands.map(text) as [string, string, string]
          return OPERATIONS[e.operation as Arithmetic].script(a, b, c)
        }
      }
    }
    const of = (e: Expression) => text(sharing.share(e))

    function nameParts(e: Shared, from: (part: number) => string, lines: string[]): void {
      for (const part of placed.partsOf(e)) {
        names.set(part, `v${part.id}`)
        lines.push(`const v${part.id} = ${from(part.at)};`)
      }
    }

    /** Values at the point and beside it: three parts for each, then the two steps. */
    function printBeside(e: Shared, lines: string[]): void {
      const f = heightsOf(e)
      const n = e.operands.length
      const wanted = new Map(placed.partsOf(e).map(part => [part.at, part]))
      const take = (step: number) => {
        for (let i = 0; i < n; i++) {
          const part = wanted.get(3 * i + step)
          if (!part) continue
          names.set(part, `v${part.id}`)
          lines.push(`const v${part.id} = result[${i}];`)
        }
      }
      lines.push(`${f}(S, C, I);`)
      take(0)
      for (const axis of [0, 1]) {
        const step = wanted.get(3 * n + axis)
        if (step) names.set(step, `v${step.id}`)
        lines.push(`${step ? `const v${step.id} = ` : ''}beside(S, x${f}, ${axis});`, `${f}(x${f}, C, I);`)
        take(axis + 1)
      }
    }

    function printValue(e: Shared, lines: string[]): void {
      if (LEAVES.has(e.operation) || e.operation === 'part') return
      if (e.operation === 'beside') return printBeside(e, lines)
      if (e.operation === 'call') e.operands.slice(e.at).forEach((o, k) => lines.push(`knots[${k}] = ${text(o)};`))
      if (e.type === 'several') {
        lines.push(text(e) + ';')
        return nameParts(e, k => `result[${k}]`, lines)
      }
      const depth = 1 + e.operands.reduce((d, o) => Math.max(d, names.has(o) ? 0 : (depths.get(o) ?? 0)), 0)
      const listed = e.operation === 'call' && e.at < e.operands.length
      if (placed.uses.get(e)! > 1 || depth > DEEPEST || listed || needed.has(e)) {
        lines.push(`const v${e.id} = ${text(e)};`)
        names.set(e, `v${e.id}`)
      } else depths.set(e, depth)
    }

    /** What a value is asked for by: itself, or its parts. */
    const yields = (e: Shared): readonly Shared[] => (e.type === 'several' ? placed.partsOf(e) : [e])

    /** Writes a stretch as a function of its own. What others need of it they find in V. */
    function printChunk(values: readonly Shared[], lines: string[]): void {
      const inside: string[] = []
      for (const e of values) printValue(e, inside)
      const k = `k${serial++}`
      for (const e of values.flatMap(yields)) {
        if (!needed.has(e)) continue
        inside.push(`V[${slots}] = ${names.get(e)};`)
        names.set(e, `V[${slots++}]`)
      }
      functions.push(`function ${k}(S, C, I) {`, ...inside.map(l => '  ' + l), '}')
      lines.push(`${k}(S, C, I);`)
    }

    /** Finds what the functions of long stretches must leave for others. */
    function findNeeded(values: readonly Shared[]): void {
      const chunkOf = new Map<Shared, number>()
      values.forEach((e, i) => yields(e).forEach(y => chunkOf.set(y, Math.floor(i / CHUNK))))
      const asked = new Map<Shared, number>()
      values.forEach((e, i) => {
        if (e.operation === 'beside') return
        for (const o of e.operands)
          if (chunkOf.get(o) === Math.floor(i / CHUNK)) asked.set(o, (asked.get(o) ?? 0) + 1)
      })
      for (const e of chunkOf.keys())
        if (!LEAVES.has(e.operation) && (asked.get(e) ?? 0) < placed.uses.get(e)!) needed.add(e)
    }

    /** Writes values, long stretches of them as functions of their own. */
    function printValues(values: readonly Shared[], lines: string[]): void {
      const free = values.filter(e => !e.ordered && !LEAVES.has(e.operation) && e.operation !== 'part')
      if (free.length <= 2 * CHUNK) {
        for (const e of values) printValue(e, lines)
        return
      }
      findNeeded(free)
      for (let i = 0; i < free.length; i += CHUNK) printChunk(free.slice(i, i + CHUNK), lines)
      for (const e of values) if (e.ordered) printValue(e, lines)
    }

    function printStatement(s: Statement): string {
      switch (s.kind) {
        case 'let':
          return `let ${of(s.variable)} = ${of(s.value)};`
        case 'increase':
          return `${of(s.variable)} += ${of(s.value)};`
        case 'store':
          return s.values.map((value, k) => `${STORES[s.into]}[${s.at + k}] = ${of(value)};`).join(' ')
        case 'call':
          return `${s.gives ? `const ${of(s.gives)} = ` : ''}${s.name}(${s.operands.map(of).join(', ')});`
      }
    }

    function printBlock(block: Block, lines: string[]): void {
      block.items.forEach((item, k) => {
        printValues(placed.before(block, k), lines)
        if ('kind' in item) lines.push(printStatement(item))
        else {
          lines.push(`if (${of(item.test!)}) {`)
          printBlock(item, lines)
          lines.push('}')
        }
      })
    }

    const lines = first.map(f => `${f}(S);`)
    printBlock(body, lines)
    return [`function ${name}(${['S', 'C', 'I', ...parameters].join(', ')}) {`, ...lines.map(l => '  ' + l), '}']
  }

  return {
    write: (name, parameters, body, first) => {
      for (const line of printFunction(name, parameters, body, first)) functions.push(line)
    },
    source: () => (slots > 0 ? `const V = new Float64Array(${slots});\n` : '') + functions.join('\n'),
  }
}
