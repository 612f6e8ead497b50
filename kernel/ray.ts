/**
 * A ray under way: what it is tested with, how far it may reach, and the nodes that wait for it.
 *
 * It lies in memory and not in locals: there are more vectors than registers, and what a compiler of WebAssembly
 * can compute from a ray it computes anew where it is needed, divisions in the innermost loop among them (seen in
 * V8's code); what is loaded is not computed.
 */

/**
 * Rays a call at most; where their origins, directions, distances, u, v and triangles begin, each as the batch
 * keeps it.
 */
const RAYS: usize = 256
export const DIRECTION: usize = RAYS * 24,
  DISTANCE: usize = RAYS * 48,
  U: usize = RAYS * 56,
  V: usize = RAYS * 64,
  TRIANGLE: usize = RAYS * 72

/** Bytes of a ray under way with its stack of 2048 entries, of which a node leaves seven behind at most. */
export const SPACE: usize = 512 + 16384
// Four lanes of the same: reciprocals of the direction, constants of the slabs at entry and exit; origin and shear
// along the axes of the triangle test.
export const IX: usize = 0,
  IY: usize = 16,
  IZ: usize = 32,
  NX: usize = 48,
  NY: usize = 64,
  NZ: usize = 80,
  FX: usize = 96,
  FY: usize = 112,
  FZ: usize = 128
export const KX: usize = 144,
  KY: usize = 160,
  KZ: usize = 176,
  SX: usize = 192,
  SY: usize = 208,
  SZ: usize = 224
/**
 * The least and the greatest distance at which float32 may see a hit, and the greatest at which a box is entered.
 */
export const LEAST: usize = 240,
  WITHIN: usize = 256,
  FAR: usize = 272
/**
 * Byte offsets in a node of the entry planes x, y, z and the exit planes; in a packet, of the axes of the triangle
 * test.
 */
export const PLANES: usize = 288,
  AXES: usize = 312
/** Place that was hit, number of the ray. */
export const HIT: usize = 332,
  NUMBER: usize = 336
/** Distance of the hit, in float32 for boxes and in float64. */
export const BOUND: usize = 340,
  FARTHEST: usize = 344
/** Barycentric weights of the hit, in float64. */
export const WEIGHTS: usize = 432
/**
 * Origin and direction in the space of what is being tested, in float64, and what places there are moved by: see
 * {@link enter}.
 */
export const ORIGIN: usize = 448,
  BASE: usize = 496
/** Address of the first instance: kept here, and out of the loop's registers. */
export const INSTANCES: usize = 504
/** Distances of eight boxes; room for vectors of which a lane is picked. */
export const NEAR: usize = 352,
  LANES: usize = 384
export const STACK: usize = 512

/** What rounding to float32 may take from a distance. */
const SLACK: f64 = 1.000001
/** How far beyond the nearest hit a triangle may seem to lie in float32 and still be looked at in float64. */
const NEARLY: f32 = 1.00001
/**
 * Share of |o · i| that rounding may take from a slab's distance: the origin and the reciprocal are rounded, their
 * product, and the sum.
 */
const ROUNDING: f32 = 4 * 5.9604645e-8

/** Begins a ray. @param c where the ray under way lies */
export function begin(c: usize, rays: usize, number: usize): void {
  const at = rays + number * 24
  store<i32>(c, -1, HIT)
  store<u32>(c, <u32>number, NUMBER)
  store<i32>(c, 0, BASE)
  aim(
    c,
    load<f64>(at),
    load<f64>(at, 8),
    load<f64>(at, 16),
    load<f64>(at, DIRECTION),
    load<f64>(at, DIRECTION + 8),
    load<f64>(at, DIRECTION + 16),
  )
  reach(c, load<f64>(rays + number * 8, DISTANCE))
}

/** The ray goes on in the space of the scene. */
export function leave(c: usize, rays: usize): void {
  const at = rays + <usize>load<u32>(c, NUMBER) * 24
  store<i32>(c, 0, BASE)
  aim(
    c,
    load<f64>(at),
    load<f64>(at, 8),
    load<f64>(at, 16),
    load<f64>(at, DIRECTION),
    load<f64>(at, DIRECTION + 8),
    load<f64>(at, DIRECTION + 16),
  )
}

/** Bytes of an instance, and where its root and what its places are moved by are: core/trace/instances.ts. */
const INSTANCE: usize = 256,
  ROOT: usize = 192,
  MOVED: usize = 196

/**
 * The ray goes on in the space of an instance, distances staying as they are: the direction is not made unit.
 * @param number of the instance, which begins with the 3 × 4 transform to its space @returns its root
 */
export function enter(c: usize, rays: usize, number: i32): i32 {
  const i = <usize>load<u32>(c, INSTANCES) + <usize>number * INSTANCE,
    at = rays + <usize>load<u32>(c, NUMBER) * 24
  const ox = load<f64>(at),
    oy = load<f64>(at, 8),
    oz = load<f64>(at, 16),
    dx = load<f64>(at, DIRECTION),
    dy = load<f64>(at, DIRECTION + 8),
    dz = load<f64>(at, DIRECTION + 16)
  store<i32>(c, load<i32>(i, MOVED), BASE)
  aim(
    c,
    row(i, ox, oy, oz) + load<f64>(i, 24),
    row(i + 32, ox, oy, oz) + load<f64>(i, 56),
    row(i + 64, ox, oy, oz) + load<f64>(i, 88),
    row(i, dx, dy, dz),
    row(i + 32, dx, dy, dz),
    row(i + 64, dx, dy, dz),
  )
  return load<i32>(i, ROOT)
}

