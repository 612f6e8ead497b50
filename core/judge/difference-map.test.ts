import { describe, expect, it } from 'vitest'
import { differenceMap } from './difference-map'

const flat = (width: number, height: number, r: number, g = r, b = r) => ({
  width,
  height,
  exposure: 0,
  rgb: Float32Array.from({ length: width * height * 3 }, (_, i) => [r, g, b][i % 3]!),
})

describe('map of differences', () => {
  it('is black between equal pictures, whatever their sizes', () => {
    const d = differenceMap(flat(8, 4, 0.3, 0.2, 0.1), flat(16, 8, 0.3, 0.2, 0.1), 24, 12)
    expect([d.mean, d.p95]).toEqual([0, 0])
    expect(Array.from(d.bytes.slice(0, 4))).toEqual([0, 0, 0, 255])
  })
  it(
    'says the lightness difference of two greys: L* 50 and 55 are 4.99 apart (S_L = 1.0 about L* 50, by the ' +
      'formula)',
    () => {
      // Y of L* 50 and 55 by CIE 1976: ((L + 16) / 116)³; mean lightness 52.5: S_L = 1 + 0.015 · 2.5² / √(20 +
      // 2.5²)
      const y = (L: number) => ((L + 16) / 116) ** 3
      const SL = 1 + (0.015 * 2.5 ** 2) / Math.sqrt(20 + 2.5 ** 2)
      const d = differenceMap(flat(4, 4, y(50)), flat(4, 4, y(55)), 4, 4)
      expect(d.mean).toBeCloseTo(5 / SL, 3)
      expect(d.bytes[0]).toBe(Math.round((5 / SL / 10) * 255))
    },
  )
  it('looks at each picture at its own exposure', () => {
    expect(differenceMap({ ...flat(4, 4, 0.1), exposure: 1 }, flat(4, 4, 0.2), 4, 4).mean).toBeCloseTo(0, 5)
  })
  it('counts only where both pictures lie, and what a display would clip as equal', () => {
    const d = differenceMap(flat(10, 10, 2), flat(20, 10, 5), 20, 10)
    expect(d.mean).toBe(0)
    expect(d.bytes[3]).toBe(0)
    expect(d.bytes[10 * 4 + 3]).toBe(255)
  })
})
