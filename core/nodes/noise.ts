/**
 * The gradient noise of the standard (MaterialX 1.39 pattern nodes): after Perlin 2002, on Jenkins' lookup3 hash.
 * Checked against the reference values of the standard's implementation, see the test. Tried (Node 20, one call
 * of `noise3`): the reference's selections and nested calls 500 ns (numbers passed to calls that are not inlined
 * are boxed, and the selections cannot be predicted); gradients in a table 300 ns; the hash written out in one
 * loop over the corners, seeds as literals: see `docs/performance.md`.
 */
import { hash2, hash3 } from './hash'
import { memory } from './memory'

const { corners: D, noise: N, result } = memory

const fade = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10)

/**
 * Gradients by the low bits of a hash, two and three components an entry: the eight (±1, ±2) and (±2, ±1), and
 * the sixteen along the edges of a cube
 * (four of them twice). A table instead of the reference's selections: those are branches that no processor can
 * guess.
 */
const G2 = new Float64Array(16)
const G3 = new Float64Array(48)
for (let h = 0; h < 16; h++) {
  const su = h & 1 ? -1 : 1
  const sv = h & 2 ? -1 : 1
  if (h < 8) {
    G2[h * 2 + (h < 4 ? 0 : 1)] = su
    G2[h * 2 + (h < 4 ? 1 : 0)] = 2 * sv
  }
  G3[h * 3 + (h < 8 ? 0 : 1)]! += su
  G3[h * 3 + (h < 4 ? 1 : h === 12 || h === 14 ? 0 : 2)]! += sv
}

function gradient2(h: number, x: number, y: number): number {
  const o = (h & 7) << 1
  return G2[o]! * x + G2[o + 1]! * y
}

function gradient3(h: number, x: number, y: number, z: number): number {
  const o = (h & 15) * 3
  return G3[o]! * x + G3[o + 1]! * y + G3[o + 2]! * z
}

/** Gradient noise in two dimensions, about −1..1. Both corners of a row share the first step of the hash. */
export function noise2(x: number, y: number): number {
  N[0] = x
  N[1] = y
  noise2At()
  return N[3]!
}

/** {@link noise2} of N[0…] into N[3]: for loops, where numbers passed to calls would be boxed. */
export function noise2At(): void {
  const x = N[0]!
  const y = N[1]!
  const X = Math.floor(x) | 0
  const Y = Math.floor(y) | 0
  const fx = x - X
  const fy = y - Y
  const g = G2
  const d = D
  for (let j = 0; j < 2; j++) {
    const b = (Y - 559038716 + j) | 0
    const c = ((-559038716 ^ b) - ((b << 14) | (b >>> 18))) | 0
    const r = (c << 11) | (c >>> 21)
    let a0 = (((X - 559038716) ^ c) - r) | 0
    let b0 = ((b ^ a0) - ((a0 << 25) | (a0 >>> 7))) | 0
    let c0 = ((c ^ b0) - ((b0 << 16) | (b0 >>> 16))) | 0
    a0 = ((a0 ^ c0) - ((c0 << 4) | (c0 >>> 28))) | 0
    b0 = ((b0 ^ a0) - ((a0 << 14) | (a0 >>> 18))) | 0
    c0 = ((c0 ^ b0) - ((b0 << 24) | (b0 >>> 8))) | 0
    let a1 = (((X - 559038716 + 1) ^ c) - r) | 0
    let b1 = ((b ^ a1) - ((a1 << 25) | (a1 >>> 7))) | 0
    let c1 = ((c ^ b1) - ((b1 << 16) | (b1 >>> 16))) | 0
    a1 = ((a1 ^ c1) - ((c1 << 4) | (c1 >>> 28))) | 0
    b1 = ((b1 ^ a1) - ((a1 << 14) | (a1 >>> 18))) | 0
    c1 = ((c1 ^ b1) - ((b1 << 24) | (b1 >>> 8))) | 0
    const p = (c0 & 7) << 1
    const q = (c1 & 7) << 1
    const h = fy - j
    d[j * 2] = g[p]! * fx + g[p + 1]! * h
    d[j * 2 + 1] = g[q]! * (fx - 1) + g[q + 1]! * h
  }
  const u = fx * fx * fx * (fx * (fx * 6 - 15) + 10)
  const v = fy * fy * fy * (fy * (fy * 6 - 15) + 10)
  const low = d[0]! + (d[1]! - d[0]!) * u
  const high = d[2]! + (d[3]! - d[2]!) * u
  N[3] = 0.6616 * (low + (high - low) * v)
}

/** Gradient noise in three dimensions, about −1..1. */
export function noise3(x: number, y: number, z: number): number {
  N[0] = x
  N[1] = y
  N[2] = z
  noise3At()
  return N[3]!
}

