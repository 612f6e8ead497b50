/**
 * Fraction of unpolarised light reflected by a smooth dielectric (Born & Wolf, Principles of Optics, §1.5.2).
 * @param cosI cosine of the angle of incidence, 0..1
 * @param eta index beyond the surface over the index on the side of incidence
 * @returns 0..1; 1 beyond the critical angle
 */
export function fresnelDielectric(cosI: number, eta: number): number {
  const sin2T = (1 - cosI * cosI) / (eta * eta)
  if (sin2T >= 1) return 1
  const cosT = Math.sqrt(1 - sin2T)
  const s = (cosI - eta * cosT) / (cosI + eta * cosT)
  const p = (eta * cosI - cosT) / (eta * cosI + cosT)
  return 0.5 * (s * s + p * p)
}

/**
 * Fraction of unpolarised light reflected by a smooth conductor of complex index n + ik, seen from a medium of
 * index 1
 * (Born & Wolf, §14.2, in the real form of Lazányi & Szirmay-Kalos 2005).
 * @param cosI cosine of the angle of incidence, 0..1
 */
export function fresnelConductor(cosI: number, n: number, k: number): number {
  const c2 = cosI * cosI
  const s2 = 1 - c2
  const n2 = n * n
  const k2 = k * k
  const t0 = n2 - k2 - s2
  const a2b2 = Math.sqrt(t0 * t0 + 4 * n2 * k2)
  const a = Math.sqrt(Math.max(0, 0.5 * (a2b2 + t0)))
  const t1 = a2b2 + c2
  const t2 = 2 * a * cosI
  const rs = (t1 - t2) / (t1 + t2)
  const t3 = c2 * a2b2 + s2 * s2
  const t4 = t2 * s2
  return 0.5 * rs * (1 + (t3 - t4) / (t3 + t4))
}
