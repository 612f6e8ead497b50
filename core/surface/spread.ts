/** RGB colours over the seven channels of a path. */
import { memory } from './memory'
import { SPEC } from './slots'

const { basis, spec } = memory

/** Writes the seven channels of an RGB colour to `target[o …]`. */
export function spread(target: Float64Array, o: number, r: number, g: number, b: number): void {
  target[o] = basis[0]! * r + basis[1]! * g + basis[2]! * b
  target[o + 1] = basis[3]! * r + basis[4]! * g + basis[5]! * b
  target[o + 2] = basis[6]! * r + basis[7]! * g + basis[8]! * b
  target[o + 3] = basis[9]! * r + basis[10]! * g + basis[11]! * b
  target[o + 4] = r
  target[o + 5] = g
  target[o + 6] = b
}

/** {@link spread} of the weight in `memory.spec`. */
export function spreadWeight(target: Float64Array, o: number): void {
  const r = spec[SPEC.weight]!
  const g = spec[SPEC.weight + 1]!
  const b = spec[SPEC.weight + 2]!
  for (let k = 0; k < 4; k++) target[o + k] = basis[k * 3]! * r + basis[k * 3 + 1]! * g + basis[k * 3 + 2]! * b
  target[o + 4] = r
  target[o + 5] = g
  target[o + 6] = b
}
