/**
 * Reflectance of a film between two media, in true interference: Airy summation with both polarisations and any
 * substrate (Born & Wolf, Principles of Optics, §1.6.4, §7.6.1 and §14.4). All indices are relative to that of
 * the medium of incidence. Films do not absorb.
 *
 * {@link meanRGB} gives what a film reflects of D65 in closed form, after Belcour & Barla 2017 (§4): the summation
 * is a series of cosines of the phase, and the mean of each over the Rec.709 responses is a Fourier transform of
 * those, tabulated once.
 *
 * Numbers go through {@link film}, because those passed to calls that the engine does not inline are boxed; its
 * words have their names in `slots.ts`.
 */
import { GRID_SIZE, GRID_START } from '../colour/grid'
import { responseRGB } from '../colour/wavelengths'
import { FILM } from './slots'

/** Question and answer of the functions here. */
export const film = new Float64Array(FILM.size)

/**
 * Cosine in the film; amplitudes of both polarisations at both faces: real and imaginary parts, s upper, s lower,
 * p upper, p lower.
 */
const inFilm = new Float64Array(2)
const r = new Float64Array(8)

/** (a + ib)/(c + id) into r[at …]. */
function divide(at: number, a: number, b: number, c: number, d: number): void {
  const q = 1 / Math.max(c * c + d * d, 1e-30)
  r[at] = (a * c + b * d) * q
  r[at + 1] = (b * c - a * d) * q
}

/** Fresnel amplitudes of the two faces for the cosine and the indices in {@link film}. */
export function prepareFilm(): void {
  const c0 = film[FILM.cosine]!
  const n1 = film[FILM.index]!
  const n2 = film[FILM.n]!
  const k2 = film[FILM.k]!
  const s2 = 1 - c0 * c0
  const w = 1 - s2 / (n1 * n1)
  const cr = w > 0 ? Math.sqrt(w) : 0
  const ci = w > 0 ? 0 : Math.sqrt(-w)
  inFilm[0] = cr
  inFilm[1] = ci
  // q = n₂·cos θ₂, the root with the decaying wave
  const er = n2 * n2 - k2 * k2
  const ei = 2 * n2 * k2
  const qr2 = er - s2
  const size = Math.sqrt(qr2 * qr2 + ei * ei)
  const qr = Math.sqrt(Math.max(0, 0.5 * (size + qr2)))
  const qi = Math.sqrt(Math.max(0, 0.5 * (size - qr2)))
  const ar = n1 * cr
  const ai = n1 * ci
  divide(0, c0 - ar, -ai, c0 + ar, ai)
  divide(2, ar - qr, ai - qi, ar + qr, ai + qi)
  divide(4, n1 * c0 - cr, -ci, n1 * c0 + cr, ci)
  const er1 = er * cr - ei * ci
  const ei1 = er * ci + ei * cr
  divide(6, er1 - n1 * qr, ei1 - n1 * qi, er1 + n1 * qr, ei1 + n1 * qi)
}

/**
 * Unpolarised reflectance at the wavelength film[FILM.wavelength] into film[FILM.reflectance]. Call after {@link
 * prepareFilm}.
 */
export function reflectFilm(): void {
  const phase = (2 * Math.PI * film[FILM.way]!) / film[FILM.wavelength]!
  const decay = Math.exp(-phase * inFilm[1]!)
  const er = decay * Math.cos(phase * inFilm[0]!)
  const ei = decay * Math.sin(phase * inFilm[0]!)
  let sum = 0
  for (let p = 0; p < 8; p += 4) {
    const ar = r[p]!
    const ai = r[p + 1]!
    const br = r[p + 2]! * er - r[p + 3]! * ei
    const bi = r[p + 2]! * ei + r[p + 3]! * er
    const nr = ar + br
    const ni = ai + bi
    const dr = 1 + ar * br - ai * bi
    const di = ar * bi + ai * br
    sum += (nr * nr + ni * ni) / (dr * dr + di * di)
  }
  film[FILM.reflectance] = sum > 2 ? 1 : 0.5 * sum
}

