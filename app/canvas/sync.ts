import equal from 'fast-deep-equal/es6'
import type { useVueFlow } from '@vue-flow/core'
import type { Placed } from './arrange'

type Flow = ReturnType<typeof useVueFlow>

const sizeOf = (p: Placed) => ({ width: `${p.width}px`, height: `${p.height}px` })
/** What lies behind the cards, and is as large as they need. A titled frame is held by its title alone. */
const BEHIND: Partial<Record<Placed['kind'], (p: Placed) => object>> = {
  frame: p => ({ style: sizeOf(p), zIndex: -1 }),
  backdrop: p => ({ style: { ...sizeOf(p), pointerEvents: 'none' }, zIndex: -2, dragHandle: '.bar' }),
}

/** What of the library's node follows from where and as what something stands. */
const shape = (p: Placed) => ({
  type: p.kind,
  style: undefined,
  zIndex: undefined,
  dragHandle: undefined,
  isParent: p.kind === 'frame',
  ...BEHIND[p.kind]?.(p),
})

/** Something on the canvas as the library takes it. */
const nodeOf = (p: Placed, picked: string | null) => ({
  ...shape(p),
  id: p.id,
  position: { x: p.x, y: p.y },
  selected: p.id === picked,
  data: markRaw(p.card),
  ...(p.parent !== undefined ? { parentNode: p.parent } : {}),
})

/** Puts a network's cards on the canvas in place of whatever stood there. */
export function putOn(flow: Flow, placed: readonly Placed[], picked: string | null): void {
  flow.setNodes(placed.map(p => nodeOf(p, picked)))
}

/**
 * Brings the canvas from what stood on it to what stands now. Only what differs is handed over: given all of 300
 * cards, the library makes and draws every one anew. What keeps its id keeps its node, as the library's parts hold
 * the node that they were made for.
 * @param before what stood, as it was handed over
 * @param picked the card that is at hand
 */
export function sync(
  flow: Flow,
  before: readonly Placed[],
  placed: readonly Placed[],
  picked: string | null,
): void {
  const stood = new Map(before.map(p => [p.id, p]))
  const stands = new Set(placed.map(p => p.id))
  const gone = flow.nodes.value.filter(n => !stands.has(n.id))
  if (gone.length) flow.removeNodes(gone, false)
  const come: Placed[] = []
  for (const p of placed) {
    const was = stood.get(p.id)
    const node = flow.findNode(p.id)
    if (!was || !node) {
      come.push(p)
      continue
    }
    // a drag moves a card on the canvas alone, until it is let go
    if (node.position.x !== p.x || node.position.y !== p.y) node.position = { x: p.x, y: p.y }
    if (was.element !== p.element || !equal(was.card, p.card)) node.data = markRaw(p.card)
    if (was.kind !== p.kind || was.width !== p.width || was.height !== p.height) Object.assign(node, shape(p))
  }
  if (come.length) flow.addNodes(come.map(p => nodeOf(p, picked)))
}
