import { placeWord, type Hierarchy } from './hierarchy'
import { TO_SCENE, INSTANCE_WORDS, instanceAt, storedPlace } from './instances'

/**
 * The triangle that was taken up last, in the space of the scene: a corner, the two edges from it,
 * and their cross product, as long as twice the area; the instance it belongs to, −1 for none.
 */
export const triangle = {
  ax: 0.5,
  ay: 0.5,
  az: 0.5,
  e1x: 0.5,
  e1y: 0.5,
  e1z: 0.5,
  e2x: 0.5,
  e2y: 0.5,
  e2z: 0.5,
  nx: 0.5,
  ny: 0.5,
  nz: 0.5,
  instance: -1,
}

/** Takes up the triangle at a place. */
export function loadTriangle(h: Hierarchy, place: number): void {
  const packets = h.packets
  const instance = h.instances === null ? -1 : instanceAt(h.instances, place)
  const c = placeWord(instance < 0 ? place : storedPlace(h.instances!, instance, place))
  const ax = packets[c]!
  const ay = packets[c + 4]!
  const az = packets[c + 8]!
  triangle.ax = ax
  triangle.ay = ay
  triangle.az = az
  triangle.e1x = packets[c + 12]! - ax
  triangle.e1y = packets[c + 16]! - ay
  triangle.e1z = packets[c + 20]! - az
  triangle.e2x = packets[c + 24]! - ax
  triangle.e2y = packets[c + 28]! - ay
  triangle.e2z = packets[c + 32]! - az
  triangle.instance = instance
  if (instance >= 0) toScene(h.instances!.words, instance * INSTANCE_WORDS + TO_SCENE)
  crossEdges()
}

/** Takes up a triangle that no hierarchy holds, by its corners' places among positions. */
export function takeTriangle(position: Float32Array, i0: number, i1: number, i2: number): void {
  const a = i0 * 3
  const b = i1 * 3
  const d = i2 * 3
  triangle.ax = position[a]!
  triangle.ay = position[a + 1]!
  triangle.az = position[a + 2]!
  triangle.e1x = position[b]! - triangle.ax
  triangle.e1y = position[b + 1]! - triangle.ay
  triangle.e1z = position[b + 2]! - triangle.az
  triangle.e2x = position[d]! - triangle.ax
  triangle.e2y = position[d + 1]! - triangle.ay
  triangle.e2z = position[d + 2]! - triangle.az
  triangle.instance = -1
  crossEdges()
}

function crossEdges(): void {
  const { e1x, e1y, e1z, e2x, e2y, e2z } = triangle
  triangle.nx = e1y * e2z - e1z * e2y
  triangle.ny = e1z * e2x - e1x * e2z
  triangle.nz = e1x * e2y - e1y * e2x
}

/** Moves what was taken up from an instance's space. @param o word of the transform */
function toScene(m: Float64Array, o: number): void {
  const { ax, ay, az, e1x, e1y, e1z, e2x, e2y, e2z } = triangle
  const m0 = m[o]!
  const m1 = m[o + 1]!
  const m2 = m[o + 2]!
  const m4 = m[o + 4]!
  const m5 = m[o + 5]!
  const m6 = m[o + 6]!
  const m8 = m[o + 8]!
  const m9 = m[o + 9]!
  const m10 = m[o + 10]!
  triangle.ax = m0 * ax + m1 * ay + m2 * az + m[o + 3]!
  triangle.ay = m4 * ax + m5 * ay + m6 * az + m[o + 7]!
  triangle.az = m8 * ax + m9 * ay + m10 * az + m[o + 11]!
  triangle.e1x = m0 * e1x + m1 * e1y + m2 * e1z
  triangle.e1y = m4 * e1x + m5 * e1y + m6 * e1z
  triangle.e1z = m8 * e1x + m9 * e1y + m10 * e1z
  triangle.e2x = m0 * e2x + m1 * e2y + m2 * e2z
  triangle.e2y = m4 * e2x + m5 * e2y + m6 * e2z
  triangle.e2z = m8 * e2x + m9 * e2y + m10 * e2z
}
