import { nameOf, type Element } from '../../core/network/document'
import { setAttribute } from '../../core/network/edit'
import { arrange, type Placed } from './arrange'
import { CELL } from './cards'

/** What stays between cards, pixels. */
const GAP = 8
/** Steps that are tried, each half a cell further down. */
const STEPS = 120

const overlap = (a: Placed, b: Placed, down: number): boolean =>
  a.x < b.x + b.width + GAP &&
  b.x < a.x + a.width + GAP &&
  a.y + down < b.y + b.height + GAP &&
  b.y < a.y + down + a.height + GAP

/**
 * Moves what an edit added, all of it together, down to where none of it lies on a card that was there before.
 * Nodes without a place, and those in groups, stay.
 * @returns the document itself where nothing was added, or it lies free
 */
export function settleAdded(before: Element, after: Element): Element {
  if (after.children.length <= before.children.length) return after
  const names = new Set(before.children.map(nameOf))
  // a frame lies about cards: it is in no card's way
  const cards = arrange(after, new Set(), [], undefined, false).filter(c => c.kind !== 'backdrop')
  const there = cards.filter(c => names.has(c.id))
  const added = cards.filter(c => !names.has(c.id) && c.element.attributes.ypos !== undefined)
  const free = Array.from({ length: STEPS }, (_, step) => step / 2).find(
    down => !added.some(a => there.some(b => overlap(a, b, down * CELL.y))),
  )
  if (!free) return after
  return added.reduce(
    (d, { id, element }) =>
      setAttribute(d, id, 'ypos', String(+(Number(element.attributes.ypos) + free).toFixed(3))),
    after,
  )
}
