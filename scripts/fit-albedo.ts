// Tabulates the directional albedo of a rough dielectric's reflection (single-scattering GGX, Fresnel), and its
// cosine average; the same of facets that reflect everything; and what rough glass sends back or passes, once and
// again.
//   node scripts/bundle.mjs scripts/fit-albedo.ts      writes core/surface/albedo.json
// E(μ, α, η) = ∫ f cosθi dωi, by sampling visible normals: the mean of F·G2/G1 (Heitz 2018, §5), 8192 R2
// points a cell.
import { writeFileSync } from 'node:fs'
import { fresnelDielectric } from '../core/optics/fresnel'
import { ggxLambda, grainLambda, sampledNormal, sampleVisibleNormal } from '../core/surface/ggx'
import { generator } from '../core/testing/generator'
import { reflectedAgain } from './facet-walk'
import { seenFromBothSides } from '../core/surface/masking'
import { AXES, F_MAX, FACET_AXES, GLASS_AXES, GRAIN_AXES } from '../core/surface/albedo-axes'

const POINTS = 8192
/** @param eta index; Infinity for facets that reflect everything */
function directional(mu: number, alpha: number, eta: number): number {
  if (alpha < 1e-6) return eta === Infinity ? 1 : fresnelDielectric(mu, eta)
  const sin = Math.sqrt(1 - mu * mu)
  let sum = 0
  for (let i = 0; i < POINTS; i++) {
    sampleVisibleNormal(sin, 0, mu, alpha, (0.5 + i * 0.7548776662466927) % 1, (0.5 + i * 0.5698402909980532) % 1)
    const [hx, , hz] = sampledNormal as unknown as [number, number, number]
    const d = sin * hx + mu * hz
    const cosI = 2 * d * hz - mu
    if (cosI <= 0 || d <= 0) continue
    const lo = ggxLambda(mu, alpha)
    const li = ggxLambda(cosI, alpha)
    sum += ((eta === Infinity ? 1 : fresnelDielectric(Math.min(1, d), eta)) * (1 + lo)) / (1 + lo + li)
  }
  return sum / POINTS
}
type Albedo = (mu: number, alpha: number, eta: number) => number
/** Tables of an albedo over the axes, and of its cosine mean by N midpoints over µ². */
function tabulate(
  albedo: Albedo,
  etas: readonly number[],
  axes: { mu: number; alpha: number },
  digits: number,
  N: number,
): { E: number[]; average: number[] } {
  const E: number[] = []
  const average: number[] = []
  for (const eta of etas)
    for (let a = 0; a < axes.alpha; a++) {
      const alpha = (a / (axes.alpha - 1)) ** 2
      for (let m = 0; m < axes.mu; m++)
        E.push(+albedo(Math.max((m / (axes.mu - 1)) ** 2, 1e-4), alpha, eta).toFixed(digits))
      let sum = 0
      // ∫E 2μ dμ = ∫E d(μ²)
      for (let i = 0; i < N; i++) sum += albedo(Math.sqrt((i + 0.5) / N), alpha, eta) / N
      average.push(+sum.toFixed(digits))
    }
  return { E, average }
}
/**
 * How much of the light from a direction rough glass sends back or lets through at the first meeting with its
 * facets (Walter et al. 2007, weights of drawn visible normals).
 */
