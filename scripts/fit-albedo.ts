// Tabulates the directional albedo of a rough dielectric's reflection (single-scattering GGX, Fresnel), and its cosine average; and the same of facets that reflect everything.
//   node scripts/bundle.mjs scripts/fit-albedo.ts      writes core/surface/albedo.json
// E(μ, α, η) = ∫ f cosθi dωi, by sampling visible normals: the mean of F·G2/G1 (Heitz 2018, §5), 8192 R2 points a cell.
import { writeFileSync } from 'node:fs'
import { fresnelDielectric } from '../core/optics/fresnel'
import { ggxLambda, sampledNormal, sampleVisibleNormal } from '../core/surface/ggx'
import { AXES, etaOf, FACET_AXES } from '../core/surface/albedo-axes'

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
writeFileSync('core/surface/albedo.json', JSON.stringify({ source: 'scripts/fit-albedo.ts', E, average, facets: tabulate([Infinity], FACET_AXES) }))
