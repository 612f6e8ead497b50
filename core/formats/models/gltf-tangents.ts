/** Elements of a glTF attribute. */
interface Elements {
  getCount(): number
  getElement(i: number, target: number[]): unknown
}

/**
 * Tangents of a primitive in the scene's space: by the node's transform, as directions go (glTF 2.0, §3.7.2.1). The
 * fourth number says where growing v of a picture that stands upright lies, and turns with a transform that mirrors.
 * @param m 4 × 4, column by column
 * @returns undefined where there are none, or not as many as vertices
 */
export function worldTangents(
  tangents: Elements | null,
  m: readonly number[],
  count: number,
  mirrored: boolean,
): Float32Array | undefined {
  if (!tangents || tangents.getCount() !== count) return undefined
  const out = new Float32Array(count * 4)
  const t = [0, 0, 0, 1]
  for (let k = 0; k < count; k++) {
    tangents.getElement(k, t)
    const moved = [0, 1, 2].map(r => m[r]! * t[0]! + m[4 + r]! * t[1]! + m[8 + r]! * t[2]!)
    const l = Math.hypot(...moved)
    // a vertex whose tangent is none gets one of its triangle
    if (!(l > 0 && l < Infinity)) continue
    for (let r = 0; r < 3; r++) out[k * 4 + r] = moved[r]! / l
    out[k * 4 + 3] = t[3]! < 0 === mirrored ? 1 : -1
  }
  return out
}
