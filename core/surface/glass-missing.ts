import table from './albedo.json'
import { F_MAX, GLASS_AXES } from './albedo-axes'
import { memory } from './memory'

const { cell: place, parted } = memory

/** What the first meeting misses, and what of that comes back by a walk on the facets. */
const missing = Float64Array.from(table.glass, x => 1 - x)
const back = Float64Array.from(table.again, (x, i) => Math.min(x, missing[i]!))
const M = GLASS_AXES.mu
const A = GLASS_AXES.alpha
const F = GLASS_AXES.eta

/** Points of a mean over cosines. */
const POINTS = 128
const meanMissing = meansOf(missing)
const meanBack = meansOf(back)

/** Cosine means ∫ 2µ f(µ) dµ of each row of a table over µ, as it is interpolated. */
function meansOf(values: Float64Array): Float64Array {
  return Float64Array.from({ length: values.length / M }, (_, row) => {
    let sum = 0
    for (let p = 0; p < POINTS; p++) {
      const x = ((p + 0.5) / POINTS) ** 0.25 * (M - 1)
      const i = Math.min(M - 2, x | 0)
      const a = values[row * M + i]!
      sum += a + (values[row * M + i + 1]! - a) * (x - i)
    }
    return sum / POINTS
  })
}

/** Corner of the table below (α, η); how far beyond it, into `memory.cell`. */
function locate(alpha: number, eta: number): number {
  const y = Math.sqrt(alpha) * (A - 1)
  const z = Math.min(1, Math.max(0, ((eta - 1) / (eta + 1) / F_MAX + 1) / 2)) * (F - 1)
  let j = y | 0
  let k = z | 0
  if (j > A - 2) j = A - 2
  if (k > F - 2) k = F - 2
  place[0] = y - j
  place[1] = z - k
  return k * A + j
}

/** Value of a table over (μ, α, η) at `o` of {@link locate}; i corner of µ, fx how far beyond it. */
function within(values: Float64Array, o: number, i: number, fx: number): number {
  const fy = place[0]!
  const fz = place[1]!
  const at = (corner: number) => {
    const c = corner * M + i
    return values[c]! + (values[c + 1]! - values[c]!) * fx
  }
  const a = at(o) + (at(o + 1) - at(o)) * fy
  const b = at(o + A) + (at(o + A + 1) - at(o + A)) * fy
  return a + (b - a) * fz
}

/** Words of `memory.parted`: what comes back, and what passes, after more than one meeting. */
export const PARTED = { back: 0, passes: 1 } as const

/**
 * What rough glass sends back and lets through after more than one meeting with its facets, into `memory.parted`; by
 * the tables of scripts/fit-albedo.ts (a walk after Heitz et al. 2016).
 * @param mu cosine, 0..1; alpha 0..1; eta index beyond over index on this side (clamped to 1/3…3)
 */
export function partGlass(mu: number, alpha: number, eta: number): void {
  const o = locate(alpha, eta)
  const x = Math.sqrt(mu) * (M - 1)
  let i = x | 0
  if (i > M - 2) i = M - 2
  const all = within(missing, o, i, x - i)
  const returned = within(back, o, i, x - i)
  parted[PARTED.back] = returned
  parted[PARTED.passes] = all - returned
}

/** Cosine means of {@link partGlass}. */
export function partGlassAverage(alpha: number, eta: number): void {
  const o = locate(alpha, eta)
  const returned = betweenMeans(meanBack, o)
  parted[PARTED.back] = returned
  parted[PARTED.passes] = betweenMeans(meanMissing, o) - returned
}

/** Value of means over (α, η) at `o` of {@link locate}. */
function betweenMeans(means: Float64Array, o: number): number {
  const a = means[o]! + (means[o + 1]! - means[o]!) * place[0]!
  const b = means[o + A]! + (means[o + A + 1]! - means[o + A]!) * place[0]!
  return a + (b - a) * place[1]!
}
