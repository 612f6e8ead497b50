/**
 * Skies of ISO 15469:2004 (CIE S 011): relative luminance of a sky element by its zenith angle Z and its angle χ
 * from the sun, L/Lz = f(χ)·φ(Z) / (f(Zs)·φ(0)), with φ(Z) = 1 + a·exp(b/cos Z) and f(χ) = 1 + c·(exp(dχ)
 * − exp(dπ/2)) + e·cos² χ.
 */
import { colourOfTemperature } from '../colour/temperature'
import type { Rig } from '../scene/rig'

/** Standard parameters a, b, c, d, e of the fifteen types (ISO 15469, table 1). */
const PARAMETERS: readonly (readonly [number, number, number, number, number])[] = [
  [4, -0.7, 0, -1, 0],
  [4, -0.7, 2, -1.5, 0.15],
  [1.1, -0.8, 0, -1, 0],
  [1.1, -0.8, 2, -1.5, 0.15],
  [0, -1, 0, -1, 0],
  [0, -1, 2, -1.5, 0.15],
  [0, -1, 5, -2.5, 0.3],
  [0, -1, 10, -3, 0.45],
  [-1, -0.55, 2, -1.5, 0.15],
  [-1, -0.55, 5, -2.5, 0.3],
  [-1, -0.55, 10, -3, 0.45],
  [-1, -0.32, 10, -3, 0.45],
  [-1, -0.32, 16, -3, 0.3],
  [-1, -0.15, 16, -3, 0.3],
  [-1, -0.15, 24, -2.8, 0.15],
]
/** What each type is, in the words of the standard, shortened. */
export const SKY_TYPES: readonly string[] = [
  'overcast, steep, same all round',
  'overcast, steep, brighter at the sun',
  'overcast, moderate, same all round',
  'overcast, moderate, brighter at the sun',
  'uniform',
  'partly cloudy, brighter at the sun',
  'partly cloudy, ring about the sun',
  'partly cloudy, bright about the sun',
  'partly cloudy, sun obscured',
  'partly cloudy, circumsolar',
  'white-blue, bright about the sun',
  'clear, low turbidity',
  'clear, polluted',
  'cloudless turbid, broadly bright about the sun',
  'white-blue turbid, broadly bright about the sun',
]

/**
 * Luminance relative to the zenith's, of a sky of a type (1–15) with the sun at a zenith angle of given cosine.
 * @returns function of the cosine of the element's zenith angle, above 0, and that of the angle between element
 * and sun
 */
export function skyOfType(type: number, cosSun: number): (cosZ: number, cosChi: number) => number {
  const [a, b, c, d, e] = PARAMETERS[type - 1]!
  const away = Math.exp((d * Math.PI) / 2)
  const phi = (cos: number) => 1 + a * Math.exp(b / Math.max(cos, 0.01))
  const f = (cos: number) =>
    1 + c * (Math.exp(d * Math.acos(Math.min(1, Math.max(-1, cos)))) - away) + e * cos * cos
  const zenith = f(cosSun) * phi(1)
  return (cosZ, cosChi) => (f(cosChi) * phi(cosZ)) / zenith
}

/** Width of the picture that {@link skyPicture} makes; half as high. */
const WIDTH = 512

/**
 * A sky as an environment picture, linear RGBA: u = ½ looks along −z, the sun over −z turned by its azimuth.
 * Below the horizon a ground of `ground` times what the sky gives a level plane.
 * @param elevation of the sun, degrees; azimuth degrees about the vertical
 * @param colour of the sky, largest component 1; scaled so that a level plane gets the irradiance of a uniform sky
 * of 1
 */
export function skyPicture(
  type: number,
  elevation: number,
  azimuth: number,
  colour: readonly number[],
  ground: number,
): { width: number; height: number; data: Float32Array } {
  const width = WIDTH
  const height = WIDTH / 2
  const data = new Float32Array(width * height * 4)
  const up = Math.sin((elevation * Math.PI) / 180)
  const level = Math.cos((elevation * Math.PI) / 180)
  const turn = (azimuth * Math.PI) / 180
  const sx = level * Math.sin(turn)
  const sz = -level * Math.cos(turn)
  const luminance = skyOfType(type, Math.max(0, up))
  let irradiance = 0
  const L = new Float32Array((width * height) / 2)
  for (let y = 0; y < height / 2; y++) {
    const t = (Math.PI * (y + 0.5)) / height
    const cosZ = Math.cos(t)
    const sinZ = Math.sin(t)
    for (let x = 0; x < width; x++) {
      const p = (2 * Math.PI * (x + 0.5)) / width - Math.PI
      const dx = sinZ * Math.sin(p)
      const dz = -sinZ * Math.cos(p)
      const l = luminance(cosZ, dx * sx + cosZ * up + dz * sz)
      L[y * width + x] = l
      irradiance += l * cosZ * sinZ * (Math.PI / height) * ((2 * Math.PI) / width)
    }
  }
  const k = Math.PI / irradiance
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = (y * width + x) * 4
      const l = y < height / 2 ? L[y * width + x]! * k : ground
      for (let c = 0; c < 3; c++) data[i + c] = l * (y < height / 2 ? colour[c]! : 1)
      data[i + 3] = 1
    }
  return { width, height, data }
}

type Sky = Extract<Rig['environment'], { kind: 'sky' }>
/** Distance at which suns are put down, metres: they stand for directions, so any will do. */
export const SUN_AT = 1
/** Half angle of the sun's disc: 0.533° across in the mean (Cox 2000, "Allen's Astrophysical Quantities"). */
export const SUN_HALF = (0.2665 * Math.PI) / 180

/** The sun of a sky. Its colour: 5800 K, reddened by nothing. */
export function sunPanel(sky: Sky): Rig['panels'][number] {
  const e = (sky.elevation * Math.PI) / 180
  const a = (sky.azimuth * Math.PI) / 180
  const to = [Math.cos(e) * Math.sin(a), Math.sin(e), -Math.cos(e) * Math.cos(a)]
  const r = SUN_AT * Math.tan(SUN_HALF)
  const u = [Math.cos(a), 0, Math.sin(a)]
  const v = [to[1]! * u[2]! - to[2]! * u[1]!, to[2]! * u[0]! - to[0]! * u[2]!, to[0]! * u[1]! - to[1]! * u[0]!]
  const L = sky.sun / Math.sin(SUN_HALF) ** 2
  const scaled = (x: readonly number[], by: number) => x.map(c => c * by) as [number, number, number]
  // u × v must point back to the scene
  return {
    name: 'sun',
    centre: scaled(to, SUN_AT),
    u: scaled(v, r),
    v: scaled(u, r),
    radiance: scaled(colourOfTemperature(5800), L),
    visible: true,
    shape: 'sun',
  }
}

const skies = new Map<string, ReturnType<typeof skyPicture>>()
/** Picture of a sky; those asked for last are kept, as a rig is prepared anew with every change. */
export function skyOf(s: Sky): ReturnType<typeof skyPicture> {
  const key = JSON.stringify([s.type, s.elevation, s.azimuth, s.temperature, s.ground])
  const known = skies.get(key)
  if (known) return known
  if (skies.size > 8) skies.delete(skies.keys().next().value!)
  const made = skyPicture(s.type, s.elevation, s.azimuth, colourOfTemperature(s.temperature), s.ground)
  skies.set(key, made)
  return made
}
