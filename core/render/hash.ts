/** Mixes two integers into one hash (lowbias32 by Wellons, public domain, applied to a sum). */
export function hash2(a: number, b: number): number {
  let x = (a + Math.imul(b, 0x9e3779b9)) | 0
  x = Math.imul(x ^ (x >>> 16), 0x7feb352d)
  x = Math.imul(x ^ (x >>> 15), 0x846ca68b)
  return (x ^ (x >>> 16)) | 0
}
