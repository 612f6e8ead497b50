import { clearValue, enterLayers } from './accumulate'
import { memory, now, scattered } from './memory'
import { ASK } from './slots'

const { ask } = memory

/**
 * A smooth lobe sends all that it was drawn for the one way in `scattered`: what passes the layers from there is asked
 * for, and `memory.value` is empty for the lobe to fill.
 */
export function goSmooth(): void {
  scattered.smooth = true
  clearValue()
  ask[ASK.x] = scattered.x
  ask[ASK.y] = scattered.y
  ask[ASK.z] = scattered.z
  if (now.layers > 0) enterLayers()
}
