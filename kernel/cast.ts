/**
 * The ray kernel in WebAssembly SIMD: closest and any hits of a batch of rays in a four-wide hierarchy with leaves of four-triangle packets. Layouts: core/trace/build.ts.
 *
 * Boxes and triangles are tested in float32, four at a time; the triangle found is solved once more in float64 by Möller & Trumbore 1997, as the plain version does.
 * Triangle test: edge functions in the ray's sheared space (Woop, Benthin & Wald, "Watertight Ray/Triangle Intersection", JCGT 2013): a shared edge gives both its
 * triangles the same number but for its sign, so no ray slips through between them. Tried: edge functions on cross products, twice the operations, 0.52 of Embree on the sphere.
 * Box test: slabs, each plane by one fused multiply-add where the processor's own is to be had (relaxed SIMD), in a variant of its own; what rounding may take
 * from a distance is given to the entry and exit constants beforehand (after Ize, "Robust BVH Ray Traversal", JCGT 2013). Boxes are widened when they are built.
 */

/** a · b + c; rounded once or twice, whatever the processor does. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function fma(a: v128, b: v128, c: v128): v128 {
  return ASC_FEATURE_RELAXED_SIMD ? v128.relaxed_madd<f32>(a, b, c) : f32x4.add(f32x4.mul(a, b), c)
}

/** Constant −o · i of a slab, moved by what rounding may take: `by` is −1 for entries, 1 for exits. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function constant(o: f32, i: f32, by: f32): v128 { return f32x4.splat(-o * i + by * ROUNDING * abs(o * i)) }

/** Bytes of a node, a packet, and a ray: origin, direction, distance (float64), triangle (int32), u, v (float64). */
const NODE: usize = 128, PACKET: usize = 144, RAY: usize = 80
/** What rounding to float32 may take from a distance. */
const SLACK: f64 = 1.000001
/** Share of |o · i| that rounding may take from a slab's distance: the origin and the reciprocal are rounded, their product, and the sum. */
const ROUNDING: f32 = 4 * 5.9604645e-8
/** How far beyond the nearest hit a triangle may seem to lie in float32 and still be looked at in float64. */
const NEARLY: f32 = 1.00001

/**
 * Casts rays.
 * @param nodes address of the nodes; packets, rays, stack likewise
 * @param root reference of the root
 * @param any whether any hit will do
 */
