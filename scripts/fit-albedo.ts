// Tabulates the directional albedo of a rough dielectric's reflection (single-scattering GGX, Fresnel), and its cosine average; and the same of facets that reflect everything.
//   node scripts/bundle.mjs scripts/fit-albedo.ts      writes core/surface/albedo.json
// E(μ, α, η) = ∫ f cosθi dωi, by sampling visible normals: the mean of F·G2/G1 (Heitz 2018, §5), 8192 R2 points a cell.
import { writeFileSync } from 'node:fs'
import { fresnelDielectric } from '../core/optics/fresnel'
import { ggxLambda, sampledNormal, sampleVisibleNormal } from '../core/surface/ggx'
import { AXES, etaOf, F_MAX, FACET_AXES, GLASS_AXES } from '../core/surface/albedo-axes'

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
    const lo = ggxLambda(mu, alpha), li = ggxLambda(cosI, alpha)
    sum += (eta === Infinity ? 1 : fresnelDielectric(Math.min(1, d), eta)) * (1 + lo) / (1 + lo + li)
  }
  return sum / POINTS
}
function tabulate(etas: readonly number[], axes: { mu: number, alpha: number }): { E: number[], average: number[] } {
  const E: number[] = [], average: number[] = []
  for (const eta of etas) for (let a = 0; a < axes.alpha; a++) {
    const alpha = (a / (axes.alpha - 1)) ** 2
    for (let m = 0; m < axes.mu; m++) E.push(+directional(Math.max((m / (axes.mu - 1)) ** 2, 1e-4), alpha, eta).toFixed(5))
    let sum = 0
    const N = 48
    for (let i = 0; i < N; i++) sum += directional(Math.sqrt((i + 0.5) / N), alpha, eta) / N // ∫E 2μ dμ = ∫E d(μ²)
    average.push(+sum.toFixed(5))
  }
  return { E, average }
}
const { E, average } = tabulate(Array.from({ length: AXES.eta }, (_, f) => etaOf(f)), AXES)
/** How much of the light from a direction rough glass sends back or lets through at the first meeting with its facets (Walter et al. 2007, weights of drawn visible normals). */
function bothWays(mu: number, alpha: number, eta: number): number {
  if (alpha < 1e-6 || Math.abs(eta - 1) < 1e-9) return 1
  const sin = Math.sqrt(1 - mu * mu), points = 2048
  let sum = 0
  for (let i = 0; i < points; i++) {
    sampleVisibleNormal(sin, 0, mu, alpha, (0.5 + i * 0.7548776662466927) % 1, (0.5 + i * 0.5698402909980532) % 1)
    const hx = sampledNormal[0]!, hz = sampledNormal[2]!, d = Math.min(1, sin * hx + mu * hz)
    if (d <= 0) continue
    const lo = ggxLambda(mu, alpha), F = fresnelDielectric(d, eta), reflected = 2 * d * hz - mu, sin2 = (1 - d * d) / (eta * eta)
    if (reflected > 0) sum += F * (1 + lo) / (1 + lo + ggxLambda(reflected, alpha))
    if (sin2 < 1) {
      const passed = (d / eta - Math.sqrt(1 - sin2)) * hz - mu / eta
      if (passed < 0) sum += (1 - F) * (1 + lo) / (1 + lo + ggxLambda(-passed, alpha))
    }
  }
  return sum / points
}
const glass = { E: [] as number[], average: [] as number[] }
for (let f = 0; f < GLASS_AXES.eta; f++) for (let a = 0; a < GLASS_AXES.alpha; a++) {
  const x = (f / (GLASS_AXES.eta - 1) * 2 - 1) * F_MAX, eta = (1 + x) / (1 - x), alpha = (a / (GLASS_AXES.alpha - 1)) ** 2
  for (let m = 0; m < GLASS_AXES.mu; m++) glass.E.push(+bothWays(Math.max((m / (GLASS_AXES.mu - 1)) ** 2, 1e-4), alpha, eta).toFixed(4))
  let sum = 0
  for (let i = 0; i < 32; i++) sum += bothWays(Math.sqrt((i + 0.5) / 32), alpha, eta) / 32
  glass.average.push(+sum.toFixed(4))
}
writeFileSync('core/surface/albedo.json', JSON.stringify({ source: 'scripts/fit-albedo.ts', E, average, facets: tabulate([Infinity], FACET_AXES), glass }))
