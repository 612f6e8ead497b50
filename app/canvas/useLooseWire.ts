import type { useVueFlow } from '@vue-flow/core'
import { findElement } from '../../core/network/document'
import { givenType, outputOf } from '../../core/network/groups'
import type { LooseWire } from '../words/fits'

/** A wire in the hand, and the card that it is held over. */
export interface HeldWire {
  from: string
  output?: string
  type: string
  over: string | null
}

/**
 * A wire in the hand: cards that it is held over show all that it fits. One that is let go over nothing waits for a
 * node: what takes it is looked for.
 * @param cellsAt place of a point of the page, in cells
 * @param find opens the search
 */
export function useLooseWire(
  flow: ReturnType<typeof useVueFlow>,
  cellsAt: (x: number, y: number) => { x: number; y: number },
  find: () => void,
): Ref<HeldWire | null> {
  const bench = useBench()
  const wire = shallowRef<HeldWire | null>(null)
  let held: Omit<LooseWire, 'at'> | null = null
  flow.onConnectStart(({ nodeId, handleId, handleType }) => {
    const e = nodeId !== undefined && bench.document ? findElement(bench.document, nodeId) : undefined
    const output = e && outputOf(e, handleId)
    const type = e && handleType === 'source' ? givenType(e, output) : undefined
    held = type !== undefined ? { from: nodeId!, output, type } : null
    wire.value = held && { ...held, over: null }
  })
  flow.onConnect(() => {
    held = null
  })
  flow.onConnectEnd(event => {
    const from = held
    held = null
    wire.value = null
    const over = event?.target as HTMLElement | null | undefined
    if (!from || !(event instanceof MouseEvent) || !over?.closest('.vue-flow__pane')) return
    bench.loose = { ...from, at: cellsAt(event.clientX, event.clientY) }
    find()
  })
  return wire
}
