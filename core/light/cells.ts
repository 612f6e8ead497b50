/**
 * Triangles that do not shine evenly, cut into cells that nearly do: a screen with one bright window on it is drawn
 * from at that window. Cells come by newest-vertex bisection (Mitchell 1991, "Adaptive refinement for elliptic
 * problems"): the edge opposite the newest corner is halved, so that which cell a hit lies in follows from its
 * barycentric weights alone.
 */

/** Cells of all triangles that are cut. */
export interface Cells {
  /** By cell: place of its triangle. */
  place: number[]
  /** By cell: barycentric u, v of its three corners in their triangle. */
  corners: number[]
  /** By cell: its share of the triangle's area. */
  share: number[]
  /** By cell: its leaf of the tree of lights. */
  leaf: number[]
  /** By step of a bisection: number of the first of two steps that follow, or −1 − the number of a cell. */
  steps: number[]
}

export const createCells = (): Cells => ({ place: [], corners: [], share: [], leaf: [], steps: [] })

/** Ratio of the brightest to the darkest of a cell up to which it is not cut. */
const EVEN = 1.5
/** Share of the triangle's mean that any cell counts for at least. */
const LEAST = 0.02

/** Halvings of a cell whose corners differ, beyond those of all. */
const DEEPER = 4

/** A cell that may be halved: mean, least and most luminance of its corners, or of those of its halves. */
interface Cell {
  corners: readonly number[]
  mean: number
  low: number
  high: number
  halves: readonly [Cell, Cell] | null
}

/**
 * Cuts a triangle where it does not shine evenly.
 * @param levels how often all cells are halved; those on an edge of what shines, which have a corner on either side of
 * it, are halved further
 * @param luminanceAt luminance around a place of it, barycentric, over a share of its area
 * @param power is told each cell, its mean luminance and its share of the area
 * @returns number of the first step, by which {@link cellAt} finds cells; −1 where it shines evenly
 */
export function cutIntoCells(
  cells: Cells,
  place: number,
  levels: number,
  luminanceAt: (u: number, v: number, share: number) => number,
  power: (cell: number, luminance: number, share: number) => void,
): number {
  // as many as the others: what is uneven everywhere must not take long
  let left = 2 ** levels
  const look = (corners: readonly number[], level: number, a: number, b: number, c: number): Cell => {
    const low = Math.min(a, b, c)
    const high = Math.max(a, b, c)
    const deep = level >= levels
    if (deep && (isEven(low, high) || level >= levels + DEEPER || left-- <= 0))
      return { corners, mean: (a + b + c) / 3, low, high, halves: null }
    const [first, second] = halvesOf(corners)
    const middle = Math.max(0, luminanceAt(first[4]!, first[5]!, 2 ** -(level + 1)))
    const one = look(first, level + 1, c, a, middle)
    const two = look(second, level + 1, b, c, middle)
    return {
      corners,
      mean: (one.mean + two.mean) / 2,
      low: Math.min(one.low, two.low),
      high: Math.max(one.high, two.high),
      halves: [one, two],
    }
  }
  const corner = (u: number, v: number) => Math.max(0, luminanceAt(u, v, 2 ** -levels))
  const whole = look(WHOLE, 0, corner(1, 0), corner(0, 1), corner(0, 0))
  if (isEven(whole.low, whole.high)) return -1
  const first = cells.steps.length
  cells.steps.push(0)
  keep(whole, first, 1)
  return first

  /** Writes the cells below a step, whose cell has a share of the triangle's area. */
  function keep(cell: Cell, step: number, share: number): void {
    if (cell.halves === null || isEven(cell.low, cell.high)) {
      const number = cells.place.length
      cells.place.push(place)
      cells.corners.push(...cell.corners)
      cells.share.push(share)
      cells.steps[step] = -1 - number
      // what was missed must not become rare and bright
      power(number, Math.max(LEAST * whole.mean, cell.mean), share)
      return
    }
    const next = cells.steps.length
    cells.steps[step] = next
    cells.steps.push(0, 0)
    keep(cell.halves[0], next, share / 2)
    keep(cell.halves[1], next + 1, share / 2)
  }
}

const isEven = (low: number, high: number): boolean => high <= EVEN * low || high === 0

/** Corners of a triangle, by barycentric u and v; the last one counts as the newest. */
export const WHOLE: readonly number[] = [1, 0, 0, 1, 0, 0]

/** Corners of the halves of a cell: each ends with the new corner. */
function halvesOf([au, av, bu, bv, cu, cv]: readonly number[]): [number[], number[]] {
  const [mu, mv] = [(au! + bu!) / 2, (av! + bv!) / 2]
  return [
    [cu!, cv!, au!, av!, mu, mv],
    [bu!, bv!, cu!, cv!, mu, mv],
  ]
}

/** Cell in which a hit lies. @param first step of its triangle; u, v: barycentric */
export function cellAt({ steps }: Cells, first: number, u: number, v: number): number {
  let a = u
  let b = v
  let c = 1 - u - v
  let step = first
  for (let next = steps[step]!; next >= 0; next = steps[step]!) {
    const old = c
    if (a >= b) {
      step = next
      c = 2 * b
      b = a - b
      a = old
    } else {
      step = next + 1
      c = 2 * a
      a = b - a
      b = old
    }
  }
  return -1 - steps[step]!
}
