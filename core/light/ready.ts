import type { Geometry } from '../scene/geometry'
import { createEmitters, letsShadowsPass, type Shining } from './emitters'
import type { Lights } from './lights'
import { isColour, PANEL } from './slots'
import { lightVisibility } from './visibility'

/** What was found last: cameras and most values change without it. */
let last:
  | {
      geometry: Geometry
      lights: Lights
      ready: Lights
      /** Which parts light passes straight. */ straight: string
    }
  | undefined

/**
 * Adds to a rig's lights what each thread finds by itself: which parts of the model shine, and what each part sees
 * of each light.
 */
export function readyLights(
  geometry: Geometry,
  lights: Lights,
  materials: readonly Shining[],
  materialOf: Int32Array,
): Lights {
  const emitters = createEmitters(geometry, materials, materialOf)
  const straight = materialOf.reduce((text, m) => text + (letsShadowsPass(materials[m]) ? '1' : '0'), '')
  if (
    last?.geometry === geometry &&
    last.ready.emitters === emitters &&
    last.straight === straight &&
    samePanels(last.lights, lights)
  )
    return { ...lights, emitters, visible: last.ready.visible, within: last.ready.within }
  const ready = { ...lights, emitters }
  const passes = (part: number) => letsShadowsPass(materials[materialOf[part]!])
  ready.visible = lightVisibility(geometry, ready, passes)
  ready.within = { shares: [], passes }
  last = { geometry, lights, ready, straight }
  return ready
}

/**
 * Whether two rigs have their panels in the same places; lights that come by message are copies each time. How bright
 * they are counts only where they are chosen by a tree, which may be cut elsewhere then.
 */
const samePanels = (a: Lights, b: Lights): boolean =>
  a.panels.length === b.panels.length &&
  a.panels.every((x, i) => x === b.panels[i] || (a.choices.tree === null && isColour(i % PANEL.stride)))
