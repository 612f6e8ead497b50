/**
 * Light sampling: panels by area, balls by the cone that they fill (Pharr, Jakob & Humphreys, "Physically Based
 * Rendering", "Sampling Light Sources"), an environment picture by its luminance.
 *
 * At each point one light is drawn in proportion to a quick estimate of what it gives there unshadowed. A uniform
 * environment is not drawn: sampling the surface finds it with no more noise than sampling the whole sphere would.
 * Pictures are importance-sampled by rows and columns
 * (Pharr, Jakob & Humphreys, "Physically Based Rendering", piecewise-constant 2D distributions) and meet surface
 * sampling by the balance heuristic. Shining parts are one light here; which triangle is `sample-emitters.ts`'
 * business, and what it sends out is found where the shadow ray arrives.
 */
import { CIRCLE, onCircle } from '../surface/circle'
import { orthonormal } from '../surface/orthonormal'
import { memory } from '../surface/memory'
import { POINT } from '../network/shading-point'
import type { Geometry } from '../scene/geometry'
import { emissionLight, lightCount, PANEL, type Lights } from './lights'
import { drawnEmitter, emittersWeight, sampleEmitters } from './sample-emitters'

const { basis, value } = memory

/** Result of {@link sampleLight} and {@link environmentRadiance}. */
export const lit = {
  x: 0.5,
  y: 0.5,
  z: 0.5,
  distance: 0.5,
  pdf: 0.5,
  r: 0.5,
  g: 0.5,
  b: 0.5,
  /** Sum of the last {@link weighLights}, or that of the point a density is asked for. */ sum: 0.5,
  /** Factor on lights that the part of the last {@link weighLights} does not see. */ unseen: 0.5,
  /** Factor for {@link addLight}. */ weight: 0.5,
  /** Number of the light drawn: a panel, or the number of panels for the environment. */ light: 0,
}
/** Quick estimates of the last {@link weighLights}. */
const weights = new Float64Array(20)
const SCRATCH = 19

/** Part of the draws that go to lights which a part was never seen to see, however bright they are. */
const UNSEEN = 0.04

/**
 * Estimates what each light gives at the point S[0…2]; their sum goes to `lit.sum`, and the factor on lights that
 * its part does not see to `lit.unseen`.
 */
export function weighLights(lights: Lights, S: Float64Array): void {
  const part = S[POINT.part]!
  const last = emissionLight(lights)
  const table = lights.visible
  let sum = lights.mapPower
  let unseen = 0
  weights[lights.panelCount] = lights.mapPower
  for (let i = 0; i <= last; i++) {
    if (i === lights.panelCount) continue
    if (i < last) panelWeight(lights, i, S, 0)
    else weights[SCRATCH] = lights.emitters === null ? 0 : emittersWeight(lights.emitters, S, 0)
    const share = table === null ? 1 : table[part * lightCount(lights) + i]!
    const w = weights[SCRATCH]!
    weights[i] = share > 0 ? w * share : -w
    if (share > 0) sum += w * share
    else unseen += w
  }
  lit.unseen = unseen === 0 ? 0 : sum > 0 ? Math.min(1, (UNSEEN * sum) / unseen) : 1
  if (unseen > 0) for (let i = 0; i <= last; i++) if (weights[i]! < 0) weights[i]! *= -lit.unseen
  lit.sum = lights.gather === 'directions' ? 0 : sum + unseen * lit.unseen
}

/** Factor on a light's estimate at a point of a part, given `lit.unseen` of that point. */
export function visibility(lights: Lights, light: number, part: number): number {
  const share = lights.visible === null ? 1 : lights.visible[part * lightCount(lights) + light]!
  return share > 0 ? share : lit.unseen
}

/** Estimate for one panel at the point that begins at `at`, into weights[SCRATCH]. */
function panelWeight(lights: Lights, i: number, point: Float64Array, at: number): void {
  const p = lights.panels
  const o = i * PANEL.stride
  const dx = p[o]! - point[at]!
  const dy = p[o + 1]! - point[at + 1]!
  const dz = p[o + 2]! - point[at + 2]!
  const d2 = dx * dx + dy * dy + dz * dz
  const area = p[o + 12]!
  if (p[o + PANEL.ball] === 1) {
    weights[SCRATCH] = d2 > p[o + 18]! ? (p[o + 17]! * area * coneFall(p, o, dx, dy, dz, d2)) / d2 : 0
    return
  }
  const facing = -(dx * p[o + 9]! + dy * p[o + 10]! + dz * p[o + 11]!)
  weights[SCRATCH] = facing <= 0 ? 0 : (p[o + 17]! * area * Math.max(facing / Math.sqrt(d2), 0.05)) / (d2 + area)
}

