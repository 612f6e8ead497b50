/**
 * The random walk on Smith's microsurface (Heitz, Hanika, d'Eon & Dachsbacher 2016, "Multiple-Scattering Microfacet
 * BSDFs with the Smith Model"; heights even, supplemental §1), for GGX facets of clear glass: what leaves on either
 * side after more than one meeting. By the tables' own draws of visible normals.
 */
import { fresnelDielectric } from '../core/optics/fresnel'
import { ggxLambda, sampledNormal, sampleVisibleNormal } from '../core/surface/ggx'

/** Heights lie evenly between −1 and 1. */
const share = (h: number): number => Math.min(1, Math.max(0, 0.5 * (h + 1)))

/** Λ of any direction, also of ones that go down: Λ(−ω) = −1 − Λ(ω). */
function lambda(z: number, alpha: number): number {
  if (Math.abs(z) < 1e-9) return z < 0 ? -1e9 : 1e9
  return z > 0 ? ggxLambda(z, alpha) : -1 - ggxLambda(-z, alpha)
}

/** Height at which a ray meets the surface next; Infinity where it leaves. @param z of its direction; u a draw */
function nextHeight(z: number, h: number, alpha: number, u: number): number {
  if (z > 0.9999) return Infinity
  const C = share(h)
  if (z < -0.9999) return 2 * u * C - 1
  if (Math.abs(z) < 1e-4) return h
  const L = lambda(z, alpha)
  const passes = z > 0 ? C ** L : 0
  if (u > 1 - passes) return Infinity
  return 2 * Math.min(1, C / (1 - u) ** (1 / L)) - 1
}

/**
 * Share of light from a cosine that comes back after two meetings or more.
 * @param eta index beyond over index on this side
 */
export function reflectedAgain(
  mu: number,
  alpha: number,
  eta: number,
  walks: number,
  random: () => number,
): number {
  let back = 0
  const d = new Float64Array(3)
  for (let i = 0; i < walks; i++) {
    const sin = Math.sqrt(1 - mu * mu)
    d.set([-sin, 0, -mu])
    let h = 1
    let outside = true
    for (let n = 0; n < 64; n++) {
      const met = outside ? nextHeight(d[2]!, h, alpha, random()) : -nextHeight(-d[2]!, -h, alpha, random())
      if (Math.abs(met) === Infinity) {
        if (outside && n > 1) back++
        break
      }
      h = met
      const s = outside ? 1 : -1
      const t = outside ? eta : 1 / eta
      // the viewer's side is up for the facets met
      const x = -d[0]! * s
      const y = -d[1]! * s
      const z = -d[2]! * s
      sampleVisibleNormal(x, y, z, alpha, random(), random())
      const [hx, hy, hz] = [sampledNormal[0]!, sampledNormal[1]!, sampledNormal[2]!]
      const c = Math.min(1, x * hx + y * hy + z * hz)
      if (!(c > 0)) break
      if (random() < fresnelDielectric(c, t)) {
        d.set([s * (2 * c * hx - x), s * (2 * c * hy - y), s * (2 * c * hz - z)])
        continue
      }
      const k = c / t - Math.sqrt(Math.max(0, 1 - (1 - c * c) / (t * t)))
      d.set([s * (k * hx - x / t), s * (k * hy - y / t), s * (k * hz - z / t)])
      outside = !outside
    }
  }
  return back / walks
}
