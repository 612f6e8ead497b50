/**
 * Goes on with charts beyond their edges, so that look-ups near them find nothing else: each round fills empty texels
 * by the mean of what lies beside them.
 * @param covered 0 where a texel is empty; 2 is written where it was filled
 * @param padding rounds
 */
export function padCharts(
  values: Float32Array,
  covered: Uint8Array,
  { width, height, components, padding }: { width: number; height: number; components: number; padding: number },
): void {
  let edge: number[] | undefined
  const sum = new Float64Array(components)
  for (let round = 0; round < padding; round++) {
    const found = emptyBeside(covered, width, height, edge)
    if (found.length === 0) return
    const filled = new Float32Array(found.length * components)
    found.forEach((i, f) => {
      sum.fill(0)
      let count = 0
      forNeighbours(i, width, height, j => {
        if (!covered[j]) return
        count++
        for (let k = 0; k < components; k++) sum[k]! += values[j * components + k]!
      })
      for (let k = 0; k < components; k++) filled[f * components + k] = sum[k]! / count
    })
    found.forEach((i, f) => {
      covered[i] = 2
      for (let k = 0; k < components; k++) values[i * components + k] = filled[f * components + k]!
    })
    edge = found
  }
}

function forNeighbours(i: number, width: number, height: number, act: (j: number) => void): void {
  const x = i % width
  const y = (i - x) / width
  for (let v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++)
    for (let u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++)
      if (u !== x || v !== y) act(v * width + u)
}

/** Empty texels beside filled ones. @param last those that were filled last; all filled ones where it is left out */
function emptyBeside(covered: Uint8Array, width: number, height: number, last: number[] | undefined): number[] {
  const found = new Set<number>()
  const look = (i: number) => forNeighbours(i, width, height, j => void (covered[j] || found.add(j)))
  if (last) last.forEach(look)
  else for (let i = 0; i < covered.length; i++) if (covered[i]) look(i)
  return [...found]
}
