import { describe, expect, it } from 'vitest'
import { conductorByName, conductorK, conductorN } from './conductors'
import { fresnelConductor, fresnelDielectric } from './fresnel'

/** Complex numbers for Fresnel's equations as Born & Wolf write them (§1.5.2, §14.2), with nothing simplified. */
type Complex = [number, number]
const add = (a: Complex, b: Complex): Complex => [a[0] + b[0], a[1] + b[1]]
const sub = (a: Complex, b: Complex): Complex => [a[0] - b[0], a[1] - b[1]]
const mul = (a: Complex, b: Complex): Complex => [a[0] * b[0] - a[1] * b[1], a[0] * b[1] + a[1] * b[0]]
const div = (a: Complex, b: Complex): Complex => {
  const d = b[0] ** 2 + b[1] ** 2
  return [(a[0] * b[0] + a[1] * b[1]) / d, (a[1] * b[0] - a[0] * b[1]) / d]
}
const root = (a: Complex): Complex => {
  const r = Math.hypot(...a)
  return [Math.sqrt((r + a[0]) / 2), Math.sign(a[1] || 1) * Math.sqrt((r - a[0]) / 2)]
}
function exact(cos: number, n: number, k: number): number {
  const eta: Complex = [n, k]
  const c: Complex = [cos, 0]
  const t = root(sub([1, 0], div([1 - cos * cos, 0], mul(eta, eta))))
  const s = div(sub(c, mul(eta, t)), add(c, mul(eta, t)))
  const p = div(sub(mul(eta, c), t), add(mul(eta, c), t))
  return (s[0] ** 2 + s[1] ** 2 + p[0] ** 2 + p[1] ** 2) / 2
}

describe('Fresnel', () => {
  it('gives ((n − 1)/(n + 1))² head-on: 4 % for n = 1.5 (Born & Wolf)', () =>
    expect(fresnelDielectric(1, 1.5)).toBeCloseTo(0.04, 12))
  it('reflects no p-polarised light at Brewster’s angle, 56.31° for 1.5', () => {
    const a = Math.atan(1.5)
    const s =
      ((Math.cos(a) - 1.5 * Math.cos(Math.asin(Math.sin(a) / 1.5))) /
        (Math.cos(a) + 1.5 * Math.cos(Math.asin(Math.sin(a) / 1.5)))) **
      2
    expect((a * 180) / Math.PI).toBeCloseTo(56.31, 2)
    expect(fresnelDielectric(Math.cos(a), 1.5)).toBeCloseTo(s / 2, 10)
  })
  it('reflects everything beyond the critical angle', () =>
    expect(fresnelDielectric(Math.cos(Math.asin(1 / 1.5) + 0.001), 1 / 1.5)).toBe(1))
  it('agrees with complex arithmetic for conductors', () => {
    for (const [n, k] of [
      [0.497, 2.37],
      [0.2, 3.9],
      [2.9, 3],
    ] as const)
      for (const cos of [1, 0.8, 0.5, 0.2, 0.05])
        expect(fresnelConductor(cos, n, k)).toBeCloseTo(exact(cos, n, k), 9)
  })
})

describe('measured metals', () => {
  it('gold at 550 nm has n 0.497, k 2.370 (Rakić et al. 1998)', () => {
    const gold = conductorByName('gold')
    expect(conductorN[gold]![170]).toBeCloseTo(0.497, 2)
    expect(conductorK[gold]![170]).toBeCloseTo(2.37, 2)
  })
  it('does not know unnamed metals', () => expect(conductorByName('unobtainium')).toBe(-1))
})
