import type { Model } from './model'
import { boxesOf } from './transform'

/** Scales a model in place. */
export function scaleModel(model: Model, factor: number): void {
  if (factor === 1) return
  for (const p of model.parts) {
    for (let i = 0; i < p.position.length; i++) p.position[i]! *= factor
    for (const m of [p.copy?.transform, p.frame]) if (m) for (let r = 3; r < 12; r += 4) m[r]! *= factor
  }
}

/** Extent of a model along x, y and z. */
export function extentOf(model: Model): [number, number, number] {
  const boxes = boxesOf(model)
  return [0, 1, 2].map(
    k =>
      boxes.reduce((m, b) => Math.max(m, b[k + 3]!), -Infinity) -
      boxes.reduce((m, b) => Math.min(m, b[k]!), Infinity),
  ) as [number, number, number]
}
