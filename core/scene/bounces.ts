/**
 * Bounces after which a path ends: safety nets, for roulette ends paths without a loss long before. Opaque ones count
 * apart from those that pass or mirror sharply.
 */
export const USUAL_BOUNCES = 64
export const MOST_BOUNCES = 1024

/** What scenes carried that were written before, without anybody having asked for it. */
const BEFORE = { maxOpaque: 8, maxSpecular: 24 } as const

/** Bounces of a scene as it was stored. */
export function bouncesOf(scene: { maxOpaque: number; maxSpecular: number }): {
  maxOpaque: number
  maxSpecular: number
} {
  const { maxOpaque, maxSpecular } = scene
  return maxOpaque === BEFORE.maxOpaque && maxSpecular === BEFORE.maxSpecular
    ? { maxOpaque: USUAL_BOUNCES, maxSpecular: USUAL_BOUNCES }
    : { maxOpaque, maxSpecular }
}
