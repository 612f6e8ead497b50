/** What a panel gives to what receives it. */
import { lit } from './memory'
import { received } from './receiver'
import { weighShape } from './shapes/dispatch'
import { PANEL } from './slots'

/** Estimates what the panel at o gives at the point that begins at `at`, unshadowed, to lit.estimate. */
export function weighPanel(p: Float64Array, o: number, point: Float64Array, at: number): void {
  weighShape(p[o + PANEL.shape]!, p, o, point, at)
  if (lit.estimate === 0) return
  // what shows no area lies in a direction, whoever looks
  const far = p[o + PANEL.area]! === 0
  const dx = p[o + PANEL.x]! - (far ? 0 : point[at]!)
  const dy = p[o + PANEL.y]! - (far ? 0 : point[at + 1]!)
  const dz = p[o + PANEL.z]! - (far ? 0 : point[at + 2]!)
  lit.estimate *= received(dx, dy, dz, dx * dx + dy * dy + dz * dz, p[o + PANEL.radius2]!)
}