/** Steps of the table of mean phases over optical ways, nm; beyond its end nothing coherent is left. */
const STEP = 8
const STEPS = 2000
let phases: Float64Array | null = null

/** ∫ response_c(λ)·e^{i2πD/λ} dλ: three complex numbers a step of D. */
function meanPhases(): Float64Array {
  const t = new Float64Array((STEPS + 2) * 6)
  for (let s = 0; s <= STEPS; s++)
    for (let i = 0; i < GRID_SIZE; i++) {
      const a = (2 * Math.PI * s * STEP) / (GRID_START + i)
      const c = Math.cos(a)
      const d = Math.sin(a)
      for (let k = 0; k < 3; k++) {
        t[s * 6 + k * 2]! += responseRGB[k]![i]! * c
        t[s * 6 + k * 2 + 1]! += responseRGB[k]![i]! * d
      }
    }
  return t
}

/** Wavelengths that stand for the three channels where no closed form is at hand. */
export const STAND_IN_NM = [610, 549, 465] as const

/**
 * Mean reflectance under D65 in the Rec.709 component `c`, kept in 0..1, into film[FILM.mean + c]. Call after
 * {@link prepareFilm}, with the substrate's index for that component.
 */
export function meanRGB(c: number): void {
  if (inFilm[1]! > 0) {
    // evanescent in the film: no closed form, and nothing oscillates either
    film[FILM.wavelength] = STAND_IN_NM[c]!
    reflectFilm()
    film[FILM.mean + c] = film[FILM.reflectance]!
    return
  }
  const t = (phases ??= meanPhases())
  const way = film[FILM.way]! * inFilm[0]!
  let sum = 0
  for (let p = 0; p < 8; p += 4) {
    const a = r[p]!
    const b = Math.sqrt(r[p + 2]! * r[p + 2]! + r[p + 3]! * r[p + 3]!)
    const x = a * b
    const rest = 1 - x * x
    if (rest < 1e-9) {
      sum += 1
      continue
    }
    // 1 − R = (1 − a²)(1 − b²)/(1 − x²)·(1 + 2·Σ (−x)^m cos m(ψ + δ)), δ the phase of the lower
    // face
    const ur = b > 0 ? r[p + 2]! / b : 1
    const ui = b > 0 ? r[p + 3]! / b : 0
    let series = 1
    let power = 1
    let pr = 1
    let pi = 0
    for (let m = 1; m <= 4; m++) {
      power *= -x
      const nr = pr * ur - pi * ui
      pi = pr * ui + pi * ur
      pr = nr
      const at = (m * way) / STEP
      const s = at | 0
      if (s >= STEPS) break
      const f = at - s
      const o = s * 6 + c * 2
      series +=
        2 * power * (pr * (t[o]! + (t[o + 6]! - t[o]!) * f) - pi * (t[o + 1]! + (t[o + 7]! - t[o + 1]!) * f))
    }
    sum += 1 - (((1 - a * a) * (1 - b * b)) / rest) * series
  }
  sum *= 0.5
  // never nothing: where the companion carries nothing a path ends, and single wavelengths with it
  film[FILM.mean + c] = sum < 1e-3 ? 1e-3 : sum > 1 ? 1 : sum
}

/**
 * Reflectance of a film for single use.
 * @param cos cosine of incidence, 0..1
 * @param index of the film; n, k index of the substrate: all relative to the medium of incidence
 * @param way 2·n·d with the absolute index, nm
 */
export function filmReflectance(
  cos: number,
  index: number,
  n: number,
  k: number,
  way: number,
  wavelength: number,
): number {
  film[FILM.cosine] = cos
  film[FILM.index] = index
  film[FILM.n] = n
  film[FILM.k] = k
  film[FILM.way] = way
  film[FILM.wavelength] = wavelength
  prepareFilm()
  reflectFilm()
  return film[FILM.reflectance]!
}
