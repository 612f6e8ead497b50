import type { Block, Statement } from './block'
import type { Expression } from './expression'
import type { Shared, Sharing } from './share'

/** Where a value is computed: before an item of a block. */
export interface Place {
  block: Block
  item: number
}

/** A program's values in their places. */
export interface Placed {
  /** How often a value is asked for. */
  uses: ReadonlyMap<Shared, number>
  /** Values to be computed before an item of a block, in the order of making. */
  before(block: Block, item: number): readonly Shared[]
  /** Parts that are asked for of what is several, in order. */
  partsOf(e: Shared): readonly Shared[]
}

/** Innermost place that comes before both. */
function common(a: Place, b: Place): Place {
  while (a.block !== b.block) {
    if (a.block.depth >= b.block.depth) a = { block: a.block.parent!, item: a.block.at }
    else b = { block: b.block.parent!, item: b.block.at }
  }
  return a.item <= b.item ? a : b
}

/** Expressions of a statement. */
const operandsOf = (s: Statement): readonly Expression[] =>
  s.kind === 'call' ? s.operands : s.kind === 'store' ? s.values : [s.value]

/** What each item of a program asks for itself. */
function valuesOf(block: Block, sharing: Sharing, found = new Map<Statement | Block, Shared[]>()) {
  for (const item of block.items) {
    found.set(item, ('kind' in item ? operandsOf(item) : [item.test!]).map(sharing.share))
    if (!('kind' in item)) valuesOf(item, sharing, found)
  }
  return found
}

/**
 * Finds for each value the innermost block that contains all its uses, and the first item there that needs it, so
 * that what a hidden layer needs costs nothing, and nothing is computed twice.
 */
export function placeValues(root: Block, sharing: Sharing): Placed {
  const placeOf = new Map<Shared, Place>()
  const uses = new Map<Shared, number>()
  const partsOf = new Map<Shared, Shared[]>()
  const found = valuesOf(root, sharing)
  /** Values that are asked for, by their numbers. */
  const reached = new Array<Shared | undefined>(sharing.all.length).fill(undefined)
  function use(e: Shared, at: Place): void {
    const before = placeOf.get(e)
    if (!before) reached[e.id] = e
    placeOf.set(e, before ? common(before, at) : at)
    uses.set(e, (uses.get(e) ?? 0) + 1)
  }
  function walk(block: Block): void {
    block.items.forEach((item, k) => {
      for (const e of found.get(item)!) use(e, { block, item: k })
      if (!('kind' in item)) walk(item)
    })
  }
  walk(root)
  // what uses a value was made after it
  for (let id = reached.length - 1; id >= 0; id--) {
    const e = reached[id]
    if (!e) continue
    if (e.operation === 'part') {
      const known = partsOf.get(e.operands[0]!)
      if (known) known.push(e)
      else partsOf.set(e.operands[0]!, [e])
    }
    // what is computed at other points has a function of its own
    if (e.operation !== 'beside') for (const o of e.operands) use(o, placeOf.get(e)!)
  }
  const lists = new Map<Block, Shared[][]>()
  for (const e of reached) {
    if (!e) continue
    const { block, item } = placeOf.get(e)!
    let list = lists.get(block)
    if (!list) lists.set(block, (list = []))
    ;(list[item] ??= []).push(e)
  }
  return {
    uses,
    before: (block, item) => lists.get(block)?.[item] ?? [],
    partsOf: e => (partsOf.get(e) ?? []).sort((a, b) => a.id - b.id),
  }
}
