import type { Camera } from '../../core/scene/camera'
import { rayThrough } from '../../core/scene/orbit'

/** Rays through the middles of a square grid over what a camera sees: six numbers each, origin and direction. */
export function gridRays(camera: Camera, across: number): Float64Array {
  return Float64Array.from(
    Array.from({ length: across * across }, (_, k) =>
      rayThrough(camera, (k % across) + 0.5, Math.floor(k / across) + 0.5, across, across),
    ).flat(),
  )
}

/**
 * How many values fall into each of equal bins from low to high, the fullest as 1; what lies beyond counts in the
 * outermost.
 */
export function histogram(values: ArrayLike<number>, low: number, high: number, bins: number): number[] {
  const counts = new Array<number>(bins).fill(0)
  for (let i = 0; i < values.length; i++) {
    const v = values[i]!
    if (Number.isFinite(v))
      counts[Math.min(bins - 1, Math.max(0, Math.floor(((v - low) / (high - low)) * bins)))]!++
  }
  const most = Math.max(1, ...counts)
  return counts.map(c => c / most)
}
