import { describe, expect, it } from 'vitest'
import { developPicture } from '../render/display'
import { balanceFor, balanceForColour, whiteOfTemperature } from './balance'
import { whiteXYZ } from './observer'
import { transform, xyzToRec709 } from './rgb'

const chromaticity = ([X, Y, Z]: readonly number[]) => [X! / (X! + Y! + Z!), Y! / (X! + Y! + Z!)]
const apply = (m: readonly number[], c: readonly number[]) =>
  [0, 1, 2].map(r => m[r * 3]! * c[0]! + m[r * 3 + 1]! * c[1]! + m[r * 3 + 2]! * c[2]!)

describe('white balance', () => {
  // chromaticities of ISO/CIE 11664-2 (A, D65) and CIE 015 (D50)
  it.each([
    ['A', 2855.5, 0.44757, 0.40745],
    ['D50', 5003, 0.3457, 0.3585],
    ['D65', 6504, 0.3127, 0.329],
  ] as const)('finds the white of illuminant %s', (_, T, x, y) => {
    const w = chromaticity(whiteOfTemperature(T))
    expect(w[0]).toBeCloseTo(x, 3)
    expect(w[1]).toBeCloseTo(y, 3)
  })
  it('has no jump where lamps pass into daylight, and stays within its ends', () => {
    for (const T of [4000, 5000])
      for (let k = 0; k < 3; k++)
        expect(whiteOfTemperature(T + 0.01)[k]).toBeCloseTo(whiteOfTemperature(T - 0.01)[k]!, 4)
    expect(whiteOfTemperature(10)).toEqual(whiteOfTemperature(1500))
    expect(whiteOfTemperature(1e6)).toEqual(whiteOfTemperature(25_000))
  })
  it('makes its white neutral at the same luminance, and leaves D65 as it is', () => {
    const white = whiteOfTemperature(3200)
    const shown = apply(balanceFor(white), transform(xyzToRec709, white))
    for (const c of shown) expect(c).toBeCloseTo(1, 9)
    balanceFor(whiteXYZ).forEach((x, i) => expect(x).toBeCloseTo(i % 4 === 0 ? 1 : 0, 9))
  })
  it('makes a picked colour grey; black and colours beyond the gamut cannot be picked', () => {
    const [r, g, b] = apply(balanceForColour([0.4, 0.3, 0.2])!, [0.4, 0.3, 0.2])
    expect(g).toBeCloseTo(r!, 9)
    expect(b).toBeCloseTo(r!, 9)
    expect(0.2126 * r! + 0.7152 * g! + 0.0722 * b!).toBeCloseTo(0.2126 * 0.4 + 0.7152 * 0.3 + 0.0722 * 0.2, 3)
    expect(balanceForColour([0, 0, 0])).toBeUndefined()
    expect(balanceForColour([0.5, -0.1, 0.2])).toBeUndefined()
  })
  it('reaches the screen: a warm grey is shown with equal bytes', () => {
    const out = new Uint8ClampedArray(4)
    developPicture([0.4, 0.3, 0.2], 0.5, out, balanceForColour([0.4, 0.3, 0.2]))
    expect(out[0]).toBe(out[1])
    expect(out[1]).toBe(out[2])
  })
})
