/** Mirrors and Lambertian matter in the shape of a sawtooth: the referee of relief, by rays in three dimensions. */
type Vector = readonly [number, number, number]

const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2]

/** Where a ray from a point meets next: the height field z = −x·tan θ over each period of one, and upright backs. */
function next(p: Vector, d: Vector, slope: number): { at: Vector; face: boolean } | null {
  // from tooth to tooth: number of the one that the point is over, by the way that it moves
  let tooth = Math.floor(p[0] + 1e-9 * Math.sign(d[0]))
  let from = 0
  for (let i = 0; i < 4096; i++) {
    const low = tooth
    const toSide = d[0] > 0 ? (low + 1 - p[0]) / d[0] : d[0] < 0 ? (low - p[0]) / d[0] : Infinity
    // z + slope·(x − low) = 0 on the face
    const height = p[2] + slope * (p[0] - low)
    const rise = d[2] + slope * d[0]
    const toFace = rise < 0 ? -height / rise : Infinity
    if (toFace > from + 1e-12 && toFace <= toSide) {
      const at: Vector = [p[0] + toFace * d[0], p[1] + toFace * d[1], p[2] + toFace * d[2]]
      return at[2] > 1e-9 ? null : { at, face: true }
    }
    if (toSide === Infinity) return null
    const z = p[2] + toSide * d[2]
    if (z > 0 && d[2] >= 0) return null
    // the back at the end of a tooth faces the way that x falls
    if (d[0] > 0 && z < 0) return { at: [low + 1, p[1] + toSide * d[1], z], face: false }
    from = toSide - 1e-9
    tooth += d[0] > 0 ? 1 : -1
  }
  return null
}

/**
 * Share of even light that a sawtooth sends to a viewer.
 * @param tilt of its faces, radians; they look towards +x
 * @param viewer unit, z up
 * @param matter reflectance by the cosine of a meeting, of mirrors; or that of Lambertian matter
 */
export function sawtoothReturns(
  tilt: number,
  viewer: Vector,
  matter: { mirror: (cosine: number) => number } | { lambert: number },
  walks: number,
  random: () => number,
): number {
  const slope = Math.tan(tilt)
  const face: Vector = [Math.sin(tilt), 0, Math.cos(tilt)]
  const back: Vector = [-1, 0, 0]
  let sum = 0
  for (let i = 0; i < walks; i++) {
    let weight = 1
    let d: Vector = [-viewer[0], -viewer[1], -viewer[2]]
    let p: Vector = [(i + random()) / walks, 0, 0]
    for (let n = 0; n < 400 && weight > 1e-6; n++) {
      const met = next(p, d, slope)
      if (!met) {
        sum += weight
        break
      }
      const m = met.face ? face : back
      const cosine = dot(d, m)
      if ('mirror' in matter) {
        weight *= matter.mirror(Math.abs(cosine))
        d = [d[0] - 2 * cosine * m[0], d[1] - 2 * cosine * m[1], d[2] - 2 * cosine * m[2]]
      } else {
        weight *= matter.lambert
        const r = Math.sqrt(random())
        const a = 2 * Math.PI * random()
        const up = Math.sqrt(1 - r * r)
        const t: Vector = met.face ? [Math.cos(tilt), 0, -Math.sin(tilt)] : [0, 0, 1]
        d = [0, 1, 2].map(k => r * Math.cos(a) * t[k]! + (k === 1 ? r * Math.sin(a) : 0) + up * m[k]!) as never
      }
      p = [met.at[0] + 1e-9 * m[0], met.at[1], met.at[2] + 1e-9 * m[2]]
    }
  }
  return sum / walks
}
