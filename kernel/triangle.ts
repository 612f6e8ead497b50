/**
 * Triangles, four at a time in float32, and those found in float64 by Möller & Trumbore 1997, as the plain version
 * does.
 *
 * Edge functions in the ray's sheared space (Woop, Benthin & Wald, "Watertight Ray/Triangle Intersection", JCGT
 * 2013): a shared edge gives both its triangles the same number but for its sign, so no ray slips through between
 * them. Tried: edge functions on cross products, twice the operations, 0.52 of Embree on the sphere. Weights
 * together with the distance, and not once more for the nearest in the end: 5 % on the knot, nothing on the
 * sphere.
 */
import { fma } from './fma'
import {
  AXES,
  BASE,
  DISTANCE,
  FARTHEST,
  HIT,
  KX,
  KY,
  KZ,
  LEAST,
  NUMBER,
  ORIGIN,
  SX,
  SY,
  SZ,
  TRIANGLE,
  U,
  V,
  WEIGHTS,
  WITHIN,
  reach,
} from './ray'

/** Bytes of a packet, and of a corner in it: four x, four y, four z. */
const PACKET: usize = 144

/** Tests the packets of a leaf. @param leaf first packet << 2 | packets − 1 */
export function testLeaf(c: usize, packets: usize, leaf: i32): void {
  const kx = <usize>load<u32>(c, AXES),
    ky = <usize>load<u32>(c, AXES + 4),
    kz = <usize>load<u32>(c, AXES + 8),
    zero = f32x4.splat(0)
  let packet = leaf >> 2
  for (const last = packet + (leaf & 3); packet <= last; packet++) {
    const p = packets + <usize>packet * PACKET,
      KXs = v128.load(c, KX),
      KYs = v128.load(c, KY),
      KZs = v128.load(c, KZ),
      SXs = v128.load(c, SX),
      SYs = v128.load(c, SY)
    const az = f32x4.sub(v128.load(p + kz), KZs),
      bz = f32x4.sub(v128.load(p + kz, 48), KZs),
      cz = f32x4.sub(v128.load(p + kz, 96), KZs)
    const ax = fma(SXs, az, f32x4.sub(v128.load(p + kx), KXs)),
      ay = fma(SYs, az, f32x4.sub(v128.load(p + ky), KYs))
    const bx = fma(SXs, bz, f32x4.sub(v128.load(p + kx, 48), KXs)),
      by = fma(SYs, bz, f32x4.sub(v128.load(p + ky, 48), KYs))
    const cx = fma(SXs, cz, f32x4.sub(v128.load(p + kx, 96), KXs)),
      cy = fma(SYs, cz, f32x4.sub(v128.load(p + ky, 96), KYs))
    const Ue = f32x4.sub(f32x4.mul(cx, by), f32x4.mul(cy, bx)),
      Ve = f32x4.sub(f32x4.mul(ax, cy), f32x4.mul(ay, cx)),
      We = f32x4.sub(f32x4.mul(bx, ay), f32x4.mul(by, ax))
    const inside = v128.or(
      f32x4.ge(f32x4.pmin(f32x4.pmin(Ue, Ve), We), zero),
      f32x4.le(f32x4.pmax(f32x4.pmax(Ue, Ve), We), zero),
    )
    if (!v128.any_true(inside)) continue
    // a degenerate triangle divides by zero: its distance is no number, and no comparison with that holds
    const t = f32x4.div(
      f32x4.mul(v128.load(c, SZ), f32x4.add(f32x4.add(f32x4.mul(Ue, az), f32x4.mul(Ve, bz)), f32x4.mul(We, cz))),
      f32x4.add(f32x4.add(Ue, Ve), We),
    )
    let mask = i32x4.bitmask(
      v128.and(inside, v128.and(f32x4.gt(t, v128.load(c, LEAST)), f32x4.lt(t, v128.load(c, WITHIN)))),
    )
    while (mask !== 0) {
      const lane = ctz(mask)
      mask &= mask - 1
      meet(c, p + ((<usize>lane) << 2), (packet << 2) | lane)
    }
  }
}

/**
 * Keeps a triangle as the ray's hit if it is the nearest so far, with its distance and barycentric weights in
 * float64.
 * @param p address of its first coordinate in its packet @param place packet << 2 | lane
 */
function meet(c: usize, p: usize, place: i32): void {
  const ox = load<f64>(c, ORIGIN),
    oy = load<f64>(c, ORIGIN + 8),
    oz = load<f64>(c, ORIGIN + 16),
    dx = load<f64>(c, ORIGIN + 24),
    dy = load<f64>(c, ORIGIN + 32),
    dz = load<f64>(c, ORIGIN + 40)
  const ax = <f64>load<f32>(p),
    ay = <f64>load<f32>(p, 16),
    az = <f64>load<f32>(p, 32)
  const e1x = <f64>load<f32>(p, 48) - ax,
    e1y = <f64>load<f32>(p, 64) - ay,
    e1z = <f64>load<f32>(p, 80) - az
  const e2x = <f64>load<f32>(p, 96) - ax,
    e2y = <f64>load<f32>(p, 112) - ay,
    e2z = <f64>load<f32>(p, 128) - az
  const px = dy * e2z - dz * e2y,
    py = dz * e2x - dx * e2z,
    pz = dx * e2y - dy * e2x,
    det = e1x * px + e1y * py + e1z * pz
  const sx = ox - ax,
    sy = oy - ay,
    sz = oz - az
  const qx = sy * e1z - sz * e1y,
    qy = sz * e1x - sx * e1z,
    qz = sx * e1y - sy * e1x
  const distance = (e2x * qx + e2y * qy + e2z * qz) / det
  if (!(distance > 0 && distance < load<f64>(c, FARTHEST))) return
  const inverse = 1 / det,
    weight = max<f64>(0, min<f64>(1, (sx * px + sy * py + sz * pz) * inverse))
  store<i32>(c, place + load<i32>(c, BASE), HIT)
  store<f64>(c, weight, WEIGHTS)
  store<f64>(c, max<f64>(0, min<f64>(1 - weight, (dx * qx + dy * qy + dz * qz) * inverse)), WEIGHTS + 8)
  reach(c, distance)
}

/** Writes what the ray hit; of any hits, only that there is one. */
export function finish(c: usize, rays: usize, any: bool): void {
  const hit = load<i32>(c, HIT),
    number = <usize>load<u32>(c, NUMBER),
    at = rays + number * 8
  store<i32>(rays + number * 4, hit, TRIANGLE)
  if (hit < 0 || any) return
  store<f64>(at, load<f64>(c, FARTHEST), DISTANCE)
  store<f64>(at, load<f64>(c, WEIGHTS), U)
  store<f64>(at, load<f64>(c, WEIGHTS + 8), V)
}
