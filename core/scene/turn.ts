/** Directions of a copy's mesh in the scene. Each leaves what it made in `memory.turned`. */
import type { Instances } from '../trace/hierarchy'
import { INSTANCE_WORDS, TO_SCENE } from '../trace/instances'
import { memory } from './memory'

const { turned } = memory

/** Turns a normal, by the inverse transpose; its length says nothing. */
export function turnNormal({ words: m }: Instances, instance: number, x: number, y: number, z: number): void {
  const o = instance * INSTANCE_WORDS
  turned[0] = m[o]! * x + m[o + 4]! * y + m[o + 8]! * z
  turned[1] = m[o + 1]! * x + m[o + 5]! * y + m[o + 9]! * z
  turned[2] = m[o + 2]! * x + m[o + 6]! * y + m[o + 10]! * z
}

/** Turns a direction along the surface. */
export function turnDirection({ words: m }: Instances, instance: number, x: number, y: number, z: number): void {
  const o = instance * INSTANCE_WORDS + TO_SCENE
  turned[0] = m[o]! * x + m[o + 1]! * y + m[o + 2]! * z
  turned[1] = m[o + 4]! * x + m[o + 5]! * y + m[o + 6]! * z
  turned[2] = m[o + 8]! * x + m[o + 9]! * y + m[o + 10]! * z
}