/**
 * Draws a direction to a light from the point that {@link weighLights} saw last.
 * @returns false when there is none to draw
 * @param u three numbers in [0, 1); the first is used up
 */
export function sampleLight(lights: Lights, geometry: Geometry, S: Float64Array, u: Float64Array): boolean {
  const sum = lit.sum
  const u0 = u[0]!
  const u1 = u[1]!
  const u2 = u[2]!
  const px = S[0]!
  const py = S[1]!
  const pz = S[2]!
  if (!(sum > 0)) return false
  let pick = u0 * sum
  let i = 0
  const last = emissionLight(lights)
  while (i < last && (pick >= weights[i]! || weights[i] === 0)) pick -= weights[i++]!
  lit.light = i
  if (i === lights.panelCount) return lights.map !== null && sampleMap(lights, u)
  if (i === last) {
    if (lights.emitters === null) return false
    u[0] = Math.min(1 - 2 ** -53, pick / weights[i]!)
    if (!sampleEmitters(lights.emitters, geometry, S, u)) return false
    lit.x = drawnEmitter.x
    lit.y = drawnEmitter.y
    lit.z = drawnEmitter.z
    lit.distance = drawnEmitter.distance
    lit.pdf = (weights[i]! / sum) * drawnEmitter.pdf
    return true
  }
  const p = lights.panels
  const o = i * PANEL.stride
  if (p[o + PANEL.ball] === 1) return sampleBall(p, o, weights[i]! / sum, S, u1, u2)
  let a = 2 * u1 - 1
  let b = 2 * u2 - 1
  if (p[o + PANEL.disc] === 1) {
    const r = Math.sqrt(u1)
    onCircle(u2)
    a = r * CIRCLE[0]!
    b = r * CIRCLE[1]!
  }
  const dx = p[o]! + a * p[o + 3]! + b * p[o + 6]! - px
  const dy = p[o + 1]! + a * p[o + 4]! + b * p[o + 7]! - py
  const dz = p[o + 2]! + a * p[o + 5]! + b * p[o + 8]! - pz
  const d2 = dx * dx + dy * dy + dz * dz
  const d = Math.sqrt(d2)
  const cos = -(dx * p[o + 9]! + dy * p[o + 10]! + dz * p[o + 11]!) / d
  if (!(cos > 1e-9)) return false
  lit.x = dx / d
  lit.y = dy / d
  lit.z = dz / d
  lit.distance = d
  lit.pdf = ((weights[i]! / sum) * d2) / (cos * p[o + 12]!)
  const f = p[o + PANEL.soft]! > 0 ? fade(p, o, a, b) : 1
  lit.r = p[o + 13]! * f
  lit.g = p[o + 14]! * f
  lit.b = p[o + 15]! * f
  return true
}

/** How much of a ball's light goes to a point; (dx, dy, dz) leads from there to its centre. */
function coneFall(p: Float64Array, o: number, dx: number, dy: number, dz: number, d2: number): number {
  if (p[o + PANEL.coneScale] === 0) return 1
  const t =
    (-(dx * p[o + 9]! + dy * p[o + 10]! + dz * p[o + 11]!) / Math.sqrt(d2)) * p[o + PANEL.coneScale]! +
    p[o + PANEL.coneOffset]!
  const f = t < 0 ? 0 : t > 1 ? 1 : t
  return f * f
}

/**
 * 1 − cosine of the half angle that a ball of squared radius r2 fills at the squared distance d2; written so that
 * small balls keep their digits.
 */
const coneSize = (r2: number, d2: number): number => {
  const s2 = r2 / d2
  return s2 / (1 + Math.sqrt(1 - s2))
}

