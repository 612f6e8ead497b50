import type { useVueFlow } from '@vue-flow/core'
import { CARD, CELL } from './cards'

/** Where things stand on the canvas. */
export function usePlaces(flow: ReturnType<typeof useVueFlow>) {
  /** Where a new node goes: the middle of what is seen, in cells. */
  function middle(): { x: number; y: number } {
    const v = flow.viewport.value
    const size = flow.dimensions.value
    return {
      x: +((size.width / 2 - v.x) / v.zoom / CELL.x).toFixed(2),
      y: +((size.height / 2 - v.y) / v.zoom / CELL.y).toFixed(2),
    }
  }
  /** Where a point of the page lies, in cells. */
  function cellsAt(x: number, y: number): { x: number; y: number } {
    const p = flow.screenToFlowCoordinate({ x, y })
    return { x: +(p.x / CELL.x).toFixed(2), y: +(p.y / CELL.y).toFixed(2) }
  }
  /** Brings a card into view, as large as cards are now. */
  function show(id: string): void {
    const n = flow.findNode(id)
    if (!n) return
    const { x, y } = n.computedPosition
    // what is new has not been measured
    const card = { width: n.dimensions.width || CARD.width, height: n.dimensions.height || CARD.least }
    const { zoom, x: vx, y: vy } = flow.viewport.value
    const { width, height } = flow.dimensions.value
    const inside =
      (x - CARD.tab) * zoom + vx > 0 &&
      y * zoom + vy > 0 &&
      (x + card.width + CARD.tab) * zoom + vx < width &&
      (y + card.height) * zoom + vy < height
    if (!inside) void flow.setCenter(x + card.width / 2, y + card.height / 2, { zoom })
  }

  return { middle, cellsAt, show }
}
