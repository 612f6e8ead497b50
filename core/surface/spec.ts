/** Filling `memory.spec`, which says what the next lobe or layer is to be. */
import { memory } from './memory'
import { SPEC } from './slots'

const { spec } = memory

/** A plain lobe: no grain, no film, a plain rise. */
export function setSpec(
  wr: number,
  wg: number,
  wb: number,
  alpha: number,
  eta: number,
  nx: number,
  ny: number,
  nz: number,
): void {
  spec[SPEC.weight] = wr
  spec[SPEC.weight + 1] = wg
  spec[SPEC.weight + 2] = wb
  spec[SPEC.alpha] = alpha
  spec[SPEC.eta] = eta
  spec[SPEC.normal] = nx
  spec[SPEC.normal + 1] = ny
  spec[SPEC.normal + 2] = nz
  spec[SPEC.anisotropy] = 0
  spec[SPEC.film] = 0
  spec[SPEC.exponent] = 0
}

/** Grain by α along and across a tangent; none where they are the same. */
export function setGrain(along: number, across: number, tx: number, ty: number, tz: number): void {
  if (along === across) return
  const swap = across > along
  const most = Math.max(1e-4, swap ? across : along)
  const least = Math.max(0, swap ? along : across)
  const rest = least / most
  spec[SPEC.alpha] = most * Math.sqrt((1 + rest * rest) / 2)
  spec[SPEC.anisotropy] = Math.min(1, 1 - rest)
  if (swap) {
    const nx = spec[SPEC.normal]!
    const ny = spec[SPEC.normal + 1]!
    const nz = spec[SPEC.normal + 2]!
    spec[SPEC.grain] = ny * tz - nz * ty
    spec[SPEC.grain + 1] = nz * tx - nx * tz
    spec[SPEC.grain + 2] = nx * ty - ny * tx
  } else {
    spec[SPEC.grain] = tx
    spec[SPEC.grain + 1] = ty
    spec[SPEC.grain + 2] = tz
  }
}

/** Colour that a metal's reflection rises to at grazing angles, and the exponent, at least 0.1, of the rise. */
export function setRise(r: number, g: number, b: number, exponent: number): void {
  spec[SPEC.grazing] = r
  spec[SPEC.grazing + 1] = g
  spec[SPEC.grazing + 2] = b
  spec[SPEC.exponent] = exponent > 0.1 ? exponent : 0.1
}

/** Anisotropy of the roughness, 0..1, along a tangent. */
export function setAnisotropy(anisotropy: number, tx: number, ty: number, tz: number): void {
  spec[SPEC.anisotropy] = anisotropy
  spec[SPEC.grain] = tx
  spec[SPEC.grain + 1] = ty
  spec[SPEC.grain + 2] = tz
}

/** A film on what follows. @param thickness nm, none where it is not above 0 */
export function setFilm(thickness: number, index: number): void {
  spec[SPEC.film] = thickness > 0 ? 1 : 0
  spec[SPEC.filmIndex] = Math.max(1, index)
  spec[SPEC.filmThickness] = thickness
}

/** A colourless layer of roughness α, index and coverage. */
export function setCover(alpha: number, eta: number, coverage: number): void {
  spec[SPEC.alpha] = alpha
  spec[SPEC.eta] = eta
  spec[SPEC.coverage] = coverage
  spec[SPEC.tint] = 1
  spec[SPEC.tint + 1] = 1
  spec[SPEC.tint + 2] = 1
}
