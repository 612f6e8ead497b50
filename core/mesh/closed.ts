import type { Part } from './model'

/**
 * Whether the surface of a part closes: every edge is run through as often one way as the other, once vertices at
 * the same place are taken for one. Shells of glass and what scatters below its surface need it.
 */
export function isClosed(part: Pick<Part, 'position' | 'index'>): boolean {
  const { position, index } = part
  const places = new Map<string, number>()
  const at = new Int32Array(position.length / 3)
  for (let v = 0; v < at.length; v++) {
    const key = `${position[v * 3]!},${position[v * 3 + 1]!},${position[v * 3 + 2]!}`
    let n = places.get(key)
    if (n === undefined) places.set(key, (n = places.size))
    at[v] = n
  }
  const ways = new Map<number, number>()
  const count = places.size
  for (let t = 0; t < index.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const a = at[index[t + k]!]!
      const b = at[index[t + ((k + 1) % 3)]!]!
      if (a === b) continue
      const key = Math.min(a, b) * count + Math.max(a, b)
      ways.set(key, (ways.get(key) ?? 0) + (a < b ? 1 : -1))
    }
  for (const way of ways.values()) if (way !== 0) return false
  return index.length > 0
}
