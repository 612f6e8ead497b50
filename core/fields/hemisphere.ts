import type { RayBatch } from '../trace/ray-batch'
import type { Field } from './field'

/** 2 − the golden ratio: turns of one ray against the one before, so that none lie in a row (Vogel 1979). */
const GOLDEN = 0.3819660112501051

/**
 * Directions of a hemisphere about +z, three numbers each, one for each of as many strata of the cosine. They come in
 * pairs on either side of z: a plane through z has as many of them on one side as on the other.
 */
export function hemisphere(spread: Field['spread'], rays: number): Float64Array {
  const out = new Float64Array(rays * 3)
  for (let i = 0; i < rays; i++) {
    const x = (i + 0.5) / rays
    const z = spread === 'even' ? x : Math.sqrt(x)
    const s = Math.sqrt(1 - z * z)
    const turn = 2 * Math.PI * GOLDEN * (i >> 1) + Math.PI * (i & 1)
    out[i * 3] = s * Math.cos(turn)
    out[i * 3 + 1] = s * Math.sin(turn)
    out[i * 3 + 2] = z
  }
  return out
}

/** A place of the surface and its normal, on the outer side, unit, in the scene's space. */
export interface Site {
  x: number
  y: number
  z: number
  nx: number
  ny: number
  nz: number
}

/**
 * Lays a ray from a place into a batch.
 * @param to number in the batch
 * @param frame two directions along the surface there, unit and square to each other
 * @param directions of {@link hemisphere}; from: which of them
 * @param off how far from the surface it begins, metres: outwards, or inwards where it is negative, as the ray goes
 */
export function layRay(
  { origin, direction, distance }: RayBatch,
  to: number,
  { x, y, z, nx, ny, nz }: Site,
  frame: Float64Array,
  directions: Float64Array,
  from: number,
  off: number,
  radius: number,
): void {
  const o = to * 3
  const a = directions[from * 3]!
  const b = directions[from * 3 + 1]!
  const c = off < 0 ? -directions[from * 3 + 2]! : directions[from * 3 + 2]!
  origin[o] = x + off * nx
  origin[o + 1] = y + off * ny
  origin[o + 2] = z + off * nz
  direction[o] = a * frame[0]! + b * frame[3]! + c * nx
  direction[o + 1] = a * frame[1]! + b * frame[4]! + c * ny
  direction[o + 2] = a * frame[2]! + b * frame[5]! + c * nz
  distance[to] = radius
}
