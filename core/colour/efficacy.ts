import { GRID_SIZE } from './grid'
import { d65, yBar } from './observer'

/**
 * Luminous efficacy of radiation of a spectrum on the grid, lm/W: 683 lm/W at 555 nm (SI), weighed by V(λ) = ȳ
 * (CIE 015). Only what lies in 380–780 nm counts as power.
 */
export function efficacyOf(spectrum: ArrayLike<number>): number {
  let light = 0
  let power = 0
  for (let i = 0; i < GRID_SIZE; i++) {
    light += spectrum[i]! * yBar[i]!
    power += spectrum[i]!
  }
  return (683 * light) / power
}

/** That of D65: what a watt of a panel's light of that colour gives. */
export const D65_EFFICACY = efficacyOf(d65)
