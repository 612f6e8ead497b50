import { box } from '../build/solids'
import type { Model, Part } from '../model'

/** What pieces of some 10 cm stand on. @param top its height, metres */
export const ground = (top = 0): Part => box('Ground', [-0.2, top - 0.02, -0.2], [0.2, top, 0.2])

/** Whether a part is what the others of its piece stand on. */
export const isGround = (name: string, { parts }: Model): boolean =>
  parts.length > 1 && /^(Ground|Step \d+)$/.test(name)
