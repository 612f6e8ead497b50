/** Where cards, open groups and wires of a network stand on the canvas, pixels. */
import { definitionOf, feeders } from '../../core/network/edit'
import { childNamed, isNode, nameOf, type Element } from '../../core/network/document'
import { isGroup } from '../../core/network/groups'
import { COMPONENTS } from '../../core/nodes/types'
import { placeBackdrops } from './backdrops'
import { CARD, cardOf, CELL, heightOf, type CardData } from './cards'
import type { Fault } from '../../core/network/resolve'
import type { Box, Wire } from './route'

/**
 * Something on the canvas: a card, an open group, a note, or a titled frame about others. A card inside an open group
 * has that group as parent, and its place is the group's own.
 */
export interface Placed {
  id: string
  element: Element
  card: CardData
  kind: 'card' | 'frame' | 'note' | 'backdrop'
  x: number
  y: number
  width: number
  height: number
  parent?: string
}

/** Room in an open group around its cards: for its tabs at the sides, its name at the top. */
const FRAME = { side: 74, top: 40, bottom: 22 }

const membersOf = (container: Element): Element[] => container.children.filter(c => isNode(c) || isGroup(c))

/** Places of a container's nodes: as the document says, or columns by distance to the end where it says little. */
export function layout(container: Element): Map<string, { x: number; y: number }> {
  const nodes = membersOf(container)
  const place = new Map<string, { x: number; y: number }>()
  const missing = nodes.filter(n => n.attributes.xpos === undefined || n.attributes.ypos === undefined)
  if (missing.length <= nodes.length / 2) {
    nodes.forEach((n, i) =>
      place.set(nameOf(n), {
        x: Number(n.attributes.xpos ?? 0) * CELL.x,
        y: Number(n.attributes.ypos ?? i) * CELL.y,
      }),
    )
    return place
  }
  const column = new Map<string, number>()
  const visit = (name: string, c: number, depth: number) => {
    if (depth > 200 || (column.get(name) ?? -1) >= c) return
    column.set(name, c)
    const e = childNamed(container, name)
    for (const f of e ? feeders(e) : []) visit(f, c + 1, depth + 1)
  }
  for (const n of nodes) if (!nodes.some(o => feeders(o).includes(nameOf(n)))) visit(nameOf(n), 0, 0)
  const most = Math.max(0, ...column.values())
  const rows = new Map<number, number>()
  for (const n of nodes) {
    const c = column.get(nameOf(n)) ?? 0
    const r = rows.get(c) ?? 0
    rows.set(c, r + 1)
    place.set(nameOf(n), { x: (most - c) * CELL.x, y: r * CELL.y * 1.2 })
  }
  return place
}

/**
 * Everything on the canvas. An open group pushes what stands right of it and below it out of its way.
 * @param open names of the groups that are opened in place
 * @param tapped path of the node whose output is shown on the model
 * @param values whether cards say what their inputs are, which takes a while with many
 */
export function arrange(
  document: Element,
  open: ReadonlySet<string>,
  faults: readonly Fault[] = [],
  tapped?: string,
  values = true,
): Placed[] {
  const place = layout(document)
  const top: Placed[] = []
  const inner: Placed[] = []
  for (const e of membersOf(document)) {
    const id = nameOf(e)
    const at = place.get(id)!
    const card = cardOf(document, e, id, faults, id === tapped, values)
    if (!isGroup(e) || !open.has(id)) {
      top.push({ id, element: e, card, kind: 'card', ...at, width: CARD.width, height: heightOf(card) })
      continue
    }
    const within = layout(e)
    const nodes = membersOf(e)
    const left = Math.min(0, ...[...within.values()].map(p => p.x))
    const up = Math.min(0, ...[...within.values()].map(p => p.y))
    let width = CARD.width
    let height = heightOf(card)
    for (const n of nodes) {
      const path = `${id}/${nameOf(n)}`
      const p = within.get(nameOf(n))!
      const x = FRAME.side + p.x - left
      const y = FRAME.top + p.y - up
      const card = cardOf(document, n, path, faults, path === tapped, values)
      const h = heightOf(card)
      inner.push({ id: path, element: n, card, kind: 'card', x, y, width: CARD.width, height: h, parent: id })
      width = Math.max(width, x + CARD.width + FRAME.side)
      height = Math.max(height, y + h + FRAME.bottom)
    }
    top.push({ id, element: e, card, kind: 'frame', ...at, width, height })
  }
  // from left to right, so that what one group pushes pushes the next
  for (const frame of top.filter(p => p.kind === 'frame').sort((a, b) => a.x - b.x)) {
    const { x, y } = frame
    const right = frame.width - CARD.width
    const down = frame.height - heightOf(frame.card)
    for (const p of top) {
      if (p === frame) continue
      if (p.x >= x + 60) p.x += right
      else if (p.y > y && p.x > x - CARD.width) p.y += down
    }
  }
  return [...placeBackdrops(document, top), ...top, ...inner]
}

export interface CanvasWire {
  id: string
  source: string
  target: string
  sourceHandle: string
  targetHandle: string
  /** Its components, and whether it carries a surface rather than a value. */
  slashes: number
  surface: boolean
}

