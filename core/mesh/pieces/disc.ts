import { lathe, placed, rounded } from '../build/lathe'
import type { Model } from '../model'
import { ground } from './ground'

/** A turned disc of 10 cm and 8 mm that leans back, u around it: for brushed and spun metal. */
export function disc(): Model {
  const turned = lathe(
    'Disc',
    rounded(
      [
        [0, 0],
        [0.05, 0],
        [0.05, 0.008],
        [0, 0.008],
      ],
      0.0008,
    ),
    192,
  )
  const [sin, cos] = [Math.sin(1.1), Math.cos(1.1)]
  return {
    parts: [placed(turned, [1, 0, 0, 0, cos, sin, 0, -sin, cos, 0, 0.05 * sin + 0.001, 0]), ground()],
  }
}
