/** Numbers of each vertex, and how many it has. */
export interface VertexNumbers {
  numbers: Float32Array
  width: number
}

/** For each vertex the first one that has the same numbers; −0 and 0 are the same. */
export function firstAlike(count: number, all: readonly VertexNumbers[]): Uint32Array {
  const first = new Uint32Array(count)
  let size = 1024
  while (size < count * 2) size *= 2
  const table = new Int32Array(size).fill(-1)
  // as bits: adding 0 takes the sign from −0
  const words = all.map(({ numbers }) => {
    const positive = new Float32Array(numbers.length)
    for (let i = 0; i < numbers.length; i++) positive[i] = numbers[i]! + 0
    return new Int32Array(positive.buffer)
  })
  const widths = all.map(a => a.width)
  const same = (a: number, b: number) => {
    for (let k = 0; k < words.length; k++) {
      const w = words[k]!
      const n = widths[k]!
      for (let i = 0; i < n; i++) if (w[a * n + i] !== w[b * n + i]) return false
    }
    return true
  }
  for (let v = 0; v < count; v++) {
    let h = 0
    for (let k = 0; k < words.length; k++) {
      const w = words[k]!
      const n = widths[k]!
      for (let i = v * n; i < (v + 1) * n; i++) h = Math.imul(h ^ w[i]!, 0x9e3779b1) ^ (h >>> 15)
    }
    let at = h & (size - 1)
    while (table[at]! >= 0 && !same(table[at]!, v)) at = (at + 1) & (size - 1)
    if (table[at]! < 0) table[at] = v
    first[v] = table[at]!
  }
  return first
}
