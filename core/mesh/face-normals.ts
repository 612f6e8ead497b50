/** Normals of triangles, their lengths twice their areas. */
export function areaNormals(position: Float32Array, index: Uint32Array): Float32Array {
  const out = new Float32Array(index.length)
  for (let t = 0; t < index.length; t += 3) {
    const a = index[t]! * 3
    const b = index[t + 1]! * 3
    const c = index[t + 2]! * 3
    const ux = position[b]! - position[a]!
    const uy = position[b + 1]! - position[a + 1]!
    const uz = position[b + 2]! - position[a + 2]!
    const vx = position[c]! - position[a]!
    const vy = position[c + 1]! - position[a + 1]!
    const vz = position[c + 2]! - position[a + 2]!
    out[t] = uy * vz - uz * vy
    out[t + 1] = uz * vx - ux * vz
    out[t + 2] = ux * vy - uy * vx
  }
  return out
}
