import { differenceCiede2000 } from 'culori'
import { describe, expect, it } from 'vitest'
import { deltaE2000 } from '../judge/deltaE2000'
import { labFromRec709, labFromXYZ } from './lab'
import { d65, reflectanceToXYZ, whiteXYZ, xBar } from './observer'
import { acescgToRec709, decodeSRGB, encodeSRGB, rec709ToAcescg, transform, xyzToRec709 } from './rgb'
import { basisB, basisG, basisR, reflectanceFromRGB } from './upsample'
import { efficacyOf } from './efficacy'
import { LANES, laneTable, responseRGB, slotIndex, SLOTS } from './wavelengths'

describe('observer and illuminant', () => {
  it('D65 lies at x 0.31272, y 0.32903 (CIE 015)', () => {
    const s = whiteXYZ[0] + whiteXYZ[1] + whiteXYZ[2]
    expect(whiteXYZ[0] / s).toBeCloseTo(0.31272, 3)
    expect(whiteXYZ[1] / s).toBeCloseTo(0.32903, 3)
    expect(xBar.length).toBe(d65.length)
  })
  it('L* is 50 at Y 18.42 % (CIE 15)', () =>
    expect(labFromXYZ(whiteXYZ.map(x => x * 0.1842))[0]).toBeCloseTo(50, 1))
})

describe('encodings', () => {
  it('sRGB agrees with IEC 61966-2-1 at its published points', () => {
    expect(encodeSRGB(0.0031308)).toBeCloseTo(0.040449936, 7)
    expect(decodeSRGB(0.5)).toBeCloseTo(0.21404114, 7)
    for (let i = 0; i <= 255; i++) expect(encodeSRGB(decodeSRGB(i / 255))).toBeCloseTo(i / 255, 9)
  })
  it('white of ACEScg (D60) becomes white of Rec.709 (D65)', () =>
    acescgToRec709([1, 1, 1]).forEach(x => expect(x).toBeCloseTo(1, 3)))
})

describe('CIEDE2000', () => {
  // Sharma, Wu & Dalal 2005, table 1: pairs 1, 4, 7, 17, 19 and 24
  const pairs: [number[], number[], number][] = [
    [[50, 2.6772, -79.7751], [50, 0, -82.7485], 2.0425],
    [[50, -1.3802, -84.2814], [50, 0, -82.7485], 1.0],
    [[50, 0, 0], [50, -1, 2], 2.3669],
    [[50, 2.5, 0], [73, 25, -18], 27.1492],
    [[50, 2.5, 0], [56, -27, -3], 31.903],
    [[50, 2.5, 0], [50, 1.8634, 0.5757], 1.0],
  ]
  it.each(pairs)('%j and %j differ by %f', (a, b, d) => expect(deltaE2000(a, b)).toBeCloseTo(d, 3))
  it('agrees with an independent library over random pairs', () => {
    const other = differenceCiede2000()
    let s = 7
    const random = () => (s = (s * 16807) % 2147483647) / 2147483647
    for (let i = 0; i < 500; i++) {
      const a = [random() * 100, random() * 200 - 100, random() * 200 - 100]
      const b = [random() * 100, random() * 200 - 100, random() * 200 - 100]
      expect(deltaE2000(a, b)).toBeCloseTo(
        other({ mode: 'lab65', l: a[0]!, a: a[1]!, b: a[2]! }, { mode: 'lab65', l: b[0]!, a: b[1]!, b: b[2]! }),
        6,
      )
    }
  })
})

describe('reflectance from RGB', () => {
  it('curves lie in 0..1 and sum to one', () => {
    for (let i = 0; i < basisR.length; i++) {
      for (const c of [basisR, basisG, basisB]) {
        expect(c[i]).toBeGreaterThanOrEqual(0)
        expect(c[i]).toBeLessThanOrEqual(1)
      }
      expect(basisR[i]! + basisG[i]! + basisB[i]!).toBeCloseTo(1, 6)
    }
  })
  it('comes back within ΔE 0.1 under D65 over the sRGB cube', () => {
    let worst = 0
    for (let r = 0; r <= 4; r++)
      for (let g = 0; g <= 4; g++)
        for (let b = 0; b <= 4; b++) {
          const rgb = [r, g, b].map(x => decodeSRGB(x / 4))
          const back = transform(xyzToRec709, reflectanceToXYZ(reflectanceFromRGB(rgb[0]!, rgb[1]!, rgb[2]!)))
          worst = Math.max(worst, deltaE2000(labFromRec709(rgb), labFromRec709(back)))
        }
    expect(worst).toBeLessThan(0.1)
  })
})

describe('wavelengths of a path', () => {
  it('weights times curves average to the identity, so the control variate is unbiased', () => {
    for (let c = 0; c < 3; c++)
      for (let b = 0; b < 3; b++) {
        let sum = 0
        for (let s = 0; s < SLOTS; s++)
          sum += laneTable[slotIndex[s]! * 6 + 3 + c]! * laneTable[slotIndex[s]! * 6 + b]!
        expect(sum / (SLOTS / LANES)).toBeCloseTo(c === b ? 1 : 0, 4)
      }
  })
  it('an equal-energy emission integrates to its own colour', () => {
    let sum = 0
    let direct = 0
    for (let s = 0; s < SLOTS; s++) sum += laneTable[slotIndex[s]! * 6 + 3]! / d65[slotIndex[s]!]!
    for (let i = 0; i < d65.length; i++) direct += responseRGB[0][i]! / d65[i]!
    expect(sum / (SLOTS / LANES)).toBeCloseTo(direct, 6)
  })
})

describe('luminous efficacy', () => {
  it('is 683 lm/W · ∫ȳ/Δλ for equal energy, with ∫ȳ = 106.857 nm (CIE 015), and 683 at 555 nm', () => {
    expect(efficacyOf(new Float64Array(401).fill(1))).toBeCloseTo((683 * 106.857) / 401, 1)
    expect(efficacyOf(Float64Array.from({ length: 401 }, (_, i) => (i === 175 ? 1 : 0)))).toBeCloseTo(683, 0)
  })
})

describe('ACEScg', () => {
  it('goes out as it comes in, white to white; a Rec.709 red lies within (S-2014-004)', () => {
    for (const c of [
      [1, 1, 1],
      [0.2, 0.7, 0.1],
      [1, 0, 0],
    ])
      acescgToRec709(rec709ToAcescg(c)).forEach((x, k) => expect(x).toBeCloseTo(c[k]!, 9))
    rec709ToAcescg([1, 1, 1]).forEach(x => expect(x).toBeCloseTo(1, 6))
    for (const x of rec709ToAcescg([1, 0, 0])) expect(x).toBeGreaterThan(0)
  })
})
