/**
 * How long the unpacking of a file by a library may take. Damaged files can keep libraries busy for ever; only the host
 * of this code can stop what does not come back.
 */

/** Runs some work and gives up on it after a while, by throwing. */
export type Patience = <T>(work: () => T) => T

let patience: Patience = work => work()

/** Says how libraries are stopped; until then they are waited for. */
export function setPatience(p: Patience): void {
  patience = p
}

/** Runs work of a library, for as long as its host has patience. */
export const patiently: Patience = work => patience(work)
