/** The lights of a rig in flat arrays, with the tables by which its environment picture is drawn from. */
import { luminanceAt } from '../colour/luminance'
import type { Emitters } from './emitters'
import type { Rig } from './rig'

/** Words of a panel in {@link Lights.panels}. */
export const PANEL = { centre: 0, u: 3, v: 6, normal: 9, area: 12, radiance: 13, visible: 16, power: 17, uu: 18, vv: 19, stride: 20 } as const

/** Lights of a rig in flat arrays, ready for the render loop. Plain data; large tables may lie in shared memory. */
export interface Lights {
  panels: Float64Array
  panelCount: number
  /** Radiance of a uniform environment; scale of a picture. */
  environment: [number, number, number]
  /** Environment picture, RGB float, row 0 at the top; null for uniform. */
  map: { width: number, height: number, rgb: Float32Array, /** Cumulative rows, then cumulative columns of each row. */ rows: Float32Array, columns: Float32Array, /** Mean of luminance · sin θ. */ mean: number } | null
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
  /** How light is gathered: drawn lights and drawn directions joined, or one of them alone where both could find it. Anything but `both` is for measuring what it costs to do without. */
  gather: 'both' | 'lights' | 'directions'
}

/** Lights that can be told apart in a picture: its panels, then these two. */
export const lightCount = (lights: Lights): number => lights.panelCount + 2
/** Their names, in order. */
export const lightNames = (rig: Rig): string[] => [...rig.panels.map(p => p.name), 'environment', 'emission']
export const environmentLight = (lights: Lights): number => lights.panelCount
export const emissionLight = (lights: Lights): number => lights.panelCount + 1

/**
 * Factors, three a light, that turn a picture under one set of lights into the picture under another.
 * @returns null where they differ in more than how bright and of what colour they are, or where a dark light is to shine: then it must be rendered
 */
export function factorsBetween(from: Lights, to: Lights): number[] | null {
  const { panels, panelCount } = from, colour = new Set([PANEL.radiance, PANEL.radiance + 1, PANEL.radiance + 2, PANEL.power] as number[])
  if (panelCount !== to.panelCount || from.map !== to.map || from.cos !== to.cos || from.sin !== to.sin || String(from.backdrop) !== String(to.backdrop)) return null
  if (panels.some((x, i) => !colour.has(i % PANEL.stride) && x !== to.panels[i])) return null
  const pairs = [...Array.from({ length: panelCount * 3 }, (_, i) => Math.floor(i / 3) * PANEL.stride + PANEL.radiance + i % 3).map(w => [panels[w]!, to.panels[w]!] as const), ...from.environment.map((x, k) => [x, to.environment[k]!] as const)]
  if (pairs.some(([a, b]) => a === 0 && b !== 0)) return null
  return [...pairs.map(([a, b]) => a === 0 ? 1 : b / a), 1, 1, 1]
}

/** Whether factors dim without tinting: then the mixed picture is exact. */
export const areGrey = (factors: readonly number[]): boolean => factors.every((x, i) => Math.abs(x - factors[i - i % 3]!) <= 1e-6 * x)

/**
 * Prepares a rig.
 * @param picture linear RGBA floats of the environment image, if the rig has one
 */
export function createLights(rig: Rig, picture: { width: number, height: number, data: Float32Array } | null, allocate: (bytes: number) => ArrayBufferLike = n => new ArrayBuffer(n)): Lights {
  const angle = rig.turn * Math.PI / 180, cos = Math.cos(angle), sin = Math.sin(angle), d = rig.dim
  const turned = ([x, y, z]: readonly number[]): [number, number, number] => [cos * x! + sin * z!, y!, -sin * x! + cos * z!]
  const panels = new Float64Array(rig.panels.length * PANEL.stride)
  rig.panels.forEach((p, i) => {
    const o = i * PANEL.stride, u = turned(p.u), v = turned(p.v)
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]], l = Math.hypot(...n)
    const rgb = p.radiance.map(x => x * d)
    panels.set([...turned(p.centre), ...u, ...v, ...n.map(x => x / (l || 1)), 4 * l, ...rgb, p.visible ? 1 : 0, luminanceAt(rgb, 0),
      u[0] * u[0] + u[1] * u[1] + u[2] * u[2], v[0] * v[0] + v[1] * v[1] + v[2] * v[2]], o)
  })
  const uniform = rig.environment.kind === 'uniform'
  const scale = rig.environment.kind === 'uniform' ? rig.environment.radiance.map(x => x * d) : [0, 1, 2].map(() => (rig.environment as { scale: number }).scale * d)
  let map = picture && !uniform ? maps.get(picture) ?? null : null
  if (picture && !uniform && !map) maps.set(picture, map = createMap(picture, allocate)!)
  const shift = angle + (rig.environment.kind === 'image' ? rig.environment.turn : 0) * Math.PI / 180
  return { panels, panelCount: rig.panels.length, environment: scale as [number, number, number], map, cos: Math.cos(shift), sin: Math.sin(shift), backdrop: rig.backdrop ?? null, emitters: null, visible: null, gather: 'both', mapPower: map ? Math.PI * Math.PI / 2 * map.mean * scale[0]! * 2 : 0 }
}

/** Tables by the picture they were made of: a rig is changed often, its picture seldom. */
const maps = new WeakMap<object, NonNullable<Lights['map']>>()

function createMap(picture: { width: number, height: number, data: Float32Array }, allocate: (bytes: number) => ArrayBufferLike): Lights['map'] {
  const { width, height, data } = picture
  const rgb = new Float32Array(allocate(width * height * 12)), rows = new Float32Array(allocate((height + 1) * 4)), columns = new Float32Array(allocate(height * (width + 1) * 4))
  let total = 0
  for (let y = 0; y < height; y++) {
    const sinTheta = Math.sin(Math.PI * (y + 0.5) / height)
    let row = 0
    for (let x = 0; x < width; x++) {
      const i = y * width + x
      // negative and non-finite pixels carry no light
      for (let k = 0; k < 3; k++) { const c = data[i * 4 + k]!; rgb[i * 3 + k] = c > 0 && c < 1e9 ? c : 0 }
      row += luminanceAt(rgb, i * 3) * sinTheta
      columns[y * (width + 1) + x + 1] = row
    }
    for (let x = 1; x <= width; x++) columns[y * (width + 1) + x] = row > 0 ? columns[y * (width + 1) + x]! / row : x / width
    total += row
    rows[y + 1] = total
  }
  for (let y = 1; y <= height; y++) rows[y] = total > 0 ? rows[y]! / total : y / height
  return { width, height, rgb, rows, columns, mean: total / (width * height) }
}
