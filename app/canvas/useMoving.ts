import type { useVueFlow } from '@vue-flow/core'

/** How long after the last move the canvas stands still, ms. */
const REST = 200
/** How long the page has the machine to itself after an edit of the network, ms. */
const EDIT = 300
/** Rests of the render between two tiles while the canvas moves, and while it is drawn anew, ms. */
const RESTS = { moving: 3, edited: 20 }

/**
 * Whether the canvas is being moved, and whether by a hand that holds it: the render leaves it more of the machine
 * then, as it does when the network was edited. Beginnings and ends of gestures are not to be had in order: that of
 * turning the wheel is told when a drag has begun, that of fitting the view not at all.
 */
export function useMoving(flow: ReturnType<typeof useVueFlow>) {
  const bench = useBench()
  const stage = useStage()
  const moving = ref(false)
  const held = ref(false)
  const edited = ref(false)
  let still: ReturnType<typeof setTimeout> | undefined
  let drawn: ReturnType<typeof setTimeout> | undefined
  flow.onMove(({ event }) => {
    const by: unknown = event.sourceEvent
    held.value = by instanceof MouseEvent && by.buttons > 0
    moving.value = true
    clearTimeout(still)
    still = setTimeout(() => {
      moving.value = false
    }, REST)
  })
  const letGo = () => {
    held.value = false
  }
  addEventListener('pointerup', letGo)
  /** The canvas is about to be drawn anew. */
  function editing(): void {
    edited.value = true
    clearTimeout(drawn)
    drawn = setTimeout(() => {
      edited.value = false
    }, EDIT)
  }
  watch(() => bench.document?.children.length, editing, { flush: 'sync' })
  watch([moving, edited], ([m, e]) => stage.session?.setRest(e ? RESTS.edited : m ? RESTS.moving : 0), {
    flush: 'sync',
  })
  onBeforeUnmount(() => {
    removeEventListener('pointerup', letGo)
    clearTimeout(still)
    clearTimeout(drawn)
    stage.session?.setRest(0)
  })
  return { moving, held, editing }
}
