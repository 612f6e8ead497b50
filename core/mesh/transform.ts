/** Transforms of points: 3 × 4, row by row. */
import type { Model, Part } from './model'

/** The identity. */
export const STILL = Float64Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0)

/** Cofactor of the 3 × 3 part. */
function cofactor(m: ArrayLike<number>, row: number, column: number): number {
  const [r, s] = [0, 1, 2].filter(x => x !== row) as [number, number]
  const [k, l] = [0, 1, 2].filter(x => x !== column) as [number, number]
  return (m[r * 4 + k]! * m[s * 4 + l]! - m[r * 4 + l]! * m[s * 4 + k]!) * ((row + column) % 2 ? -1 : 1)
}

/** Determinant of the 3 × 3 part: negative where a transform mirrors. */
export const determinant = (m: ArrayLike<number>): number =>
  [0, 1, 2].reduce((d, k) => d + m[k]! * cofactor(m, 0, k), 0)

/** The inverse, by cofactors. @returns undefined where there is none */
export function inverse(m: ArrayLike<number>): Float64Array | undefined {
  const det = determinant(m)
  const out = new Float64Array(12)
  for (let i = 0; i < 3; i++) {
    for (let j = 0; j < 3; j++) out[i * 4 + j] = cofactor(m, j, i) / det
    out[i * 4 + 3] = -(out[i * 4]! * m[3]! + out[i * 4 + 1]! * m[7]! + out[i * 4 + 2]! * m[11]!)
  }
  return out.every(Number.isFinite) ? out : undefined
}

/** First `b`, then `a`. */
export function after(a: ArrayLike<number>, b: ArrayLike<number>): Float64Array {
  return Float64Array.from({ length: 12 }, (_, i) => {
    const r = i - (i % 4)
    const k = i % 4
    return a[r]! * b[k]! + a[r + 1]! * b[4 + k]! + a[r + 2]! * b[8 + k]! + (k === 3 ? a[r + 3]! : 0)
  })
}

const nothing = (): number[] => [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity]

/** Makes a box (least x y z, greatest x y z) hold another one that is moved. */
export function movedBox(box: ArrayLike<number>, m: ArrayLike<number>, out: number[]): void {
  for (let r = 0; r < 3; r++) {
    let low = m[r * 4 + 3]!
    let high = low
    for (let k = 0; k < 3; k++) {
      const a = m[r * 4 + k]! * box[k]!
      const b = m[r * 4 + k]! * box[k + 3]!
      low += Math.min(a, b)
      high += Math.max(a, b)
    }
    out[r] = Math.min(out[r]!, low)
    out[r + 3] = Math.max(out[r + 3]!, high)
  }
}

/** Box of each part; that of a copy holds the moved box of its mesh. */
export function boxesOf(model: Model): number[][] {
  const own = model.parts.map(({ position }) => {
    const b = nothing()
    for (let i = 0; i < position.length; i++) {
      b[i % 3] = Math.min(b[i % 3]!, position[i]!)
      b[3 + (i % 3)] = Math.max(b[3 + (i % 3)]!, position[i]!)
    }
    return b
  })
  return model.parts.map((p, i) => {
    if (!p.copy) return own[i]!
    const box = nothing()
    movedBox(own[p.copy.of]!, p.copy.transform, box)
    return box
  })
}

/** Tangents as a 3 × 4 transform leaves them, unit. It does not mirror. */
export function movedTangents(tangent: Float32Array, m: ArrayLike<number>): Float32Array {
  const out = tangent.slice()
  for (let i = 0; i < tangent.length; i += 4) {
    const t = [0, 1, 2].map(
      r => m[r * 4]! * tangent[i]! + m[r * 4 + 1]! * tangent[i + 1]! + m[r * 4 + 2]! * tangent[i + 2]!,
    )
    const l = Math.hypot(...t) || 1
    for (let r = 0; r < 3; r++) out[i + r] = t[r]! / l
  }
  return out
}

/** A copy with triangles of its own; other parts as they are. */
export function withoutCopy(model: Model, part: Part): Part {
  if (!part.copy) return part
  const { of, transform: m } = part.copy
  const { position, normal, uv, index, colour, tangent, uvMore, frame } = model.parts[of]!
  const there = inverse(m) ?? STILL
  const moved = position.slice()
  const turned = normal.slice()
  for (let i = 0; i < position.length; i += 3) {
    // normals go by the inverse transpose
    const n = [0, 1, 2].map(
      k => there[k]! * normal[i]! + there[4 + k]! * normal[i + 1]! + there[8 + k]! * normal[i + 2]!,
    )
    const l = Math.hypot(...n) || 1
    for (let r = 0; r < 3; r++) {
      moved[i + r] =
        m[r * 4]! * position[i]! +
        m[r * 4 + 1]! * position[i + 1]! +
        m[r * 4 + 2]! * position[i + 2]! +
        m[r * 4 + 3]!
      turned[i + r] = n[r]! / l
    }
  }
  return {
    name: part.name,
    position: moved,
    normal: turned,
    uv,
    index,
    ...(colour ? { colour } : {}),
    ...(tangent ? { tangent: movedTangents(tangent, m) } : {}),
    ...(uvMore ? { uvMore } : {}),
    frame: after(m, frame ?? STILL),
  }
}
