import { describe, expect, it } from 'vitest'
import { draw2, drawn, reverseBits, sobolSecond } from './sampler'

describe('Owen-scrambled Sobol points', () => {
  it('second dimension has the direction numbers of Joe & Kuo 2008 (s = 1, a = 0, m = 1): v_j = v_{j−1} ⊕ v_{j−1}/2', () => {
    let v = 0x80000000
    for (let bit = 0; bit < 32; bit++) {
      expect(reverseBits(sobolSecond(1 << bit)) >>> 0, `bit ${bit}`).toBe(v >>> 0)
      v = (v ^ (v >>> 1)) >>> 0
    }
  })
  it('is a (0, 2)-net: every elementary interval of 2⁻⁶ holds one of 64 points', () => {
    for (const pair of [0, 3, 17]) for (let split = 0; split <= 6; split++) {
      const seen = new Set<string>(), a = 2 ** split, b = 64 / a
      for (let pass = 0; pass < 64; pass++) { draw2(1234, pass, pair); seen.add(`${Math.floor(drawn[0]! * a)},${Math.floor(drawn[1]! * b)}`) }
      expect(seen.size).toBe(64)
    }
  })
})
