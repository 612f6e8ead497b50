/** What many lobes do alike. */
import { memory } from './memory'
import { LOBE } from './slots'

const { lobes } = memory

export const always: (o: number) => boolean = () => true
export const never: (o: number) => boolean = () => false
export const nothing: (o: number) => void = () => undefined
/** Answers light from a given direction unless it is smooth. */
export const whenRough = (o: number): boolean => lobes[o + LOBE.alpha] !== 0
/** The albedo that was noted when the lobe was pushed. */
export const noted: (o: number, channel?: number) => number = o => lobes[o + LOBE.albedo]!
/** √α. */
export const rootAlpha = (o: number): number => Math.sqrt(lobes[o + LOBE.alpha]!)
