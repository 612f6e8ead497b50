import { transform, rec709ToXYZ } from './rgb'
import { whiteXYZ } from './observer'

/** CIE 1976 L*a*b* from XYZ (white Y = 1), relative to our D65 (ISO/CIE 11664-4). */
export function labFromXYZ(xyz: ArrayLike<number>): [number, number, number] {
  const f = (t: number) => (t > (6 / 29) ** 3 ? Math.cbrt(t) : (t * (29 / 6) ** 2) / 3 + 4 / 29)
  const [x, y, z] = [0, 1, 2].map(i => f(xyz[i]! / whiteXYZ[i]!)) as [number, number, number]
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)]
}

/** CIE L*a*b* of a linear Rec.709 colour with white 1 under D65. */
export function labFromRec709(rgb: ArrayLike<number>): [number, number, number] {
  return labFromXYZ(transform(rec709ToXYZ, rgb))
}
