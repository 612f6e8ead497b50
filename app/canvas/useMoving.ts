import type { useVueFlow } from '@vue-flow/core'

/** How long after the last move the canvas stands still, ms. */
const REST = 200

/**
 * Whether the canvas is being moved: the render leaves it more of the machine then. Beginnings and ends of gestures
 * are not to be had in order: that of turning the wheel is told when a drag has begun, that of fitting the view not at
 * all.
 */
export function useMoving(flow: ReturnType<typeof useVueFlow>) {
  const stage = useStage()
  const moving = ref(false)
  let still: ReturnType<typeof setTimeout> | undefined
  flow.onMove(() => {
    moving.value = true
    clearTimeout(still)
    still = setTimeout(() => {
      moving.value = false
    }, REST)
  })
  watch(moving, on => stage.session?.setPolite(on))
  onBeforeUnmount(() => {
    clearTimeout(still)
    stage.session?.setPolite(false)
  })
  return moving
}
