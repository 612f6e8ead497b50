/** Taking room for a lobe, filled by what `memory.spec` says. */
import { fitNormal, turnNormalOut } from './fit-normal'
import { SMOOTH_ALPHA } from './ggx'
import { KIND } from './lobes/kinds'
import { shrinkUnder } from './medium'
import { memory, now } from './memory'
import { CHANNELS, CLASS, LOBE, MAX_LOBES, SPEC } from './slots'
import { spreadWeight } from './spread'

const { fit, lobes, spec } = memory

/** Whether a lobe mirrors nothing, so that its normal needs no bending. */
const isDiffuse = (kind: number): boolean =>
  kind === KIND.diffuse || kind === KIND['rough-diffuse'] || kind === KIND['again-diffuse']

/**
 * Opens a lobe unless light that walked below leaves the surface here.
 * @param kind number in `lobes/kinds.ts`, or of a registered lobe
 * @param layer number of the layer that it lies under, −1 for none
 * @returns its offset in `memory.lobes`, −1 when it weighs nothing or there is no room
 */
export function newLobe(kind: number, layer: number): number {
  if (now.leaving || !(spec[SPEC.weight]! + spec[SPEC.weight + 1]! + spec[SPEC.weight + 2]! > 0)) return -1
  return openLobe(kind, layer)
}

/** {@link newLobe} in any case. */
export function openLobe(kind: number, layer: number): number {
  const alpha = spec[SPEC.alpha]!
  const eta = spec[SPEC.eta]!
  if (now.lobes >= MAX_LOBES) {
    now.dropped++
    return -1
  }
  const o = now.lobes++ * LOBE.stride
  if (isDiffuse(kind)) turnNormalOut()
  else fitNormal()
  lobes[o] = kind
  lobes[o + LOBE.layer] = layer
  spreadWeight(lobes, o + LOBE.weight)
  lobes[o + LOBE.alpha] = alpha < SMOOTH_ALPHA ? 0 : alpha > 1 ? 1 : alpha
  lobes[o + LOBE.eta] = eta
  lobes[o + LOBE.nx] = fit[0]!
  lobes[o + LOBE.ny] = fit[1]!
  lobes[o + LOBE.nz] = fit[2]!
  const cos = fit[0]! * now.ox + fit[1]! * now.oy + fit[2]! * now.oz
  lobes[o + LOBE.cosine] = cos < 1e-5 ? 1e-5 : cos > 1 ? 1 : cos
  lobes[o + LOBE.norm] = 0
  lobes[o + LOBE.grain] = 0
  lobes[o + LOBE.film] = 0
  lobes[o + LOBE.spectral] = 0
  lobes[o + LOBE.coat] = 0
  lobes[o + LOBE.once] = 1
  lobes[o + LOBE.shrink] = shrinkUnder(layer)
  lobes[o + LOBE.class] = kind === KIND.diffuse ? CLASS.diffuse : CLASS.specular
  if (spec[SPEC.anisotropy]! > 0) stretch(o)
  return o
}

/** Opens a lobe whose light leaves on the far side, uncoloured beyond its weight. */
export function openFar(kind: number, layer: number, of: number): number {
  const o = newLobe(kind, layer)
  if (o < 0) return -1
  for (let k = 0; k < CHANNELS; k++) lobes[o + LOBE.f0 + k] = 1
  lobes[o + LOBE.albedo] = 1
  lobes[o + LOBE.class] = of
  return o
}

/**
 * Stretches the microfacets along the grain (OpenPBR Surface 1.1, "Microfacet model": αx = r²·√(2/(1 + (1 −
 * a)²)), αy = (1 − a)·αx).
 */
function stretch(o: number): void {
  const alpha = lobes[o + LOBE.alpha]!
  const a = spec[SPEC.anisotropy]! > 1 ? 1 : spec[SPEC.anisotropy]!
  const nx = lobes[o + LOBE.nx]!
  const ny = lobes[o + LOBE.ny]!
  const nz = lobes[o + LOBE.nz]!
  if (alpha === 0) return
  const along = spec[SPEC.grain]! * nx + spec[SPEC.grain + 1]! * ny + spec[SPEC.grain + 2]! * nz
  let tx = spec[SPEC.grain]! - along * nx
  let ty = spec[SPEC.grain + 1]! - along * ny
  let tz = spec[SPEC.grain + 2]! - along * nz
  const l = Math.sqrt(tx * tx + ty * ty + tz * tz)
  if (!(l > 1e-6)) return
  tx /= l
  ty /= l
  tz /= l
  const ax = Math.min(1, alpha * Math.sqrt(2 / (1 + (1 - a) * (1 - a))))
  const ay = Math.max(SMOOTH_ALPHA, (1 - a) * ax)
  lobes[o + LOBE.grain] = 1
  lobes[o + LOBE.ax] = ax
  lobes[o + LOBE.ay] = ay
  lobes[o + LOBE.alpha] = Math.sqrt(ax * ay)
  lobes[o + LOBE.tx] = tx
  lobes[o + LOBE.tx + 1] = ty
  lobes[o + LOBE.tx + 2] = tz
  lobes[o + LOBE.bx] = ny * tz - nz * ty
  lobes[o + LOBE.bx + 1] = nz * tx - nx * tz
  lobes[o + LOBE.bx + 2] = nx * ty - ny * tx
}

/** Lays the film of `memory.spec` on a lobe's interface; `outer` is the index of the medium of incidence. */
export function layFilm(o: number, outer: number): void {
  lobes[o + LOBE.film] = spec[SPEC.film]! > 1 ? 1 : spec[SPEC.film]!
  lobes[o + LOBE.filmEta] = spec[SPEC.filmIndex]! / outer
  lobes[o + LOBE.filmWay] = 2 * spec[SPEC.filmIndex]! * Math.max(0, spec[SPEC.filmThickness]!)
  lobes[o + LOBE.spectral] = 1
}