export function cast(nodes: usize, packets: usize, root: i32, rays: usize, count: i32, any: bool, stack: usize): void {
  const zero = f32x4.splat(0)
  for (let end = rays + <usize>count * RAY; rays < end; rays += RAY) {
    const ox = load<f64>(rays), oy = load<f64>(rays, 8), oz = load<f64>(rays, 16)
    const dx = load<f64>(rays, 24), dy = load<f64>(rays, 32), dz = load<f64>(rays, 40)
    const hx = <f32>ox, hy = <f32>oy, hz = <f32>oz
    // axis along which the ray goes furthest, and the two others; bytes of an axis in a packet
    const mx = abs(dx), my = abs(dy), mz = abs(dz), kz: usize = mx > my ? (mx > mz ? 0 : 32) : (my > mz ? 16 : 32), kx: usize = kz === 32 ? 0 : kz + 16, ky: usize = kx === 32 ? 0 : kx + 16
    const along = <f32>(1 / component(rays, kz, 24))
    const KX = f32x4.splat(<f32>component(rays, kx, 0)), KY = f32x4.splat(<f32>component(rays, ky, 0)), KZ = f32x4.splat(<f32>component(rays, kz, 0))
    const SX = f32x4.splat(-<f32>component(rays, kx, 24) * along), SY = f32x4.splat(-<f32>component(rays, ky, 24) * along), SZ = f32x4.splat(along)
    // a zero component would make 0 · ∞ = NaN in the slabs; a large finite reciprocal does not
    const ix = abs(dx) > 1e-30 ? <f32>(1 / dx) : <f32>1e30, iy = abs(dy) > 1e-30 ? <f32>(1 / dy) : <f32>1e30, iz = abs(dz) > 1e-30 ? <f32>(1 / dz) : <f32>1e30
    const IX = f32x4.splat(ix), IY = f32x4.splat(iy), IZ = f32x4.splat(iz)
    const NX = constant(hx, ix, -1), NY = constant(hy, iy, -1), NZ = constant(hz, iz, -1), FX = constant(hx, ix, 1), FY = constant(hy, iy, 1), FZ = constant(hz, iz, 1)
    // byte offsets of the entry planes for this direction; the exit planes are the others
    const nx: usize = ix < 0 ? 48 : 0, ny: usize = iy < 0 ? 64 : 16, nz: usize = iz < 0 ? 80 : 32
    const fx: usize = 48 - nx, fy: usize = 80 - ny, fz: usize = 112 - nz
    let far = load<f64>(rays, 48), bound = <f32>min(far * SLACK, 3e38), FAR = f32x4.splat(bound)
    // a distance that float32 takes for a little less than nothing may be a little more; float64 decides
    let WITHIN = f32x4.splat(bound * NEARLY)
    const LEAST = f32x4.splat(-1e-6 * (1 + abs(hx) + abs(hy) + abs(hz)))
    let hit: i32 = -1, node = root, top = stack
    while (true) {
      while (node >= 0) {
        const p = nodes + <usize>node * NODE
        let near = fma(v128.load(p + nx), IX, NX), exit = f32x4.pmin(FAR, fma(v128.load(p + fx), IX, FX))
        near = f32x4.pmax(near, fma(v128.load(p + ny), IY, NY))
        exit = f32x4.pmin(exit, fma(v128.load(p + fy), IY, FY))
        near = f32x4.pmax(near, f32x4.pmax(fma(v128.load(p + nz), IZ, NZ), zero))
        exit = f32x4.pmin(exit, fma(v128.load(p + fz), IZ, FZ))
        let mask = i32x4.bitmask(f32x4.le(near, exit))
        if (mask === 0) { node = i32.MIN_VALUE; break }
        const first = ctz(mask)
        mask &= mask - 1
        if (mask === 0) { node = load<i32>(p + (<usize>first << 2), 96); continue }
        v128.store(stack - 16, near)
        const second = ctz(mask)
        mask &= mask - 1
        const t0 = load<f32>(stack - 16 + (<usize>first << 2)), t1 = load<f32>(stack - 16 + (<usize>second << 2))
        const l0 = load<i32>(p + (<usize>first << 2), 96), l1 = load<i32>(p + (<usize>second << 2), 96)
        if (mask === 0) {
          const swap = t1 < t0
          store<i32>(top, swap ? l0 : l1)
          store<f32>(top, swap ? t0 : t1, 4)
          top += 8
          node = swap ? l1 : l0
          continue
        }
        // three or four: all go to the stack in order of distance, the nearest on top
        const base = top
        store<i32>(top, l0); store<f32>(top, t0, 4)
        top = insert(base, top + 8, l1, t1)
        do {
          const lane = ctz(mask)
          top = insert(base, top, load<i32>(p + (<usize>lane << 2), 96), load<f32>(stack - 16 + (<usize>lane << 2)))
          mask &= mask - 1
        } while (mask !== 0)
        top -= 8
        node = load<i32>(top)
      }
      if (node !== i32.MIN_VALUE) {
        const leaf = ~node
        let packet = leaf >> 2
        for (const last = packet + (leaf & 3); packet <= last; packet++) {
          const c = packets + <usize>packet * PACKET
          const az = f32x4.sub(v128.load(c + kz), KZ), bz = f32x4.sub(v128.load(c + kz, 48), KZ), cz = f32x4.sub(v128.load(c + kz, 96), KZ)
          const ax = fma(SX, az, f32x4.sub(v128.load(c + kx), KX)), ay = fma(SY, az, f32x4.sub(v128.load(c + ky), KY))
          const bx = fma(SX, bz, f32x4.sub(v128.load(c + kx, 48), KX)), by = fma(SY, bz, f32x4.sub(v128.load(c + ky, 48), KY))
          const cx = fma(SX, cz, f32x4.sub(v128.load(c + kx, 96), KX)), cy = fma(SY, cz, f32x4.sub(v128.load(c + ky, 96), KY))
          const U = f32x4.sub(f32x4.mul(cx, by), f32x4.mul(cy, bx)), V = f32x4.sub(f32x4.mul(ax, cy), f32x4.mul(ay, cx)), W = f32x4.sub(f32x4.mul(bx, ay), f32x4.mul(by, ax))
          const inside = v128.or(f32x4.ge(f32x4.pmin(f32x4.pmin(U, V), W), zero), f32x4.le(f32x4.pmax(f32x4.pmax(U, V), W), zero))
          if (!v128.any_true(inside)) continue
          // a degenerate triangle divides by zero: its distance is no number, and no comparison with that holds
          const t = f32x4.div(f32x4.mul(SZ, f32x4.add(f32x4.add(f32x4.mul(U, az), f32x4.mul(V, bz)), f32x4.mul(W, cz))), f32x4.add(f32x4.add(U, V), W))
          let mask = i32x4.bitmask(v128.and(inside, v128.and(f32x4.gt(t, LEAST), f32x4.lt(t, WITHIN))))
          while (mask !== 0) {
            const lane = ctz(mask), distance = distanceOf(c + (<usize>lane << 2), ox, oy, oz, dx, dy, dz)
            mask &= mask - 1
            if (distance > 0 && distance < far) {
              far = distance
              hit = packet << 2 | lane
              bound = <f32>(far * SLACK)
              FAR = f32x4.splat(bound)
              WITHIN = f32x4.splat(bound * NEARLY)
            }
          }
        }
        if (any && hit >= 0) break
      }
      do {
        if (top === stack) { node = 0; break }
        top -= 8
        node = load<i32>(top)
      } while (load<f32>(top, 4) >= bound)
      if (top === stack && node === 0) break
    }
    store<i32>(rays, hit, 56)
    if (hit < 0 || any) continue
    store<f64>(rays, far, 48)
    solve(packets + <usize>(hit >> 2) * PACKET + (<usize>(hit & 3) << 2), rays, ox, oy, oz, dx, dy, dz)
  }
}

