/**
 * The loops of the view's denoiser in WebAssembly SIMD, four pixels at a time. What they compute, and in plain
 * code: core/render/denoise-plain.ts; where planes lie: core/render/denoise-memory.ts. Addresses are those of a
 * plane's first pixel. Before and after each plane lie zeros enough for every tap, and pixels that are not
 * neighbours have a likeness of zero, so that no tap asks where it is. The last four pixels of a range may be done
 * twice: what is read is never what is written.
 */

/** (1 − x)¹⁶ up to one, then zero: stands for exp(−16 x). */
// @ts-ignore: a decorator of AssemblyScript
@inline
function fall(x: v128): v128 {
  let f = f32x4.pmax(f32x4.splat(0), f32x4.sub(f32x4.splat(1), x))
  f = f32x4.mul(f, f)
  f = f32x4.mul(f, f)
  f = f32x4.mul(f, f)
  return f32x4.mul(f, f)
}

// @ts-ignore: a decorator of AssemblyScript
@inline
function squaredDifference(p: usize, by: usize): v128 {
  const d = f32x4.sub(v128.load(p), v128.load(p + by))
  return f32x4.mul(d, d)
}

/** Bytes from a pixel to the neighbour of number k: right, down left, down, down right. */
// @ts-ignore: a decorator of AssemblyScript
@inline
function ahead(k: i32, width: i32, step: i32): usize {
  return (<usize>(k === 0 ? step : step * (width + k - 2))) << 2
}

/**
 * Likeness of pixels to the four neighbours ahead of them, borders aside.
 * @param normal three planes, `plane` bytes apart; albedo likewise; near: four
 * @param weight of a squared difference of albedos
 */
export function likeness(
  normal: usize,
  albedo: usize,
  near: usize,
  plane: usize,
  weight: f32,
  width: i32,
  step: i32,
  from: i32,
  to: i32,
): void {
  const WEIGHT = f32x4.splat(weight)
  for (let i = from; i < to; i += 4) {
    const at = (<usize>(i < to - 4 ? i : to - 4)) << 2
    for (let k = 0; k < 4; k++) {
      const by = ahead(k, width, step),
        n = normal + at,
        a = albedo + at
      const normals = f32x4.add(
        f32x4.add(squaredDifference(n, by), squaredDifference(n + plane, by)),
        squaredDifference(n + 2 * plane, by),
      )
      const albedos = f32x4.add(
        f32x4.add(squaredDifference(a, by), squaredDifference(a + plane, by)),
        squaredDifference(a + 2 * plane, by),
      )
      v128.store(near + <usize>k * plane + at, fall(f32x4.add(normals, f32x4.mul(albedos, WEIGHT))))
    }
  }
}

/**
 * Binomial blur of the inner pixels of a row, three rows high.
 * @param row address of the row's first pixel, of which `line` bytes above and below are the others
 */
export function blurRow(up: usize, row: usize, down: usize, out: usize, width: i32): void {
  for (let x = 1; x < width - 1; x += 4) {
    const at = (<usize>(x < width - 5 ? x : width - 5)) << 2,
      u = up + at,
      m = row + at,
      d = down + at
    const corners = f32x4.add(
      f32x4.add(v128.load(u - 4), v128.load(u + 4)),
      f32x4.add(v128.load(d - 4), v128.load(d + 4)),
    )
    const sides = f32x4.add(f32x4.add(v128.load(u), v128.load(d)), f32x4.add(v128.load(m - 4), v128.load(m + 4)))
    const sum = f32x4.add(
      f32x4.add(corners, f32x4.mul(f32x4.splat(2), sides)),
      f32x4.mul(f32x4.splat(4), v128.load(m)),
    )
    v128.store(out + at, f32x4.mul(sum, f32x4.splat(0.0625)))
  }
}

/**
 * Brightness as mixed with the neighbours of like features, and what differences of it are measured by.
 * @param near of step 1
 */
