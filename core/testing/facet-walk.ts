/**
 * Light on rough glass, meeting by meeting: the tests' own walk on Smith's microsurface (Heitz, Hanika, d'Eon &
 * Dachsbacher 2016). The height is kept as the share of the surface that lies below, which is all that counts; visible
 * normals are drawn by the disc of Heitz 2018 ("Sampling the GGX Distribution of Visible Normals", appendix A).
 */
type Vector = [number, number, number]

/** Fresnel's reflectance by his amplitudes. @param n index beyond over index here */
function reflectance(cosine: number, n: number): number {
  const sine2 = (1 - cosine * cosine) / (n * n)
  if (sine2 >= 1) return 1
  const beyond = Math.sqrt(1 - sine2)
  const s = (cosine - n * beyond) / (cosine + n * beyond)
  const p = (n * cosine - beyond) / (n * cosine + beyond)
  return (s * s + p * p) / 2
}

/** tan² θ. */
const tangent2 = (z: number): number => Math.max(0, 1 - z * z) / (z * z)

/** Chance to leave upwards from where a share lies below (Smith), to the power Λ. */
const lambda = (z: number, alpha: number): number => (Math.sqrt(1 + alpha * alpha * tangent2(z)) - 1) / 2

/** A normal of GGX facets that a direction sees; it may look down. */
function seenNormal(w: Vector, alpha: number, random: () => number): Vector {
  const v: Vector = [alpha * w[0], alpha * w[1], w[2]]
  const l = Math.hypot(...v)
  const [x, y, z] = [v[0] / l, v[1] / l, v[2] / l]
  const flat = Math.hypot(x, y)
  const t1: Vector = flat > 1e-9 ? [-y / flat, x / flat, 0] : [1, 0, 0]
  const t2: Vector = [-z * t1[1], z * t1[0], x * t1[1] - y * t1[0]]
  for (;;) {
    const r = Math.sqrt(random())
    const a = 2 * Math.PI * random()
    const p = r * Math.cos(a)
    const s = 0.5 * (1 + z)
    const q = (1 - s) * Math.sqrt(Math.max(0, 1 - p * p)) + s * r * Math.sin(a)
    const up = Math.sqrt(Math.max(0, 1 - p * p - q * q))
    const n = [0, 1, 2].map(k => p * t1[k]! + q * t2[k]! + up * [x, y, z][k]!) as Vector
    if (!(n[2] > 0)) continue
    const m: Vector = [alpha * n[0], alpha * n[1], n[2]]
    const length = Math.hypot(...m)
    return [m[0] / length, m[1] / length, m[2] / length]
  }
}

/**
 * Shares of light from a cosine that rough glass sends back, and lets through.
 * @param n index beyond over index here
 */
export function roughGlass(
  mu: number,
  alpha: number,
  n: number,
  walks: number,
  random: () => number,
): { back: number; through: number } {
  let back = 0
  let through = 0
  for (let i = 0; i < walks; i++) {
    // seen from the side that the light is on: where that is below the glass, all is upside down
    let d: Vector = [-Math.sqrt(1 - mu * mu), 0, -mu]
    let below = 1
    let index = n
    let flipped = false
    for (let meeting = 0; meeting < 100; meeting++) {
      const u = random()
      if (d[2] > 0) {
        const L = lambda(d[2], alpha)
        // leaves with below^Λ; else meets where the share has grown
        if (u < below ** L) {
          if (flipped) through++
          else back++
          break
        }
        below = Math.min(1, below / u ** (1 / L))
      } else below *= u ** (1 / (1 + lambda(-d[2], alpha)))
      const w: Vector = [-d[0], -d[1], -d[2]]
      const m = seenNormal(w, alpha, random)
      const c = Math.min(1, w[0] * m[0] + w[1] * m[1] + w[2] * m[2])
      if (random() < reflectance(c, index)) {
        d = [2 * c * m[0] - w[0], 2 * c * m[1] - w[1], 2 * c * m[2] - w[2]]
        continue
      }
      const k = c / index - Math.sqrt(1 - (1 - c * c) / (index * index))
      // through, and turned over
      d = [-(k * m[0] - w[0] / index), -(k * m[1] - w[1] / index), -(k * m[2] - w[2] / index)]
      below = 1 - below
      index = 1 / index
      flipped = !flipped
    }
  }
  return { back: back / walks, through: through / walks }
}
