import { lathe, type ProfilePoint } from '../build/lathe'
import type { Model } from '../model'
import { ground } from './ground'

const RADIUS = 0.05
const WALL = 0.0015
const STEPS = 48

/** Half a circle's quarter, from the foot to the rim or back. */
const quarter = (radius: number, up: boolean): ProfilePoint[] =>
  Array.from({ length: STEPS + 1 }, (_, i) => {
    const a = (Math.PI / 2) * (up ? i / STEPS : 1 - i / STEPS)
    return [radius * Math.sin(a), RADIUS - radius * Math.cos(a)] as const
  })

/** A bowl of 10 cm with a wall of 1.5 mm, closed, on a ground. */
export const shell = (): Model => ({
  parts: [lathe('Bowl', [...quarter(RADIUS, true), ...quarter(RADIUS - WALL, false)], 192), ground()],
})
