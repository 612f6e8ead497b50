import { sheet } from '../build/sheet'
import type { Model } from '../model'
import { ground } from './ground'

const RADIUS = 0.06
const HALF = 0.14
const FOLDS = 9

/** A cloth over a ball of 12 cm: it lies on its top and falls in folds. */
export const drape = (): Model => ({
  parts: [
    sheet('Cloth', 160, 160, (u, v) => {
      const x = (2 * u - 1) * HALF
      const z = (1 - 2 * v) * HALF
      // way from the middle along the cloth: up to a right angle of it lies on the ball
      const way = Math.hypot(x, z)
      const about = Math.atan2(z, x)
      const lies = Math.min(way, (RADIUS * Math.PI) / 2)
      const falls = way - lies
      const depth = Math.min(1, falls / 0.03)
      const fold = 1 + 0.16 * depth * Math.cos(FOLDS * about)
      const out = RADIUS * Math.sin(lies / RADIUS) * fold + 0.12 * falls
      return [out * Math.cos(about), RADIUS + RADIUS * Math.cos(lies / RADIUS) - falls, out * Math.sin(about)]
    }),
    ground(-0.046),
  ],
})
