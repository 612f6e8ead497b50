import earcut from 'earcut'

/**
 * Triangles of one polygon, as numbers of its corners: a fan where it is convex, else by cutting off ears (the
 * library earcut), in the plane of its vector area (Newell's method).
 * @param points three numbers a corner
 */
export function cutPolygon(points: ArrayLike<number>): number[] {
  const n = points.length / 3
  if (n === 3) return [0, 1, 2]
  const at = (c: number, k: number) => points[(c % n) * 3 + k]!
  const normal = [0, 1, 2].map(k => {
    const [i, j] = [(k + 1) % 3, (k + 2) % 3]
    let sum = 0
    for (let c = 0; c < n; c++) sum += (at(c, i) - at(c + 1, i)) * (at(c, j) + at(c + 1, j))
    return sum
  })
  if (isConvex(n, at, normal)) return Array.from({ length: n - 2 }, (_, k) => [0, k + 1, k + 2]).flat()
  const main = normal.map(Math.abs)
  const away = main.indexOf(Math.max(...main))
  const sign = normal[away]! < 0 ? -1 : 1
  const flat = Array.from({ length: n }, (_, c) => [at(c, (away + 1) % 3) * sign, at(c, (away + 2) % 3)]).flat()
  const cut = earcut(flat)
  const out: number[] = []
  // the library gives them the other way round
  for (let t = 0; t < cut.length; t += 3) {
    const [a, b, c] = cut.slice(t, t + 3) as [number, number, number]
    const area =
      (flat[b * 2]! - flat[a * 2]!) * (flat[c * 2 + 1]! - flat[a * 2 + 1]!) -
      (flat[b * 2 + 1]! - flat[a * 2 + 1]!) * (flat[c * 2]! - flat[a * 2]!)
    out.push(a, ...(area < 0 ? [c, b] : [b, c]))
  }
  return out
}

/** Whether all corners turn the way the whole does. */
function isConvex(n: number, at: (c: number, k: number) => number, normal: readonly number[]): boolean {
  for (let c = 0; c < n; c++) {
    const u = [0, 1, 2].map(k => at(c + 1, k) - at(c, k))
    const v = [0, 1, 2].map(k => at(c + 2, k) - at(c + 1, k))
    let turn = 0
    for (let k = 0; k < 3; k++)
      turn += normal[k]! * (u[(k + 1) % 3]! * v[(k + 2) % 3]! - u[(k + 2) % 3]! * v[(k + 1) % 3]!)
    if (turn < 0) return false
  }
  return true
}
