/** Radiance of a white floor at the origin under a polygon of radiance 1: Σ angle · edge over 2π (Lambert 1760). */
export function underPolygon(corners: readonly number[][]): number {
  const unit = corners.map(c => c.map(x => x / Math.hypot(...c)))
  const sum = unit.reduce((e, a, i) => {
    const b = unit[(i + 1) % unit.length]!
    const across = [a[1]! * b[2]! - a[2]! * b[1]!, a[2]! * b[0]! - a[0]! * b[2]!, a[0]! * b[1]! - a[1]! * b[0]!]
    return e + Math.acos(a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!) * (across[1]! / Math.hypot(...across))
  }, 0)
  return Math.abs(sum) / (2 * Math.PI)
}