// @ts-ignore: a decorator of AssemblyScript
@inline
function row(m: usize, x: f64, y: f64, z: f64): f64 {
  return load<f64>(m) * x + load<f64>(m, 8) * y + load<f64>(m, 16) * z
}

/** Keeps an origin and a direction, and computes what a ray is tested with from them. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function aim(c: usize, ox: f64, oy: f64, oz: f64, dx: f64, dy: f64, dz: f64): void {
  store<f64>(c, ox, ORIGIN)
  store<f64>(c, oy, ORIGIN + 8)
  store<f64>(c, oz, ORIGIN + 16)
  store<f64>(c, dx, ORIGIN + 24)
  store<f64>(c, dy, ORIGIN + 32)
  store<f64>(c, dz, ORIGIN + 40)
  const O = f32x4(<f32>ox, <f32>oy, <f32>oz, 0),
    D = f32x4(<f32>dx, <f32>dy, <f32>dz, 0)
  // a zero component would make 0 · ∞ = NaN in the slabs; a large finite reciprocal does not
  const I = v128.bitselect(
    f32x4(<f32>(1 / dx), <f32>(1 / dy), <f32>(1 / dz), 0),
    f32x4.splat(1e30),
    f32x4.gt(f32x4.abs(D), f32x4.splat(1e-30)),
  )
  // constants −o · i, moved by what rounding may take: entries come earlier, exits later
  const OI = f32x4.mul(O, I),
    E = f32x4.mul(f32x4.abs(OI), f32x4.splat(ROUNDING)),
    N = f32x4.neg(f32x4.add(OI, E)),
    F = f32x4.sub(E, OI)
  v128.store(c, v128.shuffle<f32>(I, I, 0, 0, 0, 0), IX)
  v128.store(c, v128.shuffle<f32>(I, I, 1, 1, 1, 1), IY)
  v128.store(c, v128.shuffle<f32>(I, I, 2, 2, 2, 2), IZ)
  v128.store(c, v128.shuffle<f32>(N, N, 0, 0, 0, 0), NX)
  v128.store(c, v128.shuffle<f32>(N, N, 1, 1, 1, 1), NY)
  v128.store(c, v128.shuffle<f32>(N, N, 2, 2, 2, 2), NZ)
  v128.store(c, v128.shuffle<f32>(F, F, 0, 0, 0, 0), FX)
  v128.store(c, v128.shuffle<f32>(F, F, 1, 1, 1, 1), FY)
  v128.store(c, v128.shuffle<f32>(F, F, 2, 2, 2, 2), FZ)
  const signs = i32x4.bitmask(I),
    nx = (signs & 1) * 96,
    ny = ((signs >> 1) & 1) * 96,
    nz = ((signs >> 2) & 1) * 96
  store<u32>(c, nx, PLANES)
  store<u32>(c, 32 + ny, PLANES + 4)
  store<u32>(c, 64 + nz, PLANES + 8)
  store<u32>(c, 96 - nx, PLANES + 12)
  store<u32>(c, 128 - ny, PLANES + 16)
  store<u32>(c, 160 - nz, PLANES + 20)
  // the axis along which the ray goes furthest, and the two others; bytes of an axis in a packet, four times those
  // of a lane
  const mx = abs(dx),
    my = abs(dy),
    mz = abs(dz)
  const kz = select<usize>(select<usize>(0, 32, mx > mz), select<usize>(16, 32, my > mz), mx > my),
    kx = select<usize>(0, kz + 16, kz === 32),
    ky = select<usize>(0, kx + 16, kx === 32)
  store<u32>(c, <u32>kx, AXES)
  store<u32>(c, <u32>ky, AXES + 4)
  store<u32>(c, <u32>kz, AXES + 8)
  v128.store(c, O, LANES)
  v128.store(c, D, LANES + 16)
  v128.store(c, I, LANES + 32)
  const lx = c + LANES + (kx >> 2),
    ly = c + LANES + (ky >> 2),
    lz = c + LANES + (kz >> 2),
    along = load<f32>(lz, 32)
  v128.store(c, v128.load32_splat(lx), KX)
  v128.store(c, v128.load32_splat(ly), KY)
  v128.store(c, v128.load32_splat(lz), KZ)
  v128.store(c, f32x4.splat(-load<f32>(lx, 16) * along), SX)
  v128.store(c, f32x4.splat(-load<f32>(ly, 16) * along), SY)
  v128.store(c, f32x4.splat(along), SZ)
  // a distance that float32 takes for a little less than nothing may be a little more; float64 decides
  v128.store(c, f32x4.splat(<f32>((-1e-6 * (1 + abs(ox) + abs(oy) + abs(oz))) / max(mx, max(my, mz)))), LEAST)
}

/** Sets how far the ray reaches. */
// @ts-ignore: a decorator of AssemblyScript
@inline
export function reach(c: usize, far: f64): void {
  const bound = <f32>min(far * SLACK, 3e38)
  store<f64>(c, far, FARTHEST)
  store<f32>(c, bound, BOUND)
  v128.store(c, f32x4.splat(bound), FAR)
  v128.store(c, f32x4.splat(bound * NEARLY), WITHIN)
}
