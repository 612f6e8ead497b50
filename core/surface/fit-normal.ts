import { memory, now } from './memory'
import { SPEC } from './slots'

const { spec, fit } = memory

/** Least cosine at which the viewer sees a normal, and the mirror direction leaves the surface. */
const EPSILON = 1e-4

/** Turns the normal in `memory.spec` to the viewer's side of the geometry, into `memory.fit`; bends it no further. */
export function turnNormalOut(): void {
  const nx = spec[SPEC.normal]!
  const ny = spec[SPEC.normal + 1]!
  const nz = spec[SPEC.normal + 2]!
  const s = nx * now.gx + ny * now.gy + nz * now.gz < 0 ? -1 : 1
  fit[0] = s * nx
  fit[1] = s * ny
  fit[2] = s * nz
}

/**
 * Turns the normal in `memory.spec` so that it faces the viewer and the mirror direction leaves on the same side of
 * the geometry, into `memory.fit`: the smallest bend that does it (Keller et al. 2017, appendix A.3).
 */
export function fitNormal(): void {
  let nx = spec[SPEC.normal]!
  let ny = spec[SPEC.normal + 1]!
  let nz = spec[SPEC.normal + 2]!
  const { ox, oy, oz, gx, gy, gz } = now
  if (nx * gx + ny * gy + nz * gz < 0) {
    nx = -nx
    ny = -ny
    nz = -nz
  }
  const no = nx * ox + ny * oy + nz * oz
  const rx = 2 * no * nx - ox
  const ry = 2 * no * ny - oy
  const rz = 2 * no * nz - oz
  const below = rx * gx + ry * gy + rz * gz
  if (below < EPSILON || no < EPSILON) {
    // mirror direction pushed onto the horizon, normal half way between it and the viewer
    const push = EPSILON - Math.min(below, 0) * 1.0001
    let tx = rx + push * gx
    let ty = ry + push * gy
    let tz = rz + push * gz
    const l = 1 / Math.sqrt(tx * tx + ty * ty + tz * tz)
    tx *= l
    ty *= l
    tz *= l
    nx = ox + tx
    ny = oy + ty
    nz = oz + tz
    let m = Math.sqrt(nx * nx + ny * ny + nz * nz)
    if (m < 1e-6) {
      nx = gx
      ny = gy
      nz = gz
      m = 1
    }
    nx /= m
    ny /= m
    nz /= m
  }
  fit[0] = nx
  fit[1] = ny
  fit[2] = nz
}
