import { sheet } from '../build/sheet'
import type { Model } from '../model'

const SIDE = 4
/** Waves of the ground: how many across, how high (m), which way, where they begin; one smaller than the other. */
const WAVES = Array.from({ length: 14 }, (_, i) => ({
  count: 1.3 * 1.45 ** i,
  height: 0.22 * 0.62 ** i,
  way: (i * 2.399963) % (2 * Math.PI),
  from: (i * 1.7) % (2 * Math.PI),
}))

/** A patch of ground of 4 m, with hollows of 40 cm and less. */
export const terrain = (): Model => ({
  parts: [
    sheet('Ground', 220, 220, (u, v) => {
      const x = (u - 0.5) * SIDE
      const z = (0.5 - v) * SIDE
      let y = 0
      for (const { count, height, way, from } of WAVES) {
        const along = ((x * Math.cos(way) + z * Math.sin(way)) / SIDE) * count * 2 * Math.PI + from
        y += height * (1 - Math.abs(Math.sin(along / 2))) - height / 2
      }
      return [x, y, z]
    }),
  ],
})
