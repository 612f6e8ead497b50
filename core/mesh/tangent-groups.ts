/**
 * Triangles around a vertex that share a tangent: those that are joined by edges there and wind alike in u and v. A
 * corner is 3 · triangle + its number.
 */

/** How a triangle lies in u and v: as its winding, mirrored, or neither, which goes with any. */
export const WINDS = { any: 0, same: 1, mirrored: 2 } as const

export const triangleOf = (corner: number): number => Math.floor(corner / 3)
export const next = (corner: number): number => (corner % 3 === 2 ? corner - 2 : corner + 1)
export const before = (corner: number): number => (corner % 3 === 0 ? corner + 2 : corner - 1)

/** Lists of corners for each vertex: those that it comes after, then those that it comes before, by winding. */
const LISTS = 6
const BEFORE = 3

/** The groups at one vertex after another. */
export interface Grouping {
  /** Corners of the groups that were found last, group by group. */
  corners: Int32Array
  /** Where each group ends among them. */
  ends: Int32Array
  /**
   * Finds the groups of list[from] to list[to − 1], the corners at one vertex. Those that go with any and touch no
   * other are in none.
   * @returns how many groups there are
   */
  find(list: Uint32Array, from: number, to: number): number
}

/**
 * @param vertex of each corner
 * @param winds of each triangle
 * @param vertices how many there are
 */
export function createGrouping(vertex: Uint32Array, winds: Uint8Array, vertices: number): Grouping {
  /** First corner of each list, by its place around the vertex under way; −1 where it is empty. */
  const heads = new Int32Array(vertices * LISTS).fill(-1)
  /** What follows a corner in its two lists; whether it is in a group. */
  let links = new Int32Array(0)
  let taken = new Uint8Array(0)
  let count = 0

  const afterOf = (corner: number, winding: number): number => vertex[next(corner)]! * LISTS + winding
  const beforeOf = (corner: number, winding: number): number => vertex[before(corner)]! * LISTS + BEFORE + winding

  function enlist(list: Uint32Array, from: number, to: number): void {
    const most = to - from
    if (most > taken.length) {
      links = new Int32Array(most * 4)
      taken = new Uint8Array(most * 2)
      grouping.corners = new Int32Array(most * 2)
      grouping.ends = new Int32Array(most * 2)
    }
    for (let i = 0; i < most; i++) {
      const corner = list[from + i]!
      const winding = winds[triangleOf(corner)]!
      const after = afterOf(corner, winding)
      const behind = beforeOf(corner, winding)
      taken[i] = 0
      links[2 * i] = heads[after]!
      links[2 * i + 1] = heads[behind]!
      heads[after] = heads[behind] = i
    }
  }

  /** Takes all that is left of a list into the group under way, and empties it. */
  function drain(head: number, way: 0 | 1): void {
    const { corners } = grouping
    for (let i = heads[head]!; i >= 0; i = links[2 * i + way]!)
      if (taken[i] === 0) {
        taken[i] = 1
        corners[count++] = i
      }
    heads[head] = -1
  }

  const grouping: Grouping = {
    corners: new Int32Array(0),
    ends: new Int32Array(0),
    find(list, from, to) {
      enlist(list, from, to)
      const { corners, ends } = grouping
      let groups = 0
      count = 0
      for (let i = 0; i < to - from; i++) {
        const winding = winds[triangleOf(list[from + i]!)]!
        if (taken[i] === 1 || winding === WINDS.any) continue
        taken[i] = 1
        let k = count
        corners[count++] = i
        // the group grows while it is walked: a corner brings those that it shares an edge with
        for (; k < count; k++) {
          const corner = list[from + corners[k]!]!
          const after = vertex[next(corner)]! * LISTS + BEFORE
          const behind = vertex[before(corner)]! * LISTS
          drain(after + winding, 1)
          drain(after + WINDS.any, 1)
          drain(behind + winding, 0)
          drain(behind + WINDS.any, 0)
        }
        ends[groups++] = count
      }
      for (let k = 0; k < count; k++) corners[k] = list[from + corners[k]!]!
      for (let i = from; i < to; i++) {
        const winding = winds[triangleOf(list[i]!)]!
        heads[afterOf(list[i]!, winding)] = heads[beforeOf(list[i]!, winding)] = -1
      }
      return groups
    },
  }
  return grouping
}
