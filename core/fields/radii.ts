/**
 * Radii come in tiers, each four times the one before, and steps within them, four an octave, largest first. Rays as
 * long as a tier's radius tell of all its steps at once, and of one radius the same whichever of two tiers has it.
 * Between two steps a field is taken to be straight over the logarithm of the radius: within 0.4 % for one that is as
 * the radius is.
 */

/** Values that are kept of a tier: its steps with both ends. */
export const STEPS = 9

/** Tier of a radius; the step above it, and how far it lies on the way to the next, 0..1. */
export const place = { tier: 0, step: 0, share: 0.5 }

/** Finds the {@link place} of a radius. @param r above 0, metres */
export function placeRadius(r: number): void {
  const octaves = Math.log2(r)
  place.tier = Math.ceil(octaves / 2)
  const below = 4 * (2 * place.tier - octaves)
  place.step = Math.min(STEPS - 2, Math.floor(below))
  place.share = below - place.step
}

/** What the values of a tier, from `at` on, say at the {@link place}. */
export function valueAtRadius(values: Float32Array, at: number): number {
  const near = values[at + place.step]!
  return near + place.share * (values[at + place.step + 1]! - near)
}

/** A tier's own radius, metres. */
export const radiusOf = (tier: number): number => 4 ** tier

/** What steps stand to the tier's own radius, turned over. */
export const OVER_STEP = Float64Array.from({ length: STEPS }, (_, k) => 2 ** (k / 4))
