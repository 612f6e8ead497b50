/**
 * Turns a vector about the vertical as a rig turns its panels: towards growing azimuth, which runs from +z towards
 * +x.
 */
export function turned([x, y, z]: readonly number[], degrees: number): [number, number, number] {
  const cos = Math.cos((degrees * Math.PI) / 180)
  const sin = Math.sin((degrees * Math.PI) / 180)
  return [cos * x! + sin * z!, y!, -sin * x! + cos * z!]
}
