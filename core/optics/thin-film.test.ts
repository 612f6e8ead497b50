import { describe, expect, it } from 'vitest'
import { GRID_SIZE, GRID_START } from '../colour/grid'
import { reflectanceToXYZ } from '../colour/observer'
import { transform, xyzToRec709 } from '../colour/rgb'
import { conductorByName, conductorK, conductorN } from './conductors'
import { fresnelConductor, fresnelDielectric } from './fresnel'
import { FILM } from './slots'
import { film as asked, filmReflectance, meanRGB, prepareFilm } from './thin-film'

type Complex = [number, number]
const mul = (a: Complex, b: Complex): Complex => [a[0] * b[0] - a[1] * b[1], a[0] * b[1] + a[1] * b[0]]
const add = (a: Complex, b: Complex): Complex => [a[0] + b[0], a[1] + b[1]]
const sub = (a: Complex, b: Complex): Complex => [a[0] - b[0], a[1] - b[1]]
const div = (a: Complex, b: Complex): Complex => {
  const d = b[0] ** 2 + b[1] ** 2
  return [(a[0] * b[0] + a[1] * b[1]) / d, (a[1] * b[0] - a[0] * b[1]) / d]
}
const root = (a: Complex): Complex => {
  const r = Math.hypot(...a)
  return [Math.sqrt(Math.max(0, (r + a[0]) / 2)), Math.sqrt(Math.max(0, (r - a[0]) / 2))]
}

/**
 * Reflectance by the characteristic matrix of the film (Born & Wolf §1.6.2–1.6.4, admittances p and q): another
 * way than the sum over beams.
 */
function byMatrix(cos: number, film: number, substrate: Complex, way: number, wavelength: number): number {
  const s = Math.sqrt(1 - cos * cos)
  const cosFilm = root([1 - (s / film) ** 2, 0])
  const n2 = mul(substrate, substrate)
  const q2 = root(sub(n2, [s * s, 0]))
  // the film's phase thickness 2πnd·cosθ/λ; `way` is 2nd
  const beta: Complex = [((Math.PI * way) / wavelength) * cosFilm[0], ((Math.PI * way) / wavelength) * cosFilm[1]]
  const cosB: Complex = [Math.cos(beta[0]) * Math.cosh(beta[1]), -Math.sin(beta[0]) * Math.sinh(beta[1])]
  const sinB: Complex = [Math.sin(beta[0]) * Math.cosh(beta[1]), Math.cos(beta[0]) * Math.sinh(beta[1])]
  let sum = 0
  for (const p of [false, true]) {
    const y0: Complex = p ? [1 / cos, 0] : [cos, 0]
    const y1: Complex = p ? div([film, 0], cosFilm) : mul([film, 0], cosFilm)
    const y2: Complex = p ? div(n2, q2) : q2
    const m11 = cosB
    const m12 = div(mul([0, -1], sinB), y1)
    const m21 = mul(mul([0, -1], y1), sinB)
    const m22 = cosB
    const B = add(m11, mul(m12, y2))
    const C = add(m21, mul(m22, y2))
    const r = div(sub(mul(y0, B), C), add(mul(y0, B), C))
    sum += (r[0] ** 2 + r[1] ** 2) / 2
  }
  return sum
}

describe('thin films', () => {
  it('water of 300 nm in air reflects most at 532 nm and nothing at 399 and 798 nm (2nd/(m + ½))', () => {
    const R = (w: number) => filmReflectance(1, 1.33, 1, 0, 2 * 1.33 * 300, w)
    expect(R(399)).toBeLessThan(1e-12)
    expect(R(798)).toBeLessThan(1e-12)
    expect(R(532)).toBeGreaterThan(R(530))
    expect(R(532)).toBeGreaterThan(R(534))
    // both faces in step: amplitude 2r/(1 + r²)
    const r = 0.33 / 2.33
    expect(R(532)).toBeCloseTo(((2 * r) / (1 + r * r)) ** 2, 12)
  })
  it('a quarter wave of index √n takes all reflection off a glass', () =>
    expect(filmReflectance(1, Math.sqrt(1.5), 1.5, 0, 275, 550)).toBeLessThan(1e-12))
  it('without thickness is the bare interface', () => {
    for (const cos of [1, 0.6, 0.1]) {
      expect(filmReflectance(cos, 1.4, 1.5, 0, 0, 550)).toBeCloseTo(fresnelDielectric(cos, 1.5), 12)
      expect(filmReflectance(cos, 1.4, 0.5, 2.4, 0, 550)).toBeCloseTo(fresnelConductor(cos, 0.5, 2.4), 10)
    }
  })
  it('agrees with the characteristic matrix on glass, gold and titanium, beyond total reflection too', () => {
    const metal = (name: string, w: number): Complex => [
      conductorN[conductorByName(name)]![w - GRID_START]!,
      conductorK[conductorByName(name)]![w - GRID_START]!,
    ]
    for (const cos of [1, 0.7, 0.3, 0.05])
      for (const [film, d] of [
        [1.33, 420],
        [2.4, 90],
        [1.46, 1500],
      ] as const)
        for (const w of [400, 550, 700]) {
          for (const substrate of [[1.5, 0], [1, 0], metal('gold', w), metal('titanium', w)] as Complex[])
            expect(filmReflectance(cos, film, ...substrate, 2 * film * d, w)).toBeCloseTo(
              byMatrix(cos, film, substrate, 2 * film * d, w),
              9,
            )
        }
    // from within a glass of 1.5: the film is rarer, air beyond it rarer still
    for (const cos of [0.95, 0.8, 0.6, 0.3])
      for (const d of [50, 400])
        expect(filmReflectance(cos, 1.33 / 1.5, 1 / 1.5, 0, 2 * 1.33 * d, 550)).toBeCloseTo(
          byMatrix(cos, 1.33 / 1.5, [1 / 1.5, 0], ((2 * 1.33 * d) / 1.5) * 1.5, 550),
          9,
        )
  })
  it('the closed form of the mean colour agrees with the sum over the spectrum', () => {
    for (const [film, n, k] of [
      [1.33, 1, 0],
      [1.38, 1.5, 0],
      [2.4, 1.5, 0],
      [1.5, 0.6, 2.6],
    ] as const)
      for (const d of [60, 250, 700, 2000])
        for (const cos of [1, 0.5]) {
          const spectrum = Float64Array.from({ length: GRID_SIZE }, (_, i) =>
            filmReflectance(cos, film, n, k, 2 * film * d, GRID_START + i),
          )
          const rgb = transform(xyzToRec709, reflectanceToXYZ(spectrum))
          asked[FILM.cosine] = cos
          asked[FILM.index] = film
          asked[FILM.n] = n
          asked[FILM.k] = k
          asked[FILM.way] = 2 * film * d
          prepareFilm()
          rgb.forEach((x, c) => {
            meanRGB(c)
            expect(Math.abs(asked[FILM.mean + c]! - Math.min(1, Math.max(0, x)))).toBeLessThan(0.006)
          })
        }
  })
})
