/** Spread of the Gaussian that says how crowded a place is, pixels (Ulichney 1993, §4). */
const SIGMA = 1.5
/** Share of the places that the first pattern takes. */
const FIRST = 0.1

/**
 * Ranks 0 … side² − 1 of a square that repeats, such that the places below any rank lie as evenly as they can:
 * an ordered mask without low frequencies
 * (Ulichney 1993, "The void-and-cluster method for dither array generation", Proc. SPIE 1913). His third phase,
 * which looks for clusters of what is still empty, is the second one here: on a square that repeats the crowding
 * by what is empty is a constant less that by what is taken.
 */
export function voidAndCluster(side: number): Uint16Array {
  const n = side * side
  const kernel = new Float64Array(n)
  const energy = new Float64Array(n)
  const taken = new Uint8Array(n)
  const ranks = new Uint16Array(n)
  for (let i = 0; i < n; i++) {
    const x = Math.min(i % side, side - (i % side))
    const y = Math.min(Math.floor(i / side), side - Math.floor(i / side))
    kernel[i] = Math.exp(-(x * x + y * y) / (2 * SIGMA * SIGMA))
  }
  const toggle = (at: number) => {
    const sign = taken[at] ? -1 : 1
    const ax = at % side
    const ay = Math.floor(at / side)
    taken[at]! ^= 1
    for (let i = 0; i < n; i++)
      energy[i]! +=
        sign * kernel[((Math.floor(i / side) - ay + side) % side) * side + (((i % side) - ax + side) % side)]!
  }
  /** The most crowded of the places taken, or the least crowded of the empty ones. */
  const find = (cluster: boolean): number => {
    let best = -1
    for (let i = 0; i < n; i++)
      if (
        (taken[i] === 1) === cluster &&
        (best < 0 || (cluster ? energy[i]! > energy[best]! : energy[i]! < energy[best]!))
      )
        best = i
    return best
  }
  let state = 20261126
  const count = Math.round(n * FIRST)
  for (let k = 0; k < count;) {
    state = (state * 48271) % 2147483647
    const at = state % n
    if (!taken[at]) {
      toggle(at)
      k++
    }
  }
  // crowded places move to voids until the void is where the place came from
  for (;;) {
    const from = find(true)
    toggle(from)
    const to = find(false)
    toggle(to)
    if (to === from) break
  }
  const first = taken.slice()
  for (let rank = count - 1; rank >= 0; rank--) {
    const at = find(true)
    toggle(at)
    ranks[at] = rank
  }
  first.forEach((t, at) => {
    if (t) toggle(at)
  })
  for (let rank = count; rank < n; rank++) {
    const at = find(false)
    toggle(at)
    ranks[at] = rank
  }
  return ranks
}
