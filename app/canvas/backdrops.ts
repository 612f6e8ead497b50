import { containedIn, isBackdrop } from '../../core/network/backdrops'
import { nameOf, type Element } from '../../core/network/document'
import type { Placed } from './arrange'
import { CARD, CELL, type CardData } from './cards'

/** Room of a frame about its cards, for their tabs and its title, pixels. */
const ROOM = { side: 30, top: 36, bottom: 36 }
/** Measures of a note, pixels: its width, that of a line, what a line holds. */
const NOTE = { width: 200, line: 17, letters: 30, edge: 14 }

/** Lines that a note takes. */
const linesOf = (text: string): number =>
  text.split('\n').reduce((n, l) => n + Math.max(1, Math.ceil(l.length / NOTE.letters)), 0)

const sheet = (title: string, kind: string): CardData => ({
  title,
  kind,
  inputs: [],
  more: [],
  outputs: [],
  faults: [],
  tapped: false,
  off: false,
  group: false,
})

/**
 * Notes where the document says, and frames about what they contain, wherever that stands now.
 * @param top cards and open groups that stand in no group
 */
export function placeBackdrops(document: Element, top: readonly Placed[]): Placed[] {
  const standing = new Map(top.map(p => [p.id, p]))
  return document.children.filter(isBackdrop).map((e): Placed => {
    const id = nameOf(e)
    const text = e.attributes.doc ?? ''
    const about = containedIn(e).flatMap(n => standing.get(n) ?? [])
    if (!about.length)
      return {
        id,
        element: e,
        card: sheet(text, 'note'),
        kind: 'note',
        x: Number(e.attributes.xpos ?? 0) * CELL.x,
        y: Number(e.attributes.ypos ?? 0) * CELL.y,
        width: NOTE.width,
        height: linesOf(text) * NOTE.line + NOTE.edge,
      }
    const x = Math.min(...about.map(p => p.x)) - ROOM.side - CARD.tab
    const y = Math.min(...about.map(p => p.y)) - ROOM.top
    return {
      id,
      element: e,
      card: sheet(text, 'frame'),
      kind: 'backdrop',
      x,
      y,
      width: Math.max(...about.map(p => p.x + p.width)) + ROOM.side + CARD.tab - x,
      height: Math.max(...about.map(p => p.y + p.height)) + ROOM.bottom - y,
    }
  })
}
