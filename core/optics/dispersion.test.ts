import { describe, expect, it } from 'vitest'
import { GRID_START } from '../colour/grid'
import { abbeOf, cauchyB, cauchyIndex, LINE_D } from './dispersion'
import { GLASS_NAMES, glassIndex, glassN } from './glasses'

/** Index of a measured glass between the grid's nanometres. */
const at = (name: string) => (w: number) => {
  const n = glassN[GLASS_NAMES.indexOf(name)]!
  const x = w - GRID_START
  const i = Math.floor(x)
  return n[i]! + (n[i + 1]! - n[i]!) * (x - i)
}

describe('dispersion', () => {
  it.each([
    ['borosilicate crown 517/642', 1.5168, 64.17],
    ['dense flint 785/257', 1.78472, 25.68],
    ['fused silica', 1.45846, 67.8], // data sheets; Malitson 1965
    ['sapphire', 1.768, 72.2],
    ['diamond', 2.4175, 55.3],
    ['water', 1.333, 55.8], // handbook values, from memory
  ])('%s has n_d %f and V_d %f', (name, nd, vd) => {
    const { nd: n, abbe } = abbeOf(at(name))
    expect(n).toBeCloseTo(nd, 2.5)
    expect(Math.abs(abbe - vd)).toBeLessThan(0.03 * vd)
    expect(glassIndex[GLASS_NAMES.indexOf(name)]).toBeCloseTo(n, 4)
  })
  it('a prism of 60° of crown 517/642 deviates the d line least by 38.65°, blue more than red', () => {
    const deviation = (n: number) => (2 * Math.asin(n * Math.sin(Math.PI / 6)) * 180) / Math.PI - 60
    const n = at('borosilicate crown 517/642')
    expect(deviation(n(LINE_D))).toBeCloseTo(38.65, 1)
    expect(deviation(n(450))).toBeGreaterThan(deviation(n(550)))
    expect(deviation(n(550))).toBeGreaterThan(deviation(n(650)))
  })
  it('Cauchy’s formula has the index and the Abbe number that were asked for', () => {
    const B = cauchyB(1.5168, 64.17)
    const { nd, abbe } = abbeOf(w => cauchyIndex(1.5168, B, w))
    expect(nd).toBeCloseTo(1.5168, 12)
    expect(abbe).toBeCloseTo(64.17, 8)
    // and follows the measured glass within its own error over the visible
    for (const w of [420, 500, 650, 720])
      expect(Math.abs(cauchyIndex(1.5168, B, w) - at('borosilicate crown 517/642')(w))).toBeLessThan(1.2e-3)
  })
})