/** Draws a direction within the cone that a ball fills. @param share with which the ball was picked */
function sampleBall(p: Float64Array, o: number, share: number, S: Float64Array, u1: number, u2: number): boolean {
  const dx = p[o]! - S[0]!
  const dy = p[o + 1]! - S[1]!
  const dz = p[o + 2]! - S[2]!
  const d2 = dx * dx + dy * dy + dz * dz
  const r2 = p[o + 18]!
  if (!(d2 > r2)) return false
  const size = coneSize(r2, d2)
  const d = Math.sqrt(d2)
  const cos = 1 - u1 * size
  const sin = Math.sqrt(Math.max(0, 1 - cos * cos))
  onCircle(u2)
  orthonormal(across, dx / d, dy / d, dz / d)
  const a = sin * CIRCLE[0]!
  const b = sin * CIRCLE[1]!
  lit.x = (cos * dx) / d + a * across[0]! + b * across[3]!
  lit.y = (cos * dy) / d + a * across[1]! + b * across[4]!
  lit.z = (cos * dz) / d + a * across[2]! + b * across[5]!
  lit.distance = d * cos - Math.sqrt(Math.max(0, r2 - d2 * sin * sin))
  lit.pdf = share / (2 * Math.PI * size)
  const f = coneFall(p, o, dx, dy, dz, d2)
  lit.r = p[o + 13]! * f
  lit.g = p[o + 14]! * f
  lit.b = p[o + 15]! * f
  return true
}
const across = new Float64Array(6)

/** How much of a panel's light is left at (a, b) of its half edges, where its edge is soft. */
function fade(p: Float64Array, o: number, a: number, b: number): number {
  const inside = p[o + PANEL.disc] === 1 ? 1 - Math.sqrt(a * a + b * b) : 1 - Math.max(Math.abs(a), Math.abs(b))
  const t = Math.min(1, Math.max(0, inside / p[o + PANEL.soft]!))
  return t * t * (3 - 2 * t)
}

/** Radiance of the panel that {@link hitPanel} found last, into {@link lit}. */
export function panelRadiance(lights: Lights, i: number): void {
  const p = lights.panels
  const o = i * PANEL.stride
  const f = p[o + PANEL.ball] === 1 ? met[0]! : p[o + PANEL.soft]! > 0 ? fade(p, o, met[0]!, met[1]!) : 1
  lit.r = p[o + 13]! * f
  lit.g = p[o + 14]! * f
  lit.b = p[o + 15]! * f
}

/** Where {@link hitPanel} met its panel, in half edges; of a ball, what its cone leaves. */
const met = new Float64Array(2)

/** Whether a blocker stands in the way of a shadow ray. */
export function isBlocked(
  lights: Lights,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  distance: number,
): boolean {
  const kept = lit.distance
  lit.distance = distance
  const found = hitPanel(lights, origin, direction, at, false, true) >= 0
  lit.distance = kept
  return found
}

/**
 * Density with which {@link sampleLight} would have drawn the direction that hits panel i at `lit.distance`, given
 * `lit.sum` of the ray's origin on a part, into `lit.pdf`.
 */
export function panelDensity(
  lights: Lights,
  i: number,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  part: number,
): void {
  const p = lights.panels
  const o = i * PANEL.stride
  const distance = lit.distance
  const cos = -(direction[at]! * p[o + 9]! + direction[at + 1]! * p[o + 10]! + direction[at + 2]! * p[o + 11]!)
  panelWeight(lights, i, origin, at)
  if (p[o + PANEL.ball] === 1) {
    const d2 = (p[o]! - origin[at]!) ** 2 + (p[o + 1]! - origin[at + 1]!) ** 2 + (p[o + 2]! - origin[at + 2]!) ** 2
    lit.pdf =
      lit.sum > 0 && d2 > p[o + 18]!
        ? (weights[SCRATCH]! * visibility(lights, i, part)) / lit.sum / (2 * Math.PI * coneSize(p[o + 18]!, d2))
        : 0
    return
  }
  lit.pdf =
    lit.sum > 0
      ? (((weights[SCRATCH]! * visibility(lights, i, part)) / lit.sum) * distance * distance) / (cos * p[o + 12]!)
      : 0
}

/**
 * Finds the nearest panel that a ray meets on its shining side before `lit.distance`.
 * @param camera whether the camera looks, which sees only some
 * @param blockers looks for blockers alone
 * @returns its number, or −1; `lit.distance` is then the distance
 */