export function prefilter(
  luminance: usize,
  spread: usize,
  near: usize,
  plane: usize,
  light: usize,
  doubt: usize,
  scale: f32,
  floor: f32,
  width: i32,
  from: i32,
  to: i32,
): void {
  const SCALE = f32x4.splat(scale),
    FLOOR = f32x4.splat(floor),
    four = f32x4.splat(4)
  for (let i = from; i < to; i += 4) {
    const at = (<usize>(i < to - 4 ? i : to - 4)) << 2
    let s = f32x4.mul(four, v128.load(luminance + at)),
      v = f32x4.mul(f32x4.splat(16), v128.load(spread + at)),
      w = four
    for (let k = 0; k < 4; k++) {
      const by = ahead(k, width, 1),
        own = near + <usize>k * plane + at,
        heavy = f32x4.splat(k & 1 ? 1 : 2)
      const a = f32x4.mul(heavy, v128.load(own)),
        b = f32x4.mul(heavy, v128.load(own - by))
      w = f32x4.add(w, f32x4.add(a, b))
      s = f32x4.add(
        s,
        f32x4.add(f32x4.mul(a, v128.load(luminance + at + by)), f32x4.mul(b, v128.load(luminance + at - by))),
      )
      v = f32x4.add(
        v,
        f32x4.add(
          f32x4.mul(f32x4.mul(a, a), v128.load(spread + at + by)),
          f32x4.mul(f32x4.mul(b, b), v128.load(spread + at - by)),
        ),
      )
    }
    const part = f32x4.div(f32x4.splat(1), w)
    v128.store(light + at, f32x4.mul(s, part))
    v128.store(doubt + at, f32x4.add(f32x4.mul(SCALE, f32x4.mul(v, f32x4.mul(part, part))), FLOOR))
  }
}

/** One level of the wavelet. @param source four planes: red, green, blue, luminance; target likewise */
export function mixLevel(
  source: usize,
  target: usize,
  variance: usize,
  outVariance: usize,
  light: usize,
  doubt: usize,
  near: usize,
  plane: usize,
  width: i32,
  step: i32,
  from: i32,
  to: i32,
): void {
  const quarter = f32x4.splat(0.25)
  for (let i = from; i < to; i += 4) {
    const at = (<usize>(i < to - 4 ? i : to - 4)) << 2,
      p = source + at,
      own = v128.load(light + at),
      loose = v128.load(doubt + at)
    let w = quarter,
      r = f32x4.mul(quarter, v128.load(p)),
      g = f32x4.mul(quarter, v128.load(p + plane)),
      b = f32x4.mul(quarter, v128.load(p + 2 * plane)),
      v = f32x4.mul(f32x4.splat(0.0625), v128.load(variance + at))
    for (let k = 0; k < 4; k++) {
      const by = ahead(k, width, step),
        q = near + <usize>k * plane + at,
        kernel = f32x4.splat(k & 1 ? 0.0625 : 0.125)
      let d = f32x4.sub(v128.load(light + at + by), own)
      let c = f32x4.mul(
        f32x4.mul(fall(f32x4.div(f32x4.mul(d, d), f32x4.add(loose, v128.load(doubt + at + by)))), kernel),
        v128.load(q),
      )
      w = f32x4.add(w, c)
      r = f32x4.add(r, f32x4.mul(c, v128.load(p + by)))
      g = f32x4.add(g, f32x4.mul(c, v128.load(p + plane + by)))
      b = f32x4.add(b, f32x4.mul(c, v128.load(p + 2 * plane + by)))
      v = f32x4.add(v, f32x4.mul(f32x4.mul(c, c), v128.load(variance + at + by)))
      d = f32x4.sub(v128.load(light + at - by), own)
      c = f32x4.mul(
        f32x4.mul(fall(f32x4.div(f32x4.mul(d, d), f32x4.add(loose, v128.load(doubt + at - by)))), kernel),
        v128.load(q - by),
      )
      w = f32x4.add(w, c)
      r = f32x4.add(r, f32x4.mul(c, v128.load(p - by)))
      g = f32x4.add(g, f32x4.mul(c, v128.load(p + plane - by)))
      b = f32x4.add(b, f32x4.mul(c, v128.load(p + 2 * plane - by)))
      v = f32x4.add(v, f32x4.mul(f32x4.mul(c, c), v128.load(variance + at - by)))
    }
    const s = f32x4.div(f32x4.splat(1), w),
      t = target + at
    r = f32x4.mul(r, s)
    g = f32x4.mul(g, s)
    b = f32x4.mul(b, s)
    v128.store(t, r)
    v128.store(t + plane, g)
    v128.store(t + 2 * plane, b)
    v128.store(
      t + 3 * plane,
      f32x4.add(
        f32x4.add(f32x4.mul(f32x4.splat(0.2126), r), f32x4.mul(f32x4.splat(0.7152), g)),
        f32x4.mul(f32x4.splat(0.0722), b),
      ),
    )
    v128.store(outVariance + at, f32x4.mul(v, f32x4.mul(s, s)))
  }
}
