import { box } from '../build/solids'
import { joined } from '../build/lathe'
import type { Model } from '../model'

const WALL = 0.2

/** A corner of a room of 3 m with a window in one wall: floor, two walls 20 cm thick, a sill. */
export const room = (): Model => ({
  parts: [
    box('Floor', [0, -WALL, 0], [3, 0, 3]),
    box('Wall', [-WALL, -WALL, -WALL], [0, 2.6, 3]),
    // around the window, without faces that lie in each other
    joined('Window wall', [
      box('', [0, 0, -WALL], [1, 2.6, 0]),
      box('', [2.1, 0, -WALL], [3, 2.6, 0]),
      box('', [1, 0, -WALL], [2.1, 0.9, 0]),
      box('', [1, 2.1, -WALL], [2.1, 2.6, 0]),
    ]),
    box('Sill', [0.95, 0.9, -WALL], [2.15, 0.93, 0.04]),
  ],
})