export function hitPanel(
  lights: Lights,
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  camera: boolean,
  blockers = false,
): number {
  const p = lights.panels
  const ox = origin[at]!
  const oy = origin[at + 1]!
  const oz = origin[at + 2]!
  const dx = direction[at]!
  const dy = direction[at + 1]!
  const dz = direction[at + 2]!
  let far = lit.distance
  let found = -1
  for (let i = 0, o = 0; i < lights.panelCount; i++, o += PANEL.stride) {
    if (p[o + PANEL.ball] === 1) {
      if ((camera && p[o + 16] === 0) || (blockers && p[o + PANEL.blocks] === 0)) continue
      const cx = p[o]! - ox
      const cy = p[o + 1]! - oy
      const cz = p[o + 2]! - oz
      const d2 = cx * cx + cy * cy + cz * cz
      const along = cx * dx + cy * dy + cz * dz
      const x = cx - along * dx
      const y = cy - along * dy
      const z = cz - along * dz
      const rest = p[o + 18]! - x * x - y * y - z * z
      // a ball shines outwards
      if (rest < 0 || d2 <= p[o + 18]!) continue
      const t = along - Math.sqrt(rest)
      if (!(t > 1e-9 && t < far)) continue
      met[0] = coneFall(p, o, cx, cy, cz, d2)
      far = t
      found = i
      continue
    }
    const facing = dx * p[o + 9]! + dy * p[o + 10]! + dz * p[o + 11]!
    if (facing >= 0 && (facing === 0 || p[o + PANEL.blocks] === 0)) continue
    const cx = p[o]! - ox
    const cy = p[o + 1]! - oy
    const cz = p[o + 2]! - oz
    const along = cx * p[o + 9]! + cy * p[o + 10]! + cz * p[o + 11]!
    // behind the ray's origin: most end here, without a division
    if (along > 0 !== facing > 0) continue
    if ((camera && p[o + 16] === 0) || (blockers && p[o + PANEL.blocks] === 0)) continue
    const t = along / facing
    if (!(t > 1e-9 && t < far)) continue
    const x = t * dx - cx
    const y = t * dy - cy
    const z = t * dz - cz
    const a = x * p[o + 3]! + y * p[o + 4]! + z * p[o + 5]!
    const b = x * p[o + 6]! + y * p[o + 7]! + z * p[o + 8]!
    if (Math.abs(a) > p[o + 18]! || Math.abs(b) > p[o + 19]!) continue
    const s = a / p[o + 18]!
    const q = b / p[o + 19]!
    if (p[o + PANEL.disc] === 1 && s * s + q * q > 1) continue
    met[0] = s
    met[1] = q
    far = t
    found = i
  }
  lit.distance = far
  return found
}

/** First index of a cumulative table (from `o`, n + 1 entries) whose interval contains u. */
function find(table: Float32Array, o: number, n: number, u: number): number {
  let low = 0
  let high = n - 1
  while (low < high) {
    const mid = (low + high) >> 1
    if (table[o + mid + 1]! > u) high = mid
    else low = mid + 1
  }
  return low
}

function sampleMap(lights: Lights, draws: Float64Array): boolean {
  const u1 = draws[1]!
  const u2 = draws[2]!
  const share = lights.mapPower / lit.sum
  const { width, height, rgb, rows, columns } = lights.map!
  const y = find(rows, 0, height, u1)
  const o = y * (width + 1)
  const x = find(columns, o, width, u2)
  const pr = rows[y + 1]! - rows[y]!
  const pc = columns[o + x + 1]! - columns[o + x]!
  if (!(pr > 0 && pc > 0)) return false
  const v = (y + (u1 - rows[y]!) / pr) / height
  const u = (x + (u2 - columns[o + x]!) / pc) / width
  const theta = Math.PI * v
  const phi = 2 * Math.PI * u - Math.PI
  const s = Math.sin(theta)
  const lx = s * Math.sin(phi)
  const lz = -s * Math.cos(phi)
  lit.x = lights.cos * lx + lights.sin * lz
  lit.y = Math.cos(theta)
  lit.z = -lights.sin * lx + lights.cos * lz
  lit.distance = Infinity
  lit.pdf = (share * pr * pc * width * height) / (2 * Math.PI * Math.PI * Math.max(s, 1e-9))
  const i = (y * width + x) * 3
  const e = lights.environment
  lit.r = rgb[i]! * e[0]
  lit.g = rgb[i + 1]! * e[1]
  lit.b = rgb[i + 2]! * e[2]
  return true
}

