/**
 * a · b + c; rounded once or twice, whatever the processor does: by its own fused multiply-add where relaxed SIMD
 * is to be had, in a variant of its own.
 */
// @ts-ignore: a decorator of AssemblyScript
@inline
export function fma(a: v128, b: v128, c: v128): v128 {
  return ASC_FEATURE_RELAXED_SIMD ? v128.relaxed_madd<f32>(a, b, c) : f32x4.add(f32x4.mul(a, b), c)
}