/** Puts an entry into the ordered part of the stack that begins at `base`; the nearest stays on top. @returns the new top */
// @ts-ignore: a decorator of AssemblyScript
@inline
function insert(base: usize, top: usize, link: i32, t: f32): usize {
  let q = top
  while (q > base && load<f32>(q - 8, 4) < t) {
    store<u64>(q, load<u64>(q - 8))
    q -= 8
  }
  store<i32>(q, link)
  store<f32>(q, t, 4)
  return top + 8
}

/** Component of a ray's vector that begins at byte `from`; `axis` in steps of 16. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function component(ray: usize, axis: usize, from: usize): f64 { return load<f64>(ray + from + (axis >> 1)) }

/** Distance of a triangle's plane in float64. @param c address of the triangle's first coordinate in its packet */
// @ts-ignore: a decorator of AssemblyScript
@inline
function distanceOf(c: usize, ox: f64, oy: f64, oz: f64, dx: f64, dy: f64, dz: f64): f64 {
  const ax = <f64>load<f32>(c), ay = <f64>load<f32>(c, 16), az = <f64>load<f32>(c, 32)
  const e1x = <f64>load<f32>(c, 48) - ax, e1y = <f64>load<f32>(c, 64) - ay, e1z = <f64>load<f32>(c, 80) - az
  const e2x = <f64>load<f32>(c, 96) - ax, e2y = <f64>load<f32>(c, 112) - ay, e2z = <f64>load<f32>(c, 128) - az
  const sx = ox - ax, sy = oy - ay, sz = oz - az
  const det = e1x * (dy * e2z - dz * e2y) + e1y * (dz * e2x - dx * e2z) + e1z * (dx * e2y - dy * e2x)
  return (e2x * (sy * e1z - sz * e1y) + e2y * (sz * e1x - sx * e1z) + e2z * (sx * e1y - sy * e1x)) / det
}

/** Barycentric weights of the hit in float64, into the ray. */
function solve(c: usize, ray: usize, ox: f64, oy: f64, oz: f64, dx: f64, dy: f64, dz: f64): void {
  const ax = <f64>load<f32>(c), ay = <f64>load<f32>(c, 16), az = <f64>load<f32>(c, 32)
  const e1x = <f64>load<f32>(c, 48) - ax, e1y = <f64>load<f32>(c, 64) - ay, e1z = <f64>load<f32>(c, 80) - az
  const e2x = <f64>load<f32>(c, 96) - ax, e2y = <f64>load<f32>(c, 112) - ay, e2z = <f64>load<f32>(c, 128) - az
  const px = dy * e2z - dz * e2y, py = dz * e2x - dx * e2z, pz = dx * e2y - dy * e2x
  const inverse = 1 / (e1x * px + e1y * py + e1z * pz)
  const sx = ox - ax, sy = oy - ay, sz = oz - az
  const qx = sy * e1z - sz * e1y, qy = sz * e1x - sx * e1z, qz = sx * e1y - sy * e1x
  const u = max<f64>(0, min<f64>(1, (sx * px + sy * py + sz * pz) * inverse))
  store<f64>(ray, u, 64)
  store<f64>(ray, max<f64>(0, min<f64>(1 - u, (dx * qx + dy * qy + dz * qz) * inverse)), 72)
}
