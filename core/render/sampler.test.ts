import { describe, expect, it } from 'vitest'
import { voidAndCluster } from '../testing/void-and-cluster'
import { hash2 } from './hash'
import mask from './mask.json'
import { beginDraws, draw2, maskPlace, reverseBits, sobolSecond } from './sampler'
import { memory } from './memory'

const { drawn } = memory

describe('Owen-scrambled Sobol points', () => {
  it(
    'second dimension has the direction numbers of Joe & Kuo 2008 (s = 1, a = 0, m = 1): v_j = v_{j−1} ' +
      '⊕ v_{j−1}/2',
    () => {
      let v = 0x80000000
      for (let bit = 0; bit < 32; bit++) {
        expect(reverseBits(sobolSecond(1 << bit)) >>> 0, `bit ${bit}`).toBe(v >>> 0)
        v = (v ^ (v >>> 1)) >>> 0
      }
    },
  )
  it('is a (0, 2)-net: every elementary interval of 2⁻⁶ holds one of 64 points', () => {
    for (const pair of [0, 3, 17])
      for (let split = 0; split <= 6; split++) {
        const seen = new Set<string>()
        const a = 2 ** split
        const b = 64 / a
        for (let pass = 0; pass < 64; pass++) {
          beginDraws(5, 64, 128, pass)
          draw2(maskPlace(77, 150), hash2(77, 150), pair)
          seen.add(`${Math.floor(drawn[0]! * a)},${Math.floor(drawn[1]! * b)}`)
        }
        expect(seen.size).toBe(64)
      }
  })
  it('has every mean over many seeds, whatever the pixel: nothing that is drawn is left out', () => {
    let a = 0
    let b = 0
    let aa = 0
    let ab = 0
    const N = 20000
    for (let seed = 0; seed < N; seed++) {
      beginDraws(seed, 0, 0, 3)
      draw2(maskPlace(9, 5), hash2(seed, 9), 4)
      a += drawn[0]!
      b += drawn[1]!
      aa += drawn[0]! ** 2
      ab += drawn[0]! * drawn[1]!
    }
    // uniform: means 1/2, ⟨a²⟩ 1/3, ⟨ab⟩ 1/4; five standard deviations of N draws
    for (const [sum, mean, sd] of [
      [a, 0.5, 0.289],
      [b, 0.5, 0.289],
      [aa, 1 / 3, 0.298],
      [ab, 0.25, 0.22],
    ] as const)
      expect(Math.abs(sum / N - mean)).toBeLessThan((5 * sd) / Math.sqrt(N))
  })
})

describe('the mask', () => {
  it('is the one that its maker makes: every rank once', () => {
    expect(mask.ranks).toEqual([...voidAndCluster(64)])
    expect([...mask.ranks].sort((x, y) => x - y)).toEqual(Array.from({ length: 4096 }, (_, i) => i))
  })
  it(
    'has next to nothing at low frequencies: at most a twentieth of what white noise has, up to a quarter ' +
      'of the highest one',
    () => {
      const N = 64
      const mean = 2047.5
      const white = (4096 * (4096 ** 2 - 1)) / 12
      let power = 0
      let count = 0
      for (let ky = 0; ky <= 8; ky++)
        for (let kx = -8; kx <= 8; kx++) {
          if ((kx === 0 && ky === 0) || kx * kx + ky * ky > 64) continue
          let re = 0
          let im = 0
          mask.ranks.forEach((r, i) => {
            const t = (2 * Math.PI * (kx * (i % N) + ky * Math.floor(i / N))) / N
            re += (r - mean) * Math.cos(t)
            im += (r - mean) * Math.sin(t)
          })
          power += (re * re + im * im) / white
          count++
        }
      expect(power / count).toBeLessThan(0.05)
    },
  )
})

/**
 * Variance of the mean over squares of 5 × 5 pixels, as a multiple of what pixels without any kinship would have:
 * the estimate's error in estimating 2-d integrals from a pass or four.
 */
function kinship(passes: number, f: (a: number, b: number) => number, mean: number): number {
  let pixels = 0
  let squares = 0
  for (let seed = 0; seed < 6; seed++) {
    const error = new Float64Array(64 * 64)
    for (let pass = 0; pass < passes; pass++) {
      beginDraws(seed, 0, 0, pass)
      for (let i = 0; i < 4096; i++) {
        draw2(maskPlace(i & 63, i >> 6), hash2(hash2(seed, i & 63), i >> 6), 7)
        error[i]! += (f(drawn[0]!, drawn[1]!) - mean) / passes
      }
    }
    for (let y = 0; y < 64; y++)
      for (let x = 0; x < 64; x++) {
        let sum = 0
        for (let dy = 0; dy < 5; dy++)
          for (let dx = 0; dx < 5; dx++) sum += error[((y + dy) & 63) * 64 + ((x + dx) & 63)]! / 25
        squares += sum * sum
        pixels += error[y * 64 + x]! ** 2
      }
  }
  return (squares * 25) / pixels
}

it('spreads the error of few samples so that it nearly cancels over a few pixels', () => {
  // closed forms of the means; what hangs on one draw stays akin for longer than what hangs on both
  for (const [f, mean, one, four] of [
    [(a: number) => (a < 0.37 ? 1 : 0), 0.37, 0.3, 0.5],
    [(a: number, b: number) => a + b, 1, 0.3, 0.6],
    [(a: number, b: number) => (a * a + b * b < 1 ? 1 : 0), Math.PI / 4, 0.75, 1.2],
  ] as const) {
    expect(kinship(1, f, mean)).toBeLessThan(one)
    expect(kinship(4, f, mean)).toBeLessThan(four)
  }
})