/**
 * Wires of a network: between its nodes and groups, and those inside the open groups. Handles `in:…` and
 * `out:…` are the inner sides of a group's edge.
 */
export function wiresOf(document: Element, open: ReadonlySet<string> = new Set()): CanvasWire[] {
  const out: CanvasWire[] = []
  const wire = (source: string, sourceHandle: string, target: string, targetHandle: string, type: string) =>
    out.push({
      id: `${source}${sourceHandle === 'out' ? '' : `:${sourceHandle}`}>${target}.${targetHandle}`,
      source,
      target,
      sourceHandle,
      targetHandle,
      slashes: COMPONENTS[type] ?? 1,
      surface: !(type in COMPONENTS),
    })
  /** Children by name; the first, where several have one. */
  const named = (c: Element) => new Map(c.children.toReversed().map(x => [x.attributes.name, x]))
  const groups = named(document)
  const within = (container: Element, prefix: string) => {
    const nodes = container === document ? groups : named(container)
    const end = (target: string, handle: string, c: Element) => {
      const a = c.attributes
      const from =
        a.nodename !== undefined
          ? nodes.get(a.nodename)
          : a.nodegraph !== undefined
            ? groups.get(a.nodegraph)
            : undefined
      const type = a.type ?? from?.attributes.type ?? ''
      if (a.interfacename !== undefined && prefix)
        wire(prefix.slice(0, -1), `in:${a.interfacename}`, target, handle, type)
      else if (from && isGroup(from))
        wire(
          nameOf(from),
          a.output ?? nameOf(from.children.find(o => o.tag === 'output') ?? from),
          target,
          handle,
          type,
        )
      else if (from && isNode(from))
        wire(
          prefix + nameOf(from),
          (definitionOf(from)?.outputs.length ?? 1) > 1 ? (a.output ?? 'out') : 'out',
          target,
          handle,
          type,
        )
    }
    for (const e of membersOf(container))
      for (const c of e.children) if (c.tag === 'input') end(prefix + nameOf(e), nameOf(c), c)
    if (prefix)
      for (const c of container.children) if (c.tag === 'output') end(prefix.slice(0, -1), `out:${nameOf(c)}`, c)
  }
  within(document, '')
  for (const e of document.children) if (isGroup(e) && open.has(nameOf(e))) within(e, nameOf(e) + '/')
  return out
}

/**
 * Where things stand on the canvas itself, not in the group that holds them.
 * @param at absolute places by id, where they differ from those arranged
 */
export function cornersOf(
  placed: readonly Placed[],
  at: (id: string) => { x: number; y: number } | undefined = () => undefined,
): (p: Placed) => { x: number; y: number } {
  const known = new Map(placed.map(p => [p.id, p]))
  const corner = (p: Placed): { x: number; y: number } => {
    const now = at(p.id)
    if (now) return now
    const up = p.parent !== undefined ? corner(known.get(p.parent)!) : { x: 0, y: 0 }
    return { x: p.x + up.x, y: p.y + up.y }
  }
  return corner
}

/**
 * Wires and boxes as the router takes them, from where things stand now.
 * @param at absolute places by id, where they differ from those arranged (during a drag)
 */
export function routable(
  placed: readonly Placed[],
  wires: readonly CanvasWire[],
  at: (id: string) => { x: number; y: number } | undefined,
): { wires: Wire[]; boxes: Box[] } {
  const corner = cornersOf(placed, at)
  const cards = new Map(placed.map(p => [p.id, { card: p.card, ...corner(p), placed: p }]))
  const boxes = [...cards.values()]
    .filter(({ placed: p }) => p.kind !== 'backdrop')
    .map(({ x, y, placed: p }) => ({
      id: p.id,
      x: x - CARD.tab,
      y,
      width: p.width + 2 * CARD.tab,
      height: p.height,
    }))
  return {
    boxes,
    wires: wires.flatMap(w => {
      const s = cards.get(w.source)
      const t = cards.get(w.target)
      if (!s || !t) return []
      const inner = w.sourceHandle.startsWith('in:')
      const outer = w.targetHandle.startsWith('out:')
      const row = (names: readonly { name: string }[], name: string) =>
        Math.max(
          0,
          names.findIndex(n => n.name === name),
        )
      const x0 = inner ? s.x : s.x + s.placed.width + CARD.tab
      const y0 =
        s.y +
        (inner
          ? CARD.input(row(s.card.inputs, w.sourceHandle.slice(3)))
          : CARD.output(row(s.card.outputs, w.sourceHandle)))
      const x1 = outer ? t.x + t.placed.width : t.x - CARD.tab
      const y1 =
        t.y +
        (outer
          ? CARD.output(row(t.card.outputs, w.targetHandle.slice(4)))
          : CARD.input(row(t.card.inputs, w.targetHandle)))
      const within = [
        s.placed.parent,
        t.placed.parent,
        inner ? w.source : undefined,
        outer ? w.target : undefined,
      ].filter(p => p !== undefined)
      return [{ id: w.id, source: w.source + w.sourceHandle, x0, y0, x1, y1, within }]
    }),
  }
}