/**
 * Radiance of the environment in a direction into {@link lit}; `lit.pdf` is the density with which {@link
 * sampleLight} would draw it, given `lit.sum` of the ray's origin. Lookup and sampling agree: the picture is
 * piecewise constant. u = ½ looks along −z, u grows towards +x.
 */
export function environmentRadiance(lights: Lights, direction: Float64Array, at: number): void {
  const sum = lit.sum
  const dx = direction[at]!
  const dy = direction[at + 1]!
  const dz = direction[at + 2]!
  const e = lights.environment
  const map = lights.map
  if (!map) {
    lit.r = e[0]
    lit.g = e[1]
    lit.b = e[2]
    lit.pdf = 0
    return
  }
  const lx = lights.cos * dx - lights.sin * dz
  const lz = lights.sin * dx + lights.cos * dz
  const v = Math.acos(dy < -1 ? -1 : dy > 1 ? 1 : dy) / Math.PI
  const u = (Math.atan2(lx, -lz) + Math.PI) / (2 * Math.PI)
  const x = Math.min(map.width - 1, Math.floor(u * map.width))
  const y = Math.min(map.height - 1, Math.floor(v * map.height))
  const i = (y * map.width + x) * 3
  lit.r = map.rgb[i]! * e[0]
  lit.g = map.rgb[i + 1]! * e[1]
  lit.b = map.rgb[i + 2]! * e[2]
  const o = y * (map.width + 1)
  const p = (map.rows[y + 1]! - map.rows[y]!) * (map.columns[o + x + 1]! - map.columns[o + x]!)
  lit.pdf =
    sum > 0
      ? ((lights.mapPower / sum) * p * map.width * map.height) /
        (2 * Math.PI * Math.PI * Math.max(Math.sqrt(Math.max(0, 1 - dy * dy)), 1e-9))
      : 0
}

/**
 * Adds throughput · light (lit.r, g, b) · lit.weight to the seven channels of a path; the path's wavelengths must
 * be loaded into the surface's basis.
 */
export function addLight(target: Float64Array, o: number, throughput: Float64Array, p: number): void {
  const r = lit.r * lit.weight
  const g = lit.g * lit.weight
  const b = lit.b * lit.weight
  target[o]! += throughput[p]! * (basis[0]! * r + basis[1]! * g + basis[2]! * b)
  target[o + 1]! += throughput[p + 1]! * (basis[3]! * r + basis[4]! * g + basis[5]! * b)
  target[o + 2]! += throughput[p + 2]! * (basis[6]! * r + basis[7]! * g + basis[8]! * b)
  target[o + 3]! += throughput[p + 3]! * (basis[9]! * r + basis[10]! * g + basis[11]! * b)
  target[o + 4]! += throughput[p + 4]! * r
  target[o + 5]! += throughput[p + 5]! * g
  target[o + 6]! += throughput[p + 6]! * b
}

/**
 * What the light drawn last sends by way of the surface just evaluated ({@link value}) along a path: seven
 * channels into `target[o …]`, times lit.weight. Written out: by loops over the channels all paths are 2 to 3 %
 * slower.
 */
export function drawnLight(target: Float64Array, o: number, throughput: Float64Array, p: number): void {
  const r = lit.r * lit.weight
  const g = lit.g * lit.weight
  const b = lit.b * lit.weight
  target[o] = throughput[p]! * value[0]! * (basis[0]! * r + basis[1]! * g + basis[2]! * b)
  target[o + 1] = throughput[p + 1]! * value[1]! * (basis[3]! * r + basis[4]! * g + basis[5]! * b)
  target[o + 2] = throughput[p + 2]! * value[2]! * (basis[6]! * r + basis[7]! * g + basis[8]! * b)
  target[o + 3] = throughput[p + 3]! * value[3]! * (basis[9]! * r + basis[10]! * g + basis[11]! * b)
  target[o + 4] = throughput[p + 4]! * value[4]! * r
  target[o + 5] = throughput[p + 5]! * value[5]! * g
  target[o + 6] = throughput[p + 6]! * value[6]! * b
}
