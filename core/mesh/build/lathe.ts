import { partOf, type Part } from '../model'
import { sheet } from './sheet'

/** Point of a profile: radius and height, metres. */
export type ProfilePoint = readonly [r: number, y: number]

/** Rounds the corners of a profile with arcs. @param radius of the arcs; corners flatter than 20° stay */
export function rounded(profile: readonly ProfilePoint[], radius: number, steps = 4): ProfilePoint[] {
  return profile.flatMap((p, i): ProfilePoint[] => {
    const a = profile[i - 1]
    const b = profile[i + 1]
    if (!a || !b) return [p]
    const u = [a[0] - p[0], a[1] - p[1]]
    const v = [b[0] - p[0], b[1] - p[1]]
    const lu = Math.hypot(...u)
    const lv = Math.hypot(...v)
    const cos = (u[0]! * v[0]! + u[1]! * v[1]!) / (lu * lv)
    if (cos < -0.94) return [p]
    const cut = Math.min(radius / Math.tan(Math.acos(cos) / 2), lu * 0.45, lv * 0.45)
    const s = [p[0] + (u[0]! / lu) * cut, p[1] + (u[1]! / lu) * cut]
    const e = [p[0] + (v[0]! / lv) * cut, p[1] + (v[1]! / lv) * cut]
    // quadratic Bézier through the corner's tangents: close enough to an arc for a bevel
    return Array.from({ length: steps + 1 }, (_, k) => {
      const t = k / steps
      return [
        (1 - t) ** 2 * s[0]! + 2 * t * (1 - t) * p[0] + t * t * e[0]!,
        (1 - t) ** 2 * s[1]! + 2 * t * (1 - t) * p[1] + t * t * e[1]!,
      ] as const
    })
  })
}

/**
 * Turns a profile about the y axis. It runs so that the outside lies to its right when seen with r to the right
 * and y up, going up. u runs around, v along.
 */
export function lathe(name: string, profile: readonly ProfilePoint[], segments: number): Part {
  const position: number[] = []
  const uv: number[] = []
  const index: number[] = []
  const length = [0]
  for (let i = 1; i < profile.length; i++)
    length.push(
      length[i - 1]! + Math.hypot(profile[i]![0] - profile[i - 1]![0], profile[i]![1] - profile[i - 1]![1]),
    )
  const total = length.at(-1)!
  // normals along the profile, averaged where it bends gently, doubled vertices where it creases
  const rows: { r: number; y: number; n: [number, number]; v: number }[] = []
  const segment = (i: number): [number, number] => {
    const dr = profile[i + 1]![0] - profile[i]![0]
    const dy = profile[i + 1]![1] - profile[i]![1]
    const l = Math.hypot(dr, dy) || 1
    return [dy / l, -dr / l]
  }
  profile.forEach(([r, y], i) => {
    const before = i > 0 ? segment(i - 1) : undefined
    const after = i < profile.length - 1 ? segment(i) : undefined
    const v = length[i]! / total
    if (before && after) {
      if (before[0] * after[0] + before[1] * after[1] > 0.82) {
        const n = [before[0] + after[0], before[1] + after[1]]
        const l = Math.hypot(...n)
        rows.push({ r, y, n: [n[0]! / l, n[1]! / l], v })
      } else rows.push({ r, y, n: before, v }, { r, y, n: after, v })
    } else rows.push({ r, y, n: (before ?? after)!, v })
  })
  const normal: number[] = []
  for (const row of rows)
    for (let s = 0; s <= segments; s++) {
      const a = (2 * Math.PI * (s === segments ? 0 : s)) / segments
      const sin = Math.sin(a)
      const cos = Math.cos(a)
      position.push(row.r * sin, row.y, row.r * cos)
      normal.push(row.n[0] * sin, row.n[1], row.n[0] * cos)
      uv.push(s / segments, row.v)
    }
  for (let i = 0; i + 1 < rows.length; i++) {
    if (rows[i]!.r === rows[i + 1]!.r && rows[i]!.y === rows[i + 1]!.y) continue
    for (let s = 0; s < segments; s++) {
      const a = i * (segments + 1) + s
      const b = a + segments + 1
      if (rows[i]!.r > 0) index.push(a, a + 1, b + 1)
      if (rows[i + 1]!.r > 0) index.push(a, b + 1, b)
    }
  }
  return partOf(name, { position, normal, uv, index })
}

/** Sweeps a circle along a curve given by its points. u runs around, v along. */
export function tube(
  name: string,
  path: readonly (readonly [number, number, number])[],
  radius: number,
  segments: number,
): Part {
  return sheet(name, segments, path.length - 1, (around, along) => {
    const i = Math.round(along * (path.length - 1))
    const p = path[i]!
    const a = path[Math.max(0, i - 1)]!
    const b = path[Math.min(path.length - 1, i + 1)]!
    const t = [0, 1, 2].map(k => b[k]! - a[k]!)
    const l = Math.hypot(...t)
    const d = t.map(x => x / l)
    const side = [0, 0, 1]
    const up = [
      side[1]! * d[2]! - side[2]! * d[1]!,
      side[2]! * d[0]! - side[0]! * d[2]!,
      side[0]! * d[1]! - side[1]! * d[0]!,
    ]
    const w = around === 1 ? 0 : 2 * Math.PI * around
    const at = (k: number) => p[k]! + radius * (Math.cos(w) * side[k]! + Math.sin(w) * up[k]!)
    return [at(0), at(1), at(2)]
  })
}

/** Joins parts into one. */
export function joined(name: string, parts: readonly Part[]): Part {
  const all = (key: 'position' | 'normal' | 'uv') => Float32Array.from(parts.flatMap(p => Array.from(p[key])))
  let first = 0
  const index = parts.flatMap(p => {
    const i = Array.from(p.index, x => x + first)
    first += p.position.length / 3
    return i
  })
  return { name, position: all('position'), normal: all('normal'), uv: all('uv'), index: Uint32Array.from(index) }
}

/** Moves every vertex through a rigid motion. @param m columns of a rotation, then the shift */
export function placed(part: Part, m: readonly number[]): Part {
  const position = part.position.slice()
  const normal = part.normal.slice()
  for (let i = 0; i < position.length; i += 3)
    for (let r = 0; r < 3; r++) {
      position[i + r] =
        m[r]! * part.position[i]! +
        m[3 + r]! * part.position[i + 1]! +
        m[6 + r]! * part.position[i + 2]! +
        m[9 + r]!
      normal[i + r] = m[r]! * part.normal[i]! + m[3 + r]! * part.normal[i + 1]! + m[6 + r]! * part.normal[i + 2]!
    }
  return { ...part, position, normal }
}
