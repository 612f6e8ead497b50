/** What the builder's files share: bytes of a record, of a binary and of a wide node. */
export const RECORD: usize = 32,
  NODE: usize = 64,
  WIDE: usize = 256
export const INFINITE: f32 = Infinity

/** Half the surface of a box whose sides are in `e`. */
// @ts-ignore: a decorator of AssemblyScript
@inline
export function halfArea(e: v128): f32 {
  const p = f32x4.mul(e, v128.shuffle<f32>(e, e, 1, 2, 0, 3))
  return f32x4.extract_lane(p, 0) + f32x4.extract_lane(p, 1) + f32x4.extract_lane(p, 2)
}
