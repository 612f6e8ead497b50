/** The lights of a rig in flat arrays, with the tables by which its environment picture is drawn from. */
import { luminanceAt } from '../colour/luminance'
import { colourOfTemperature } from '../colour/temperature'
import type { Emitters } from './emitters'
import { turned } from './turned'
import type { Rig } from './rig'
import { skyPicture } from './sky'

/** Words of a panel in {@link Lights.panels}. */
export const PANEL = {
  centre: 0,
  u: 3,
  v: 6,
  normal: 9,
  area: 12,
  radiance: 13,
  visible: 16,
  power: 17,
  uu: 18,
  vv: 19,
  disc: 20,
  soft: 21,
  blocks: 22,
  ball: 23,
  coneScale: 24,
  coneOffset: 25,
  stride: 26,
} as const

/**
 * Lights of a rig in flat arrays, ready for the render loop. Plain data; large tables may lie in shared memory.
 */
export interface Lights {
  panels: Float64Array
  panelCount: number
  /** How many of the panels are blockers. */
  blockers: number
  /** Radiance of a uniform environment; scale of a picture. */
  environment: [number, number, number]
  /** Environment picture, RGB float, row 0 at the top; null for uniform. */
  map: {
    /** The same for lights of one picture, wherever they were prepared. */ id: number
    width: number
    height: number
    rgb: Float32Array
    /** Cumulative rows, then cumulative columns of each row. */ rows: Float32Array
    columns: Float32Array
    /** Mean of luminance · sin θ. */ mean: number
  } | null
  /** Cosine and sine of the environment picture's turn. */
  cos: number
  sin: number
  /** What the camera sees; null for the environment itself. */
  backdrop: [number, number, number] | null
  /** Estimated irradiance that a picture gives, for choosing between it and panels. */
  mapPower: number
  /** Triangles of the model that shine; found by each thread itself, null until then and where there are none. */
  emitters: Emitters | null
  /** Share of each light that each part sees, see `visibility.ts`; null for all of it. */
  visible: Float64Array | null
  /**
   * How light is gathered: drawn lights and drawn directions joined, or one of them alone where both could find
   * it. Anything but `both` is for measuring what it costs to do without.
   */
  gather: 'both' | 'lights' | 'directions'
}

/** Lights that can be told apart in a picture: its panels, then these two. */
export const lightCount = (lights: Lights): number => lights.panelCount + 2
/** Their names, in order. */
export const lightNames = (rig: Rig): string[] => [...panelsOf(rig).map(p => p.name), 'environment', 'emission']
/** Panels of a rig, and the sun of its sky. */
const panelsOf = ({ panels, environment: e }: Rig): Rig['panels'] =>
  e.kind === 'sky' && e.sun > 0 && e.elevation > 0 ? [...panels, sunPanel(e)] : panels
export const environmentLight = (lights: Lights): number => lights.panelCount
export const emissionLight = (lights: Lights): number => lights.panelCount + 1

/**
 * Factors, three a light, that turn a picture under one set of lights into the picture under another.
 * @returns null where they differ in more than how bright and of what colour they are, or where a dark light is to
 * shine: then it must be rendered
 */
export function factorsBetween(from: Lights, to: Lights): number[] | null {
  const { panels, panelCount } = from
  const colour = new Set([PANEL.radiance, PANEL.radiance + 1, PANEL.radiance + 2, PANEL.power] as number[])
  if (
    panelCount !== to.panelCount ||
    from.map?.id !== to.map?.id ||
    from.cos !== to.cos ||
    from.sin !== to.sin ||
    String(from.backdrop) !== String(to.backdrop)
  )
    return null
  if (panels.some((x, i) => !colour.has(i % PANEL.stride) && x !== to.panels[i])) return null
  const pairs = [
    ...Array.from(
      { length: panelCount * 3 },
      (_, i) => Math.floor(i / 3) * PANEL.stride + PANEL.radiance + (i % 3),
    ).map(w => [panels[w]!, to.panels[w]!] as const),
    ...from.environment.map((x, k) => [x, to.environment[k]!] as const),
  ]
  if (pairs.some(([a, b]) => a === 0 && b !== 0)) return null
  return [...pairs.map(([a, b]) => (a === 0 ? 1 : b / a)), 1, 1, 1]
}

/** Whether factors dim without tinting: then the mixed picture is exact. */
export const areGrey = (factors: readonly number[]): boolean =>
  factors.every((x, i) => Math.abs(x - factors[i - (i % 3)]!) <= 1e-6 * x)

/**
 * Prepares a rig.
 * @param picture linear RGBA floats of the environment image, if the rig has one
 */
