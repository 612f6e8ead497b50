import type { Component } from 'vue'
import CurvesPanel from './CurvesPanel.vue'
import LensPanel from './LensPanel.vue'
import LightsPanel from './LightsPanel.vue'

/** A panel that lies over the picture while it is open; one at a time. It emits `close`. */
export interface BenchPanel {
  component: Component
  /** Name of the action that opens and closes it, what it is called, and its key. */
  action: string
  title: string
  key: string
}

/** Every panel of the bench by the name that `stage.panel` has; a new one is a file of its own and a line here. */
export const panels: Readonly<Record<string, BenchPanel>> = {
  lens: { component: LensPanel, action: 'lens', title: 'Lens of the camera', key: 'Shift+J' },
  curves: {
    component: CurvesPanel,
    action: 'curves',
    title: 'Curves of the layer or the stack',
    key: 'Shift+C',
  },
  lights: { component: LightsPanel, action: 'editLights', title: 'Change the light rig', key: 'Shift+L' },
}
