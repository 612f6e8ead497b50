/** Wavelengths, and draws of the current surface, for tests. */
import { basisB, basisG, basisR } from '../colour/upsample'
import { memory } from '../surface/memory'
import { sample } from '../surface/sample'

const { basis, lane } = memory

/** Loads a path's wavelengths by their places on the grid. */
export function loadLanes(places: readonly number[]): void {
  places.forEach((g, k) => {
    lane[k] = g
    basis.set([basisR[g]!, basisG[g]!, basisB[g]!], k * 3)
  })
}

/**
 * Draws n directions of the surface as it stands, by a rank-1 lattice (R3, Roberts 2018): means converge far faster
 * than with random draws.
 * @param drawn hears of each that carries something
 */
export function drawEvenly(n: number, drawn: () => void): void {
  for (let i = 0; i < n; i++)
    if (
      sample(
        (0.5 + i * 0.8191725133961645) % 1,
        (0.5 + i * 0.6710436067037893) % 1,
        (0.5 + i * 0.5497004779019703) % 1,
      )
    )
      drawn()
}
