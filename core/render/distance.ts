/**
 * Where along a way through matter drawn light is asked for: half by how likely a path is to scatter there, half evenly
 * in the angle under which the lamp's middle is seen (Kulla & Fajardo 2012, "Importance Sampling Techniques for Path
 * Tracing in Participating Media", §4.1), which takes the fall of light with the squared distance away.
 */
import { middle } from '../light/along'
import { CHANNELS } from '../surface/slots'
import { memory } from './memory'

const { sigma } = memory

/** The companion's three channels, by which flights are drawn; a path of a single wavelength has that alone. */
const firstOf = (lone: number): number => (lone < 0 ? 4 : lone)
const countOf = (lone: number): number => (lone < 0 ? 3 : 1)

/** Chance to scatter within a way, metres. @param s extinction, 1/m */
const scattersWithin = (s: number, way: number): number => (s > 0 ? -Math.expm1(-s * way) : 0)

/**
 * Chance that a path scatters on its way, as `fly` in `media.ts` draws it.
 * @param reach length of the way, metres
 * @param lone lane of a path's single wavelength, −1 for all
 */
export function scatterChance(path: number, throughput: Float64Array, reach: number, lone: number): number {
  const c = path * CHANNELS
  let sum = 0
  let chance = 0
  for (let k = firstOf(lone), end = k + countOf(lone); k < end; k++) {
    const s = sigma[c + k]!
    sum += throughput[c + k]!
    chance += throughput[c + k]! * scattersWithin(s, reach)
  }
  return sum > 0 ? chance / sum : 0
}

/** Density per metre with which a path scatters at t, as `fly` in `media.ts` draws it. */
export function flightDensity(path: number, throughput: Float64Array, t: number, lone: number): number {
  const c = path * CHANNELS
  let sum = 0
  let density = 0
  for (let k = firstOf(lone), end = k + countOf(lone); k < end; k++) {
    const s = sigma[c + k]!
    sum += throughput[c + k]!
    density += throughput[c + k]! * s * Math.exp(-s * t)
  }
  return sum > 0 ? density / sum : 0
}

/**
 * Draws where a path scatters, given that it does.
 * @param u two draws; the first is used up and is one anew after it
 * @param chance what {@link scatterChance} gives
 */
export function drawScatter(
  path: number,
  throughput: Float64Array,
  reach: number,
  lone: number,
  chance: number,
  u: Float64Array,
): number {
  const c = path * CHANNELS
  const last = firstOf(lone) + countOf(lone) - 1
  let sum = 0
  for (let k = firstOf(lone); k <= last; k++) sum += throughput[c + k]!
  let pick = u[0]! * chance * sum
  let k = firstOf(lone)
  let w = throughput[c + k]! * scattersWithin(sigma[c + k]!, reach)
  while (k < last && pick >= w) {
    pick -= w
    k++
    w = throughput[c + k]! * scattersWithin(sigma[c + k]!, reach)
  }
  u[0] = w > 0 ? Math.min(1 - 2 ** -53, pick / w) : 0
  const s = sigma[c + k]!
  return s > 0 ? Math.min(reach, -Math.log1p(-u[1]! * scattersWithin(s, reach)) / s) : 0
}

/** Of a way and a lamp beside it: where it comes nearest, and how near; then the angles of its ends. */
const beside = { along: 0.5, apart: 0.5, from: 0.5, to: 0.5 }

/** Places the lamp in {@link middle} beside a way; no nearer than its own size, within which it falls no more. */
function place(origin: Float64Array, direction: Float64Array, at: number, reach: number): void {
  const x = middle.x - origin[at]!
  const y = middle.y - origin[at + 1]!
  const z = middle.z - origin[at + 2]!
  const along = x * direction[at]! + y * direction[at + 1]! + z * direction[at + 2]!
  const apart = Math.sqrt(Math.max(0, x * x + y * y + z * z - along * along) + middle.radius2)
  beside.along = along
  beside.apart = apart
  beside.from = Math.atan(-along / apart)
  beside.to = reach < Infinity ? Math.atan((reach - along) / apart) : Math.PI / 2
}

/** Draws a distance evenly in the angle at the lamp. @param u a draw */
export function drawByAngle(
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  reach: number,
  u: number,
): number {
  place(origin, direction, at, reach)
  const t = beside.along + beside.apart * Math.tan(beside.from + u * (beside.to - beside.from))
  return Math.max(0, Math.min(reach, t))
}

/** Density per metre of {@link drawByAngle}. */
export function angleDensity(
  origin: Float64Array,
  direction: Float64Array,
  at: number,
  reach: number,
  t: number,
): number {
  place(origin, direction, at, reach)
  const from = t - beside.along
  return beside.apart / ((beside.to - beside.from) * (beside.apart * beside.apart + from * from))
}
