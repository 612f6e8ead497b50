/**
 * Reference for stacks of plane layers: adding (van de Hulst, "Multiple Light Scattering", 1980, vol. 1, §4.5) of
 * smooth faces over a base, light followed by flux per cosine, all orders of reflection between all faces.
 * Azimuths are averaged, which loses nothing where only the albedo is asked for. Shares nothing with the layers of
 * the renderer.
 */
import { fresnelDielectric } from '../optics/fresnel'

/** A film of clear matter between its outer face and what lies below. */
export interface Film {
  index: number
  /** What it leaves of light that crosses it once at normal incidence. */ passes: number
}

/**
 * Base below all films: reflected flux per unit of cosine `muO`, for flux 1 that arrives at cosine `muI`, both in
 * the medium of the innermost film.
 */
export type Base = (muI: number, muO: number) => number

/** Cosines within the innermost film at which light is followed. */
const N = 96

/**
 * One way through a film's face and itself: what goes on, and what is thrown back, at cosine `mu` on the given
 * side.
 */
const crossing = (mu: number, from: number, to: number) => {
  const sin2 = (1 - mu * mu) * (from / to) ** 2
  const F = fresnelDielectric(mu, to / from)
  return { F, mu: sin2 < 1 ? Math.sqrt(1 - sin2) : 0 }
}

/**
 * Reflectance and transmittance of the films alone for light at `mu` on the outer side (from the innermost film
 * when `inside`): the sum over all orders by recursion from the far side.
 */
function filmsAlone(films: readonly Film[], mu: number, inside: boolean): { R: number; T: number; mu: number } {
  const media = [1, ...films.map(f => f.index)]
  const passes = [1, ...films.map(f => f.passes)]
  const order = media.map((_, i) => i)
  if (inside) order.reverse()
  let at = mu
  let R = 0
  let T = 1
  let back = 0
  // `back` is what the faces so far reflect for light from the far side: R₁₂ = R₁ + T₁T₁'R₂/(1 −
  // R₁'R₂)
  for (let i = 1; i < order.length; i++) {
    const from = order[i - 1]!
    const to = order[i]!
    const face = crossing(at, media[from]!, media[to]!)
    const a = from === 0 || (i === 1 && inside) ? 1 : passes[from]! ** (1 / Math.max(1e-9, at))
    // matter in front of this face, then the face
    const before = { T: T * a, back: back * a * a }
    const d = 1 - before.back * face.F
    R += (before.T * before.T * face.F) / d
    T = (before.T * (1 - face.F)) / d
    back = face.F + ((1 - face.F) ** 2 * before.back) / d
    at = face.mu
  }
  return { R, T, mu: at }
}

/**
 * Directional albedo of a base under films.
 * @param films outermost first
 * @param mu cosine of the light outside
 */
export function addedAlbedo(films: readonly Film[], base: Base, mu: number): number {
  const x = Array.from({ length: N }, (_, i) => (i + 0.5) / N)
  const last = films.at(-1)!
  const thick = (m: number) => last.passes ** (1 / m)
  const out = x.map(m => filmsAlone(films, m, true))
  const first = filmsAlone(films, mu, false)
  const M = x.map(i => x.map(o => base(i, o) / N))
  let albedo = first.R
  let down = x.map(() => 0)
  let up = x.map(o => (first.T * thick(first.mu) * base(first.mu, o)) / N)
  for (let order = 0; order < 200; order++) {
    up = up.map((u, i) => u * thick(x[i]!))
    albedo += up.reduce((s, u, i) => s + u * out[i]!.T, 0)
    down = up.map((u, i) => u * out[i]!.R * thick(x[i]!))
    up = x.map((_, o) => down.reduce((s, d, i) => s + d * M[i]![o]!, 0))
  }
  return albedo
}
