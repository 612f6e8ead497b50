/** Names of draws and states in this room. The build replaces them by the numbers themselves. */

/** Pairs of draws of a path: filter, wavelengths and lens, then {@link PAIR}.stride for each bounce. */
export const PAIR = {
  filter: 0,
  wavelengths: 1,
  lens: 2,
  first: 3,
  /** Which lobe, and which light. */
  pick: 0,
  /** Where on the light. */
  light: 1,
  direction: 2,
  roulette: 3,
  fields: 4,
  flight: 5,
  phase: 6,
  stride: 7,
  /** In matter: which light at which place; where on it. These two have pairs of their own, from `within` on. */
  asked: 7,
  lamp: 8,
  within: 3584,
} as const

/** What the medium that a path is in does. */
export const FILLS = { nothing: 0, absorbs: 1, scatters: 2 } as const

/** How the camera still looks along a path: not at all, through openings alone, through these and straight glass. */
export const VIEW = { none: 0, openings: 1, glass: 2 } as const

/**
 * Whether light that a path finds has been drawn for: not; where it scattered last; there, and it has passed straight
 * glass since.
 */
export const COUNTED = { not: 0, drawn: 1, passed: 2 } as const