/** {@link noise3} of N[0…] into N[3]: for loops, where numbers passed to calls would be boxed. */
export function noise3At(): void {
  const x = N[0]!
  const y = N[1]!
  const z = N[2]!
  const X = Math.floor(x) | 0
  const Y = Math.floor(y) | 0
  const Z = Math.floor(z) | 0
  const fx = x - X
  const fy = y - Y
  const fz = z - Z
  const g = G3
  const d = D
  for (let k = 0; k < 4; k++) {
    const j = k & 1
    const l = k >> 1
    const b = (Y - 559038712 + j) | 0
    const c = (((Z - 559038712 + l) ^ b) - ((b << 14) | (b >>> 18))) | 0
    const r = (c << 11) | (c >>> 21)
    let a0 = (((X - 559038712) ^ c) - r) | 0
    let b0 = ((b ^ a0) - ((a0 << 25) | (a0 >>> 7))) | 0
    let c0 = ((c ^ b0) - ((b0 << 16) | (b0 >>> 16))) | 0
    a0 = ((a0 ^ c0) - ((c0 << 4) | (c0 >>> 28))) | 0
    b0 = ((b0 ^ a0) - ((a0 << 14) | (a0 >>> 18))) | 0
    c0 = ((c0 ^ b0) - ((b0 << 24) | (b0 >>> 8))) | 0
    let a1 = (((X - 559038712 + 1) ^ c) - r) | 0
    let b1 = ((b ^ a1) - ((a1 << 25) | (a1 >>> 7))) | 0
    let c1 = ((c ^ b1) - ((b1 << 16) | (b1 >>> 16))) | 0
    a1 = ((a1 ^ c1) - ((c1 << 4) | (c1 >>> 28))) | 0
    b1 = ((b1 ^ a1) - ((a1 << 14) | (a1 >>> 18))) | 0
    c1 = ((c1 ^ b1) - ((b1 << 24) | (b1 >>> 8))) | 0
    const p = (c0 & 15) * 3
    const q = (c1 & 15) * 3
    const h = fy - j
    const m = fz - l
    d[k * 2] = g[p]! * fx + g[p + 1]! * h + g[p + 2]! * m
    d[k * 2 + 1] = g[q]! * (fx - 1) + g[q + 1]! * h + g[q + 2]! * m
  }
  const u = fx * fx * fx * (fx * (fx * 6 - 15) + 10)
  const v = fy * fy * fy * (fy * (fy * 6 - 15) + 10)
  const w = fz * fz * fz * (fz * (fz * 6 - 15) + 10)
  const ab = d[0]! + (d[1]! - d[0]!) * u
  const cd = d[2]! + (d[3]! - d[2]!) * u
  const ef = d[4]! + (d[5]! - d[4]!) * u
  const gh = d[6]! + (d[7]! - d[6]!) * u
  const low = ab + (cd - ab) * v
  const high = ef + (gh - ef) * v
  N[3] = 0.982 * (low + (high - low) * w)
}

/** Three-component gradient noise: bytes of one hash a corner. Result in `memory.result`. */
export function noise2v(x: number, y: number): void {
  const X = Math.floor(x) | 0
  const Y = Math.floor(y) | 0
  const fx = x - X
  const fy = y - Y
  const u = fade(fx)
  const v = fade(fy)
  const a = hash2(X, Y)
  const b = hash2(X + 1, Y)
  const c = hash2(X, Y + 1)
  const d = hash2(X + 1, Y + 1)
  for (let k = 0, s = 0; k < 3; k++, s += 8) {
    const ga = gradient2((a >>> s) & 255, fx, fy)
    const gb = gradient2((b >>> s) & 255, fx - 1, fy)
    const gc = gradient2((c >>> s) & 255, fx, fy - 1)
    const gd = gradient2((d >>> s) & 255, fx - 1, fy - 1)
    const low = ga + (gb - ga) * u
    const high = gc + (gd - gc) * u
    result[k] = 0.6616 * (low + (high - low) * v)
  }
}

export function noise3v(x: number, y: number, z: number): void {
  const X = Math.floor(x) | 0
  const Y = Math.floor(y) | 0
  const Z = Math.floor(z) | 0
  const fx = x - X
  const fy = y - Y
  const fz = z - Z
  const u = fade(fx)
  const v = fade(fy)
  const w = fade(fz)
  const a = hash3(X, Y, Z)
  const b = hash3(X + 1, Y, Z)
  const c = hash3(X, Y + 1, Z)
  const d = hash3(X + 1, Y + 1, Z)
  const e = hash3(X, Y, Z + 1)
  const f = hash3(X + 1, Y, Z + 1)
  const g = hash3(X, Y + 1, Z + 1)
  const h = hash3(X + 1, Y + 1, Z + 1)
  for (let k = 0, s = 0; k < 3; k++, s += 8) {
    const ga = gradient3(a >>> s, fx, fy, fz)
    const gb = gradient3(b >>> s, fx - 1, fy, fz)
    const gc = gradient3(c >>> s, fx, fy - 1, fz)
    const gd = gradient3(d >>> s, fx - 1, fy - 1, fz)
    const ge = gradient3(e >>> s, fx, fy, fz - 1)
    const gf = gradient3(f >>> s, fx - 1, fy, fz - 1)
    const gg = gradient3(g >>> s, fx, fy - 1, fz - 1)
    const gh = gradient3(h >>> s, fx - 1, fy - 1, fz - 1)
    const ab = ga + (gb - ga) * u
    const cd = gc + (gd - gc) * u
    const ef = ge + (gf - ge) * u
    const gh2 = gg + (gh - gg) * u
    const low = ab + (cd - ab) * v
    const high = ef + (gh2 - ef) * v
    result[k] = 0.982 * (low + (high - low) * w)
  }
}
