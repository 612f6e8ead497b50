/** Functions that nodes call: those that give a number, and those that leave several in `memory.result`. */
import { call as called, several as severalOf, type Expression } from '../expression/expression'
import { lookUp } from '../maps/look-up'
import { hsvToRgb, range, rgbToHsv, smoothstep } from './levels'
import { cell2, cell3, solid2, solid3, worley2, worley3 } from './cells'
import { fractal2, fractal2v, fractal3, fractal3v } from './fractal'
import { noise2, noise2v, noise3, noise3v } from './noise'
import { curve, ramp } from './knots'

/** Functions by the names that generated code calls them by. */
export const FUNCTIONS = {
  cell2,
  cell3,
  curve,
  fractal2,
  fractal2v,
  fractal3,
  fractal3v,
  hsvToRgb,
  lookUp,
  noise2,
  noise2v,
  noise3,
  noise3v,
  ramp,
  range,
  rgbToHsv,
  smoothstep,
  solid2,
  solid3,
  worley2,
  worley3,
}

export type FunctionName = keyof typeof FUNCTIONS

/** How many operands, from the first on, move what a function gives, where it is not all of them. */
const MOVING: Partial<Record<FunctionName, number>> = { cell2: 0, cell3: 0, solid2: 0, solid3: 0, lookUp: 3 }

/** How many of a function's operands count as moving what it gives; 0 where it jumps between values. */
export const moving = (name: string): number => MOVING[name as FunctionName] ?? Infinity

/** Calls a function that gives a number. @param list what it is handed in `memory.knots` */
export const call = (name: FunctionName, operands: readonly Expression[], list?: readonly Expression[]) =>
  called(name, operands, list)

/** Calls a function that leaves numbers in `memory.result`. @returns the first of them */
export const several = (
  name: FunctionName,
  operands: readonly Expression[],
  count: number,
  list?: readonly Expression[],
): Expression[] => severalOf(name, operands, count, list)
