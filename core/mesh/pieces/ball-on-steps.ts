import { box } from '../build/solids'
import { placed } from '../build/lathe'
import type { Model } from '../model'
import { sphere } from '../sphere'
import { ground } from './ground'

const RADIUS = 0.05
const STEP = 0.012
const STEPS = 5

/** A ball of 10 cm on a ground that rises behind it in steps of 12 mm. */
export const ballOnSteps = (): Model => ({
  parts: [
    placed(sphere('Ball', RADIUS, 96, 192), [1, 0, 0, 0, 1, 0, 0, 0, 1, 0, RADIUS, 0]),
    ground(),
    ...Array.from({ length: STEPS }, (_, i) =>
      box(`Step ${i + 1}`, [-0.2, 0, -0.2], [0.2, STEP * (i + 1), -0.08 - 0.022 * i]),
    ),
  ],
})
