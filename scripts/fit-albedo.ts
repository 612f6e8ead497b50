// Tabulates the directional albedo of a rough dielectric's reflection (single-scattering GGX, Fresnel), and its cosine average.
//   node scripts/bundle.mjs scripts/fit-albedo.ts      writes core/surface/albedo.json
// E(μ, α, η) = ∫ f cosθi dωi, by sampling visible normals: the mean of F·G2/G1 (Heitz 2018, §5), 8192 R2 points a cell.
import { writeFileSync } from 'node:fs'
import { fresnelDielectric } from '../core/optics/fresnel'
import { ggxLambda, sampledNormal, sampleVisibleNormal } from '../core/surface/ggx'
import { AXES, muOf, alphaOf, etaOf } from '../core/surface/albedo-axes'

const POINTS = 8192
function directional(mu: number, alpha: number, eta: number): number {
  if (alpha < 1e-6) return fresnelDielectric(mu, eta)
  const sin = Math.sqrt(1 - mu * mu)
  let sum = 0
  for (let i = 0; i < POINTS; i++) {
    sampleVisibleNormal(sin, 0, mu, alpha, (0.5 + i * 0.7548776662466927) % 1, (0.5 + i * 0.5698402909980532) % 1)
    const [hx, , hz] = sampledNormal as unknown as [number, number, number]
    const d = sin * hx + mu * hz
    const cosI = 2 * d * hz - mu
    if (cosI <= 0 || d <= 0) continue
    const lo = ggxLambda(mu, alpha), li = ggxLambda(cosI, alpha)
    sum += fresnelDielectric(Math.min(1, d), eta) * (1 + lo) / (1 + lo + li)
  }
  return sum / POINTS
}
const E: number[] = [], average: number[] = []
for (let f = 0; f < AXES.eta; f++) for (let a = 0; a < AXES.alpha; a++) {
  for (let m = 0; m < AXES.mu; m++) E.push(+directional(Math.max(muOf(m), 1e-4), alphaOf(a), etaOf(f)).toFixed(5))
  let sum = 0
  const N = 48
  for (let i = 0; i < N; i++) sum += directional(Math.sqrt((i + 0.5) / N), alphaOf(a), etaOf(f)) / N // ∫E 2μ dμ = ∫E d(μ²)
  average.push(+sum.toFixed(5))
}
writeFileSync('core/surface/albedo.json', JSON.stringify({ source: 'scripts/fit-albedo.ts', E, average }))
