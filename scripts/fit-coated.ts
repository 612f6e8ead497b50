// Tabulates how much of what facets below a coat reflect its inner face sends back to them, at the first meeting and
// at those that follow.
//   node scripts/bundle.mjs scripts/fit-coated.ts      writes core/surface/coated.json
// By sampling visible normals (weights G2/G1, Heitz 2018, §5) of facets that reflect everything, below a smooth face:
// K₁ = Σ w·F(µ₁)/Σ w over directions after one meeting; K₂ such that K₁·E(1 − K₂)/(1 − E·K₂) is what leaves after more,
// for facets that reflect E = 0.9, by walks;
// both less F of the mirrored direction, which rises steeply.
// And what the lesser of T(µo) and T(µi), by which the renderer lets such light through, is on the average over
// directions outside, in parts of T(µo).
import { writeFileSync } from 'node:fs'
import { fresnelDielectric } from '../core/optics/fresnel'
import { COATED_AXES, F_MAX } from '../core/surface/albedo-axes'
import { generator } from '../core/testing/generator'
import { ggxLambda, sampledNormal, sampleVisibleNormal } from '../core/surface/ggx'

const POINTS = 6000
const WALKS = 20_000
/** Reflectance of the facets for which K₂ is found. */
const E = 0.9
const direction = new Float64Array(3)

/** Reflects a direction at a facet that it sees. @returns weight; the direction goes on, 0 where it is lost */
function meet(alpha: number, u: number, v: number): number {
  const [x, y, z] = direction as unknown as [number, number, number]
  if (alpha < 1e-6) {
    direction[0] = -x
    direction[1] = -y
    return 1
  }
  sampleVisibleNormal(x, y, z, alpha, u, v)
  const [hx, hy, hz] = sampledNormal as unknown as [number, number, number]
  const d = 2 * (x * hx + y * hy + z * hz)
  const out = d * hz - z
  if (out <= 0) return 0
  direction[0] = d * hx - x
  direction[1] = d * hy - y
  direction[2] = out
  const lo = ggxLambda(z, alpha)
  return (1 + lo) / (1 + lo + ggxLambda(out, alpha))
}

const draw = generator(1)

function goAnywhere(): void {
  const r = Math.sqrt(draw())
  const turn = 2 * Math.PI * draw()
  direction[0] = r * Math.cos(turn)
  direction[1] = r * Math.sin(turn)
  direction[2] = Math.sqrt(1 - r * r)
}

/** K₁ and K₂ for light at cosine µ in the coat. */
function sentBack(mu: number, alpha: number, eta: number): [number, number] {
  let first = 0
  let all = 0
  let left = 0
  for (let i = 0; i < WALKS; i++) {
    direction[0] = Math.sqrt(1 - mu * mu)
    direction[1] = 0
    direction[2] = mu
    let weight = meet(alpha, draw(), draw())
    all += weight
    for (let order = 0; order < 60 && weight > 1e-3; order++) {
      const F = fresnelDielectric(direction[2]!, 1 / eta)
      if (order === 0) first += weight * F
      else left += weight * (1 - F)
      weight *= F * E
      // what facets do not send back at once leaves them in all directions (Kulla & Conty 2017)
      if (draw() >= meet(alpha, draw(), draw())) goAnywhere()
    }
  }
  const k1 = first / all
  const x = Math.min(1, left / (first * E))
  return [k1, k1 > 1e-6 ? Math.max(0, (1 - x) / (1 - x * E)) : k1]
}

/** Mean of min(T(µo), T(µi))/T(µo) over what facets of α reflect outside. @param mu cosine outside */
function lesser(mu: number, alpha: number, eta: number): number {
  let sum = 0
  let all = 0
  const T = 1 - fresnelDielectric(mu, eta)
  for (let i = 0; i < POINTS; i++) {
    direction[0] = Math.sqrt(1 - mu * mu)
    direction[1] = 0
    direction[2] = mu
    const w = meet(alpha, (0.5 + i * 0.7548776662466927) % 1, (0.5 + i * 0.5698402909980532) % 1)
    if (w === 0) continue
    all += w
    sum += w * Math.min(T, 1 - fresnelDielectric(direction[2]!, eta))
  }
  return sum / all / T
}

const passes: number[] = []
const first: number[] = []
const further: number[] = []
for (let f = 0; f < COATED_AXES.eta; f++)
  for (let a = 0; a < COATED_AXES.alpha; a++)
    for (let m = 0; m < COATED_AXES.mu; m++) {
      const x = (f / (COATED_AXES.eta - 1)) * F_MAX
      const eta = (1 + x) / (1 - x)
      const alpha = (a / (COATED_AXES.alpha - 1)) ** 2
      const outside = Math.max(0.01, m / (COATED_AXES.mu - 1)) ** 2
      const inside = Math.sqrt(1 - (1 - outside * outside) / (eta * eta))
      const [k1, k2] = f === 0 ? [0, 0] : sentBack(inside, alpha, eta)
      const mirror = fresnelDielectric(outside, eta)
      first.push(+(k1 - mirror).toFixed(4))
      further.push(+(k2 - mirror).toFixed(4))
      passes.push(f === 0 ? 1 : +lesser(outside, alpha, eta).toFixed(4))
    }
writeFileSync(
  'core/surface/coated.json',
  JSON.stringify({ source: 'scripts/fit-coated.ts', first, further, passes }),
)
