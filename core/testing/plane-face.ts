/** A plane face between clear media, for tests: Fresnel and Snell (Born & Wolf, §1.5), written here. */

/** Cosine in index b of light at a cosine in index a; 0 where none goes on. */
export const bent = (cos: number, a: number, b: number): number =>
  Math.sqrt(Math.max(0, 1 - ((1 - cos * cos) * a * a) / (b * b)))

/** Unpolarised reflectance from index a to b. */
export function faceReflects(cos: number, a: number, b: number): number {
  const beyond = bent(cos, a, b)
  if (beyond === 0) return 1
  const s = (a * cos - b * beyond) / (a * cos + b * beyond)
  const p = (b * cos - a * beyond) / (b * cos + a * beyond)
  return (s * s + p * p) / 2
}
