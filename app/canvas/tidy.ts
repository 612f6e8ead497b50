/**
 * Tidies a network. A layered layout alone has as many columns as the longest chain has nodes, so that a surface with
 * many inputs is one column of them in a pane that is wide: tall columns are therefore folded into several, to the
 * height at which all is seen largest. Tried: longer edges in the layered layout itself (its places for passing edges
 * kept 14 cards 1,200 pixels high where folding gives 300).
 */
import dagre from '@dagrejs/dagre'
import { containedIn, isBackdrop } from '../../core/network/backdrops'
import { isNode, nameOf, type Element } from '../../core/network/document'
import { isGroup } from '../../core/network/groups'
import { wiresOf, type CanvasWire } from './arrange'
import { CARD, cardOf, CELL, heightOf } from './cards'
import { placeAt } from './with-places'

/** Between cards one below the other, and between columns, pixels. */
const GAP = { card: 28, column: 68 }
/** Parts of its height that a layout is folded to. */
const FOLDS = [1, 1 / 2, 1 / 3, 1 / 4, 1 / 6, 1 / 8]

/** A card that is laid out: its middle and its height, pixels. */
interface Laid {
  name: string
  x: number
  y: number
  height: number
}
interface Frame {
  name: string
  about: readonly string[]
}
/** Size of a pane, pixels. */
interface Shape {
  width: number
  height: number
}

/** Columns from left to right, so that wires cross little (layered drawing, Sugiyama et al. 1981, by dagre). */
function layered(
  nodes: readonly { name: string; height: number }[],
  wires: readonly CanvasWire[],
  frames: readonly Frame[],
): Laid[] {
  const graph = new dagre.graphlib.Graph({ compound: frames.length > 0 })
  graph.setGraph({ rankdir: 'LR', nodesep: GAP.card, ranksep: GAP.column, ranker: 'network-simplex' })
  graph.setDefaultEdgeLabel(() => ({}))
  for (const { name, height } of nodes) graph.setNode(name, { width: CARD.width, height })
  for (const { name, about } of frames) {
    graph.setNode(`frame ${name}`, {})
    for (const n of about) if (graph.hasNode(n)) graph.setParent(n, `frame ${name}`)
  }
  for (const w of wires) graph.setEdge(w.source, w.target)
  dagre.layout(graph)
  return nodes.map(({ name, height }) => ({ name, height, x: graph.node(name).x, y: graph.node(name).y }))
}

const top = (all: readonly Laid[]) => Math.min(...all.map(l => l.y - l.height / 2))
const bottom = (all: readonly Laid[]) => Math.max(...all.map(l => l.y + l.height / 2))
const sum = (all: readonly Laid[]) => all.reduce((h, l) => h + l.height + GAP.card, 0)

/** A column whose cards stand near where they should, none over another, about its middle. */
function stacked(column: readonly Laid[], x: number): Laid[] {
  const wanted = column.reduce((y, l) => y + l.y, 0) / column.length
  let free = -Infinity
  const down = column.map(l => {
    const y = Math.max(l.y, free + l.height / 2)
    free = y + l.height / 2 + GAP.card
    return { ...l, x, y }
  })
  const is = down.reduce((y, l) => y + l.y, 0) / column.length
  return down.map(l => ({ ...l, y: l.y + wanted - is }))
}

/** Folds columns that are higher into several side by side, cards that follow each other in neighbouring ones. */
function folded(all: readonly Laid[], height: number): Laid[] {
  const ranks = [...new Set(all.map(l => Math.round(l.x)))].sort((a, b) => a - b)
  const squeeze = Math.min(1, height / (bottom(all) - top(all)))
  let x = 0
  return ranks.flatMap(rank => {
    const cards = all
      .filter(l => Math.round(l.x) === rank)
      .map(l => ({ ...l, y: l.y * squeeze }))
      .sort((a, b) => a.y - b.y)
    const count = Math.max(1, Math.ceil(sum(cards) / (height + GAP.card)))
    return Array.from({ length: count }, (_, i) => {
      const column = stacked(
        cards.filter((_, k) => k % count === i),
        x,
      )
      x += CARD.width + GAP.column
      return column
    }).flat()
  })
}

/** How large a layout is seen in a pane; cards are never seen larger than they are. */
function seen(all: readonly Laid[], pane: Shape): number {
  const x = all.map(l => l.x)
  const width = Math.max(...x) - Math.min(...x) + CARD.width
  return Math.min(1, pane.width / width, pane.height / (bottom(all) - top(all)))
}

interface Place {
  x: number
  y: number
}

/** Notes keep their place beside the card that they are next to. */
function besideCards(document: Element, places: ReadonlyMap<string, Place>): Map<string, Place> {
  const at = (e: Element) => ({
    x: Number(e.attributes.xpos ?? 0) * CELL.x,
    y: Number(e.attributes.ypos ?? 0) * CELL.y,
  })
  const cards = document.children.filter(e => places.has(nameOf(e)))
  return new Map(
    document.children
      .filter(e => isBackdrop(e) && !containedIn(e).length)
      .map(note => {
        const { x, y } = at(note)
        const away = (e: Element) => Math.hypot(at(e).x - x, at(e).y - y)
        const next = cards.reduce((a, b) => (away(b) < away(a) ? b : a), cards[0]!)
        const to = places.get(nameOf(next))!
        return [nameOf(note), { x: to.x + x - at(next).x, y: to.y + y - at(next).y }]
      }),
  )
}

/**
 * Lays a network out anew, for a pane of some shape. Cards of a titled frame stay together.
 * @param pane that it is seen in, pixels
 */
export function tidy(document: Element, pane: Shape): Element {
  const nodes = document.children
    .filter(c => isNode(c) || isGroup(c))
    .map(n => ({ name: nameOf(n), height: heightOf(cardOf(document, n, nameOf(n), [], false)) }))
  if (!nodes.length) return document
  const frames = document.children
    .filter(isBackdrop)
    .map(e => ({ name: nameOf(e), about: containedIn(e) }))
    .filter(f => f.about.length)
  const flat = layered(nodes, wiresOf(document), frames)
  const whole = bottom(flat) - top(flat)
  // cards of a frame stay together: what has frames is not folded
  const all = (frames.length ? [flat] : FOLDS.map(f => folded(flat, whole * f))).reduce((a, b) =>
    seen(b, pane) > seen(a, pane) ? b : a,
  )
  const places = new Map(all.map(l => [l.name, { x: l.x - CARD.width / 2, y: l.y - l.height / 2 }]))
  return [...places, ...besideCards(document, places)].reduce(
    (d, [name, { x, y }]) => placeAt(d, name, x, y),
    document,
  )
}
