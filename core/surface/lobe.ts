/** What a lobe is, and those that are added while the program runs. */

/**
 * What becomes of light that passes a lobe: it is on the far side, inside of a glass, or walks below the surface.
 */
export const PASSAGE = { far: 0, glass: 1, walk: 2 } as const

/**
 * How a lobe answers light that a coat above throws back to it: by scattering it in all directions, by mirroring it as
 * facets do, as what facets reflect again and again, or by letting most of it pass.
 */
export const UNDER_COAT = { scatters: 0, mirrors: 1, again: 2, passes: 3 } as const

/**
 * One way of scattering: a file in `lobes/`, and a line in `lobes/kinds.ts`. Methods get the offset o of the lobe
 * in `memory.lobes`; the surface is finished, its viewer in `now`. A file besides exports the function that pushes
 * the lobe, and names the words of {@link LOBE} that it uses in its own way.
 */
export interface Lobe {
  readonly passage: number
  /** See {@link UNDER_COAT}; it scatters where this is left out. */
  readonly underCoat?: number
  /** Whether it answers light that comes from behind the surface. */
  readonly behind?: boolean
  /** Whether it answers light from a given direction: smooth ones, and those that walk or pass straight, do not. */
  answers(o: number): boolean
  /**
   * Adds f·|cos θi| for the light in `memory.facet` (its side in `now.reflected`) to `memory.value`, and writes
   * the density with which {@link sample} would choose it to `ask[ASK.pdf]`, which is 0 before.
   */
  evaluate(o: number): void
  /**
   * Draws a direction by `ask` (choose, u, v) into `scattered`. Smooth lobes put their whole weight into
   * `memory.value` and say so. @returns false when the sample carries nothing
   */
  sample(o: number): boolean
  /** Share of the light that it sends back, per channel, as far as known without integrating: for coats above. */
  albedo(o: number, channel: number): number
  /** By how much it is picked, before its weight and layers. */
  pick(o: number): number
  /** Albedo of RGB component k, for guides and AOVs. */
  guide(o: number, k: number): number
  /** How much of its light leaves in all directions, 0..1: how a coat's inner face meets it. */
  roughness(o: number): number
  /** Adds what of it passes straight to `memory.value`, for shadow rays through glass. */
  straight(o: number): void
  /**
   * Of lobes that reflect and transmit: the chance with which the direction just drawn was taken for reflecting.
   */
  chance?(o: number): number
}

/** Lobes that were registered while the program runs. */
const added: Lobe[] = []
/** Number of the first of them: far above those of the list. */
const FIRST_ADDED = 1000

/** Adds a lobe from outside. @returns the number of its kind, for `openLobe` */
export function registerLobe(lobe: Lobe): number {
  return FIRST_ADDED + added.push(lobe) - 1
}

/** A lobe that was registered. */
export const registeredLobe = (kind: number): Lobe => added[kind - FIRST_ADDED]!
