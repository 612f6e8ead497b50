/** Gradient noises of ever smaller size, added (MaterialX 1.39, fractal2d and fractal3d). */
import { memory } from './memory'
import { noise2At, noise2v, noise3At, noise3v } from './noise'

const { noise: N, result } = memory

/** Sum of octaves of {@link noise2}; see {@link fractal3}. */
export function fractal2(x: number, y: number, octaves: number, lacunarity: number, diminish: number): number {
  let sum = 0
  let amplitude = 1
  for (let i = 0; i < octaves && i < 32; i++) {
    N[0] = x
    N[1] = y
    noise2At()
    sum += amplitude * N[3]!
    amplitude *= diminish
    x *= lacunarity
    y *= lacunarity
  }
  return sum
}

/**
 * Sum of octaves of {@link noise3}; each next has `lacunarity` times the frequency and `diminish` times the
 * height.
 */
export function fractal3(
  x: number,
  y: number,
  z: number,
  octaves: number,
  lacunarity: number,
  diminish: number,
): number {
  let sum = 0
  let amplitude = 1
  for (let i = 0; i < octaves && i < 32; i++) {
    N[0] = x
    N[1] = y
    N[2] = z
    noise3At()
    sum += amplitude * N[3]!
    amplitude *= diminish
    x *= lacunarity
    y *= lacunarity
    z *= lacunarity
  }
  return sum
}

/** {@link fractal3} of three components, into `memory.result`. */
export function fractal3v(
  x: number,
  y: number,
  z: number,
  octaves: number,
  lacunarity: number,
  diminish: number,
): void {
  let r = 0
  let g = 0
  let b = 0
  let amplitude = 1
  for (let i = 0; i < octaves && i < 32; i++) {
    noise3v(x, y, z)
    r += amplitude * result[0]!
    g += amplitude * result[1]!
    b += amplitude * result[2]!
    amplitude *= diminish
    x *= lacunarity
    y *= lacunarity
    z *= lacunarity
  }
  result[0] = r
  result[1] = g
  result[2] = b
}

/** {@link fractal2} of three components, into `memory.result`. */
export function fractal2v(x: number, y: number, octaves: number, lacunarity: number, diminish: number): void {
  let r = 0
  let g = 0
  let b = 0
  let amplitude = 1
  for (let i = 0; i < octaves && i < 32; i++) {
    noise2v(x, y)
    r += amplitude * result[0]!
    g += amplitude * result[1]!
    b += amplitude * result[2]!
    amplitude *= diminish
    x *= lacunarity
    y *= lacunarity
  }
  result[0] = r
  result[1] = g
  result[2] = b
}
