import { describe, expect, it } from 'vitest'
import { readColour, writeHex, writeLinear } from './colours'

/** IEC 61966-2-1 (sRGB), 4.2: from an encoded share to a linear one. */
const linearOf = (c: number): number => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4)

describe('colours as they are typed', () => {
  it.each([
    ['#c83010', [200, 48, 16]],
    ['c83010', [200, 48, 16]],
    ['#c31', [204, 51, 17]],
    ['srgb 200 48 16', [200, 48, 16]],
    ['rgb(200, 48, 16)', [200, 48, 16]],
    ['srgb 0.5 0.25 1', [127.5, 63.75, 255]],
  ])('%s is %s of 255', (typed, bytes) => {
    const read = readColour(typed)
    bytes.forEach((x, k) => expect((read as number[])[k]).toBeCloseTo(linearOf(x / 255), 4))
  })
  it('three numbers are linear, with or without their space, above 1 too', () => {
    expect(readColour('linear 0.58 0.03 0.01')).toEqual([0.58, 0.03, 0.01])
    expect(readColour(' 0.2, 4, 1e-3 ')).toEqual([0.2, 4, 0.001])
    expect(writeLinear([0.57758, 0.029557, 0])).toBe('linear 0.578 0.0296 0')
  })
  it('every byte is written as it was read', () => {
    for (let byte = 0; byte < 256; byte++) {
      const hex = '#' + byte.toString(16).padStart(2, '0').repeat(3)
      expect(writeHex([0, 1, 2].map(() => linearOf(byte / 255)))).toBe(hex)
    }
    expect(writeHex([-1, 4, 0])).toBe('#00ff00')
  })
  it.each([
    ['reddish', '“reddish” is no colour'],
    ['0.2 0.3', 'a colour has three numbers, these are 2'],
    ['0.2 -0.3 0', 'no part of a colour is below 0'],
    ['srgb 300 0 0', 'sRGB goes up to 255'],
    ['', 'a colour has three numbers, these are 0'],
  ])('“%s” is refused: %s', (typed, why) => expect(readColour(typed)).toBe(why))
})
