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
