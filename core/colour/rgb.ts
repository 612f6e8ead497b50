import { whiteXYZ } from './observer'

type Triple = [number, number, number]
type Matrix = [Triple, Triple, Triple]

function invert([[a, b, c], [d, e, f], [g, h, i]]: Matrix): Matrix {
  const A = e * i - f * h
  const B = f * g - d * i
  const C = d * h - e * g
  const det = a * A + b * B + c * C
  return [
    [A / det, (c * h - b * i) / det, (b * f - c * e) / det],
    [B / det, (a * i - c * g) / det, (c * d - a * f) / det],
    [C / det, (b * g - a * h) / det, (a * e - b * d) / det],
  ]
}

/** Multiplies a 3×3 matrix (rows) by a column. */
export function transform(m: Matrix, v: ArrayLike<number>): Triple {
  return [0, 1, 2].map(r => m[r]![0] * v[0]! + m[r]![1] * v[1]! + m[r]![2] * v[2]!) as Triple
}

/**
 * RGB → XYZ from primaries and a white point (SMPTE RP 177, section 3).
 * @param xy chromaticities of red, green and blue
 */
function primariesToXYZ(xy: [number, number][], white: Triple): Matrix {
  const column = xy.map(([x, y]) => [x / y, 1, (1 - x - y) / y])
  const P = [0, 1, 2].map(r => column.map(c => c[r]!)) as Matrix
  const S = transform(invert(P), white)
  return P.map(row => row.map((p, c) => p * S[c]!)) as Matrix
}

/**
 * Linear Rec.709 (ITU-R BT.709-6 primaries) to XYZ; the white is our tables' D65, so that RGB (1, 1, 1) is exactly
 * that white.
 */
export const rec709ToXYZ = primariesToXYZ(
  [
    [0.64, 0.33],
    [0.3, 0.6],
    [0.15, 0.06],
  ],
  whiteXYZ,
)
export const xyzToRec709 = invert(rec709ToXYZ)

/** Luminance weights of linear Rec.709. */
export const luminanceWeights: Triple = rec709ToXYZ[1]

/** sRGB transfer function, linear → encoded, both 0..1 (IEC 61966-2-1). */
export function encodeSRGB(linear: number): number {
  return linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055
}

/** sRGB transfer function, encoded → linear, both 0..1 (IEC 61966-2-1). */
export function decodeSRGB(encoded: number): number {
  return encoded <= 0.04045 ? encoded / 12.92 : ((encoded + 0.055) / 1.055) ** 2.4
}

const acescgToXYZD60 = primariesToXYZ(
  [
    [0.713, 0.293],
    [0.165, 0.83],
    [0.128, 0.044],
  ],
  [0.32168 / 0.33767, 1, (1 - 0.32168 - 0.33767) / 0.33767],
)
const displayP3ToXYZ = primariesToXYZ(
  [
    [0.68, 0.32],
    [0.265, 0.69],
    [0.15, 0.06],
  ],
  whiteXYZ,
)

/** Bradford adaptation from one white to another, both XYZ (ICC.1:2022, Annex E). */
export function bradford(from: Triple, to: Triple): Matrix {
  const M: Matrix = [
    [0.8951, 0.2664, -0.1614],
    [-0.7502, 1.7135, 0.0367],
    [0.0389, -0.0685, 1.0296],
  ]
  const s = transform(M, from)
  const d = transform(M, to)
  const inverse = invert(M)
  const scaled = M.map((row, r) => row.map(x => (x * d[r]!) / s[r]!)) as Matrix
  return [0, 1, 2].map(r =>
    [0, 1, 2].map(c => [0, 1, 2].reduce((sum, k) => sum + inverse[r]![k]! * scaled[k]![c]!, 0)),
  ) as Matrix
}
const d60ToD65 = bradford([0.32168 / 0.33767, 1, (1 - 0.32168 - 0.33767) / 0.33767], whiteXYZ)

/** ACEScg (S-2014-004) → linear Rec.709. Components may fall outside 0..1. */
export function acescgToRec709(rgb: ArrayLike<number>): Triple {
  return transform(xyzToRec709, transform(d60ToD65, transform(acescgToXYZD60, rgb)))
}

const d65ToD60 = bradford(whiteXYZ, [0.32168 / 0.33767, 1, (1 - 0.32168 - 0.33767) / 0.33767])
const xyzToAcescg = invert(acescgToXYZD60)

/** Linear Rec.709 → ACEScg (S-2014-004). */
export function rec709ToAcescg(rgb: ArrayLike<number>): Triple {
  return transform(xyzToAcescg, transform(d65ToD60, transform(rec709ToXYZ, rgb)))
}

/** Linear Display P3 (SMPTE EG 432-1 primaries, D65) → linear Rec.709. */
export function displayP3ToRec709(rgb: ArrayLike<number>): Triple {
  return transform(xyzToRec709, transform(displayP3ToXYZ, rgb))
}

/** What brings XYZ, in which `white` is white, to linear Rec.709, by Bradford's adaptation. */
export function rec709FromXYZ(white: Triple): (xyz: ArrayLike<number>) => Triple {
  const adapt = bradford(white, whiteXYZ)
  return xyz => transform(xyzToRec709, transform(adapt, xyz))
}

/**
 * What brings linear RGB of other primaries to linear Rec.709, by Bradford's adaptation.
 * @param xy x and y of red, green, blue and white
 */
export function rec709From(xy: readonly number[]): (rgb: ArrayLike<number>) => Triple {
  const at = (k: number): [number, number] => [xy[k * 2]!, xy[k * 2 + 1]!]
  const [x, y] = at(3)
  const white: Triple = [x / y, 1, (1 - x - y) / y]
  const toXYZ = primariesToXYZ([at(0), at(1), at(2)], white)
  const from = rec709FromXYZ(white)
  return rgb => from(transform(toXYZ, rgb))
}
