import { describe, expect, it } from 'vitest'
import { drawEvenly, loadLanes } from '../testing/draws'
import { generator } from '../testing/generator'
import { sawtoothReturns } from '../testing/sawtooth-walk'
import { beginSurface } from './begin'
import { evaluate } from './evaluate'
import { finishSurface } from './finish'
import { pushDiffuse } from './lobes/diffuse'
import { pushMetal } from './lobes/metal'
import { pushRoughDiffuse } from './lobes/rough-diffuse'
import { memory } from './memory'
import { setSpec } from './spec'

const DEGREE = Math.PI / 180
const { value } = memory

/** Unit vector at angles from z and about it, degrees. */
const way = (from: number, about: number): [number, number, number] => [
  Math.sin(from * DEGREE) * Math.cos(about * DEGREE),
  Math.sin(from * DEGREE) * Math.sin(about * DEGREE),
  Math.cos(from * DEGREE),
]

type Push = (n: [number, number, number]) => void

const metal =
  (F: number, alpha: number): Push =>
  n => {
    setSpec(1, 1, 1, alpha, 1, ...n)
    pushMetal(-1, F, F, F, 1, 1, 1)
  }
const lambert =
  (a: number): Push =>
  n =>
    pushDiffuse(-1, a, a, a, ...n)

/** Begins a plane whose normal is tilted towards x, seen from angles. */
function begin(push: Push, tilt: number, from: number, about: number): void {
  loadLanes([60, 160, 260, 360])
  beginSurface(...way(from, about), 0, 0, 1)
  push(way(tilt, 0))
  finishSurface()
}

/** Share of even light that comes back, by drawn directions. */
function returned(push: Push, tilt: number, from: number, about: number, n = 8000): number {
  begin(push, tilt, from, about)
  let sum = 0
  drawEvenly(n, () => (sum += value[5]!))
  return sum / n
}

/** The same by directions drawn evenly over the hemisphere, without the surface's own draws. */
function returnedEvenly(push: Push, tilt: number, from: number, about: number, n = 200000): number {
  begin(push, tilt, from, about)
  let sum = 0
  for (let i = 0; i < n; i++) {
    const z = (i + 0.5) / n
    const r = Math.sqrt(1 - z * z)
    const a = 2 * Math.PI * ((i * 0.61803398875) % 1)
    evaluate(r * Math.cos(a), r * Math.sin(a), z)
    sum += value[5]!
  }
  return (sum / n) * 2 * Math.PI
}

const VIEWS = [
  [0, 0],
  [30, 0],
  [45, 0],
  [60, 0],
  [30, 180],
  [45, 180],
  [60, 180],
  [75, 180],
  [45, 90],
  [70, 90],
  [50, 130],
] as const
const TILTS = [5, 10, 20, 30, 45]

describe('relief', () => {
  it.each([0, 0.1, 0.4, 0.8])('takes nothing from a metal that absorbs nothing, of α %d', alpha => {
    for (const tilt of TILTS)
      for (const [from, about] of VIEWS)
        expect(Math.abs(returned(metal(1, alpha), tilt, from, about) - 1)).toBeLessThan(0.02)
  })

  it.each([0.9, 0.6])('of a metal of reflectance %d sends back what a true sawtooth of mirrors does', F => {
    // Schlick 1994: what the metal of this test rises to at grazing angles
    const mirror = (cosine: number) => F + (1 - F) * (1 - cosine) ** 5
    for (const tilt of TILTS)
      for (const [from, about] of VIEWS) {
        const referee = sawtoothReturns(tilt * DEGREE, way(from, about), { mirror }, 3000, generator(1))
        expect(Math.abs(returned(metal(F, 0), tilt, from, about) - referee)).toBeLessThan(0.02)
      }
  })

  it('has the same mean whether directions are drawn by the surface or evenly', () => {
    for (const [tilt, from, about] of [
      [20, 45, 0],
      [45, 60, 180],
      [30, 70, 90],
    ] as const)
      for (const alpha of [0.3, 0.7]) {
        const drawn = returned(metal(0.8, alpha), tilt, from, about, 40000)
        expect(Math.abs(returnedEvenly(metal(0.8, alpha), tilt, from, about) - drawn)).toBeLessThan(0.005)
      }
  })

  it('is by n·l what it is of Lambertian matter, wherever it is seen from', () => {
    for (const tilt of [3, 6, 10])
      for (const [from, about] of [...VIEWS, [85, 180] as const]) {
        begin(lambert(0.8), tilt, from, about)
        for (const [a, b] of VIEWS) {
          const i = way(a, b)
          evaluate(...i)
          const n = way(tilt, 0)
          const cosine = Math.max(0, i[0] * n[0] + i[1] * n[1] + i[2] * n[2])
          expect(Math.abs((value[5]! * Math.PI) / 0.8 - cosine)).toBeLessThan(0.02)
        }
      }
  })

  it('takes nothing from white Lambertian matter, and of darker as much as a true sawtooth in the mean', () => {
    for (const tilt of TILTS)
      for (const [from, about] of VIEWS) {
        expect(Math.abs(returned(lambert(1), tilt, from, about) - 1)).toBeLessThan(0.01)
        for (const r of [0.3, 0.6, 1]) {
          const rough: Push = n => pushRoughDiffuse(-1, 1, 1, 1, 1, r, ...n)
          expect(returned(rough, tilt, from, about, 4000)).toBeLessThan(1.015)
        }
      }
    // in the mean over viewers of either side, by their cosine
    for (const tilt of [10, 20, 30]) {
      let mine = 0
      let referee = 0
      let weights = 0
      const random = generator(5)
      for (const from of [15, 35, 55, 75])
        for (const about of [0, 45, 90, 135, 180]) {
          const w = Math.sin(2 * from * DEGREE) * (about % 180 === 0 ? 0.5 : 1)
          mine += w * returned(lambert(0.9), tilt, from, about, 2000)
          referee += w * sawtoothReturns(tilt * DEGREE, way(from, about), { lambert: 0.9 }, 3000, random)
          weights += w
        }
      expect(Math.abs(mine - referee) / weights).toBeLessThan(0.02)
    }
  })
})