export function createLights(
  rig: Rig,
  picture: { width: number; height: number; data: Float32Array } | null,
  allocate: (bytes: number) => ArrayBufferLike = n => new ArrayBuffer(n),
): Lights {
  const turn = (v: readonly number[]) => turned(v, rig.turn)
  const d = rig.dim
  const all = panelsOf(rig)
  const environment = rig.environment
  const panels = new Float64Array(all.length * PANEL.stride)
  all.forEach((p, i) => {
    const o = i * PANEL.stride
    const u = turn(p.u)
    const v = turn(p.v)
    const ball = p.shape === 'ball'
    const disc = p.shape === 'disc'
    const [scale, offset] = ball ? coneOf(p.cone) : [0, 1]
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]]
    const l = Math.hypot(...n)
    const rgb = p.radiance.map(x => (p.blocks ? 0 : x * d))
    panels.set(
      [
        ...turn(p.centre),
        ...u,
        ...v,
        ...n.map(x => x / (l || 1)),
        ball ? Math.PI * (u[0] * u[0] + u[1] * u[1] + u[2] * u[2]) : (disc ? Math.PI : 4) * l,
        ...rgb,
        p.visible ? 1 : 0,
        luminanceAt(rgb, 0),
        u[0] * u[0] + u[1] * u[1] + u[2] * u[2],
        v[0] * v[0] + v[1] * v[1] + v[2] * v[2],
        disc ? 1 : 0,
        ball ? 0 : (p.soft ?? 0),
        p.blocks ? 1 : 0,
        ball ? 1 : 0,
        scale,
        offset,
      ],
      o,
    )
  })
  const scale = (
    environment.kind === 'uniform'
      ? environment.radiance
      : [environment.scale, environment.scale, environment.scale]
  ).map(x => x * d)
  const image = environment.kind === 'sky' ? skyOf(environment) : environment.kind === 'image' ? picture : null
  let map = image ? (maps.get(image) ?? null) : null
  if (image && !map) maps.set(image, (map = createMap(image, allocate)!))
  const shift =
    (rig.turn * Math.PI) / 180 + ((environment.kind === 'image' ? environment.turn : 0) * Math.PI) / 180
  return {
    panels,
    panelCount: all.length,
    blockers: all.filter(p => p.blocks).length,
    environment: scale as [number, number, number],
    map,
    cos: Math.cos(shift),
    sin: Math.sin(shift),
    backdrop: rig.backdrop ?? null,
    emitters: null,
    visible: null,
    gather: 'both',
    mapPower: map ? ((Math.PI * Math.PI) / 2) * map.mean * scale[0]! * 2 : 0,
  }
}

/**
 * Factors of the fall between the angles of a ball's cone (KHR_lights_punctual, "Inner and Outer Cone Angles"):
 * (cos θ · scale + offset)², within 0..1.
 */
function coneOf(cone: readonly [number, number] | undefined): [scale: number, offset: number] {
  if (!cone || cone[0] >= 180) return [0, 1]
  const inner = Math.cos((cone[0] * Math.PI) / 180)
  const outer = Math.cos((Math.max(cone[0], cone[1]) * Math.PI) / 180)
  const scale = 1 / Math.max(0.001, inner - outer)
  return [scale, -outer * scale]
}

type Sky = Extract<Rig['environment'], { kind: 'sky' }>
/**
 * Distance of the sun and other discs that stand for a direction, metres: far from anything that is lit, near
 * enough for double precision.
 */
export const SUN_AT = 2000
/** Half angle of the sun's disc: 0.533° across in the mean (Cox 2000, "Allen's Astrophysical Quantities"). */
export const SUN_HALF = (0.2665 * Math.PI) / 180

/** The sun of a sky as a far disc. Its colour: 5800 K, reddened by nothing. */
function sunPanel(sky: Sky): Rig['panels'][number] {
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
    shape: 'disc',
  }
}

const skies = new Map<string, ReturnType<typeof skyPicture>>()
/** Picture of a sky; those asked for last are kept, as a rig is prepared anew with every change. */
function skyOf(s: Sky): ReturnType<typeof skyPicture> {
  const key = JSON.stringify([s.type, s.elevation, s.azimuth, s.temperature, s.ground])
  const known = skies.get(key)
  if (known) return known
  if (skies.size > 8) skies.delete(skies.keys().next().value!)
  const made = skyPicture(s.type, s.elevation, s.azimuth, colourOfTemperature(s.temperature), s.ground)
  skies.set(key, made)
  return made
}

/** Radiance from which on a pixel is taken for a fault. */
const BRIGHTEST = 1e9

/**
 * How many pixels of an environment picture carry no light because a component is negative, infinite or no number.
 */
export function faultyPixels({ data }: { data: ArrayLike<number> }): number {
  let n = 0
  for (let i = 0; i < data.length; i += 4)
    if (!(
      data[i]! >= 0 &&
      data[i + 1]! >= 0 &&
      data[i + 2]! >= 0 &&
      data[i]! < BRIGHTEST &&
      data[i + 1]! < BRIGHTEST &&
      data[i + 2]! < BRIGHTEST
    ))
      n++
  return n
}

/** Tables by the picture they were made of: a rig is changed often, its picture seldom. */
const maps = new WeakMap<object, NonNullable<Lights['map']>>()

let made = 0

function createMap(
  picture: { width: number; height: number; data: Float32Array },
  allocate: (bytes: number) => ArrayBufferLike,
): Lights['map'] {
  const { width, height, data } = picture
  const rgb = new Float32Array(allocate(width * height * 12))
  const rows = new Float32Array(allocate((height + 1) * 4))
  const columns = new Float32Array(allocate(height * (width + 1) * 4))
  let total = 0
  for (let y = 0; y < height; y++) {
    const sinTheta = Math.sin((Math.PI * (y + 0.5)) / height)
    let row = 0
    for (let x = 0; x < width; x++) {
      const i = y * width + x
      // negative and non-finite pixels carry no light
      for (let k = 0; k < 3; k++) {
        const c = data[i * 4 + k]!
        rgb[i * 3 + k] = c > 0 && c < BRIGHTEST ? c : 0
      }
      row += luminanceAt(rgb, i * 3) * sinTheta
      columns[y * (width + 1) + x + 1] = row
    }
    for (let x = 1; x <= width; x++)
      columns[y * (width + 1) + x] = row > 0 ? columns[y * (width + 1) + x]! / row : x / width
    total += row
    rows[y + 1] = total
  }
  for (let y = 1; y <= height; y++) rows[y] = total > 0 ? rows[y]! / total : y / height
  return { id: made++, width, height, rgb, rows, columns, mean: total / (width * height) }
}