function bothWays(mu: number, alpha: number, eta: number): number {
  if (alpha < 1e-6 || Math.abs(eta - 1) < 1e-9) return 1
  const sin = Math.sqrt(1 - mu * mu)
  const points = 2048
  let sum = 0
  for (let i = 0; i < points; i++) {
    sampleVisibleNormal(sin, 0, mu, alpha, (0.5 + i * 0.7548776662466927) % 1, (0.5 + i * 0.5698402909980532) % 1)
    const hx = sampledNormal[0]!
    const hz = sampledNormal[2]!
    const d = Math.min(1, sin * hx + mu * hz)
    if (d <= 0) continue
    const lo = ggxLambda(mu, alpha)
    const F = fresnelDielectric(d, eta)
    const reflected = 2 * d * hz - mu
    const sin2 = (1 - d * d) / (eta * eta)
    if (reflected > 0) sum += (F * (1 + lo)) / (1 + lo + ggxLambda(reflected, alpha))
    if (sin2 < 1) {
      const passed = (d / eta - Math.sqrt(1 - sin2)) * hz - mu / eta
      if (passed < 0) sum += (1 - F) * (1 + lo) * seenFromBothSides(lo, ggxLambda(-passed, alpha))
    }
  }
  return sum / points
}
/** Share that rough glass sends back after more than one meeting: the same draws in every cell. */
const again: Albedo = (mu, alpha, eta) =>
  alpha < 1e-6 || Math.abs(eta - 1) < 1e-9 ? 0 : reflectedAgain(mu, alpha, eta, 40_000, generator(1))
/** What stretched facets that reflect everything do not send back at the first meeting, and its cosine mean. */
function stretched(): { missing: number[]; average: number[] } {
  const missing: number[] = []
  const average: number[] = []
  for (let r = 0; r < GRAIN_AXES.ratio; r++)
    for (let a = 0; a < GRAIN_AXES.alpha; a++) {
      const ax = Math.max(1e-4, (a / (GRAIN_AXES.alpha - 1)) ** 2)
      const ay = Math.max(1e-4, ax * (r / (GRAIN_AXES.ratio - 1)) ** 2)
      for (let p = 0; p < GRAIN_AXES.angle; p++)
        for (let m = 0; m < GRAIN_AXES.mu; m++) {
          const mu = Math.max((m / (GRAIN_AXES.mu - 1)) ** 2, 1e-4)
          missing.push(+(1 - alongGrain(mu, ((Math.PI / 2) * p) / (GRAIN_AXES.angle - 1), ax, ay)).toFixed(4))
        }
      let sum = 0
      for (let i = 0; i < 256; i++)
        sum += alongGrain(Math.sqrt((i + 0.5) / 256), (Math.PI / 2) * ((i * 0.618034) % 1), ax, ay) / 256
      average.push(+(1 - sum).toFixed(4))
    }
  return { missing, average }
}

/** Share that stretched facets send back at the first meeting, by drawn visible normals. */
function alongGrain(mu: number, phi: number, ax: number, ay: number): number {
  const sin = Math.sqrt(1 - mu * mu)
  const x = sin * Math.cos(phi)
  const y = sin * Math.sin(phi)
  const points = 2048
  const lo = grainLambda(x, y, mu, ax, ay)
  let sum = 0
  for (let i = 0; i < points; i++) {
    sampleVisibleNormal(x, y, mu, ax, (0.5 + i * 0.7548776662466927) % 1, (0.5 + i * 0.5698402909980532) % 1, ay)
    const [hx, hy, hz] = [sampledNormal[0]!, sampledNormal[1]!, sampledNormal[2]!]
    const d = x * hx + y * hy + mu * hz
    const up = 2 * d * hz - mu
    if (up <= 0 || d <= 0) continue
    sum += (1 + lo) / (1 + lo + grainLambda(2 * d * hx - x, 2 * d * hy - y, up, ax, ay))
  }
  return sum / points
}
const indices = (count: number, f: (t: number) => number) =>
  Array.from({ length: count }, (_, i) => {
    const x = f(i / (count - 1)) * F_MAX
    return (1 + x) / (1 - x)
  })
writeFileSync(
  'core/surface/albedo.json',
  JSON.stringify({
    source: 'scripts/fit-albedo.ts',
    ...tabulate(
      directional,
      indices(AXES.eta, t => t),
      AXES,
      5,
      48,
    ),
    facets: tabulate(directional, [Infinity], FACET_AXES, 5, 48),
    stretched: stretched(),
    glass: tabulate(
      bothWays,
      indices(GLASS_AXES.eta, t => t * 2 - 1),
      GLASS_AXES,
      4,
      0,
    ).E,
    again: tabulate(
      again,
      indices(GLASS_AXES.eta, t => t * 2 - 1),
      GLASS_AXES,
      4,
      0,
    ).E,
  }),
)
