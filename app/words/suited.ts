import { table } from '../../core/nodes/table'
import { rounded } from '../input/step'

/** Shares of a part's longest edge that lengths begin at, where the standard's own number knows nothing of the part. */
const SHARES = table<number>({
  radius: 1 / 40,
  subsurface_radius: 1 / 40,
  transmission_depth: 1 / 4,
  depth: 1 / 4,
  size: 1 / 10,
})

/**
 * A length to begin with that suits a part, metres, of one digit; undefined where none is known to.
 * @param extent longest edge of the part, metres; undefined while that is not known
 */
export function suitedLength(input: string, extent: number | undefined): number | undefined {
  const share = SHARES[input]
  return share !== undefined && extent !== undefined && extent > 0 ? rounded(share * extent) : undefined
}

/**
 * What levels of a length begin with: about what it is now, or what suits the part where it is nothing or beyond it.
 * @param now metres
 */
export function suitedSpan(
  input: string,
  now: number,
  usual: number,
  extent: number | undefined,
): { low: number; high: number } {
  const fits = now > 0 && now <= (extent ?? Infinity)
  const middle = fits ? now : (suitedLength(input, extent) ?? usual)
  return { low: middle / 2, high: middle * 1.5 }
}
