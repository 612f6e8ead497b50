/**
 * What the paths of a tile are in: clear, absorbing or scattering media, nested by priority (Schmidt & Budge 2002,
 * "Simple Nested Dielectrics in Ray Traced Images"), and the random walk below a surface that scatters there.
 *
 * Of the closed glasses that a path is in, the one of the highest priority counts; among equals the one entered
 * last. A face of any other is passed as if it were not there.
 */
import type { Surroundings } from '../surface/begin'
import { CIRCLE, onCircle } from '../surface/circle'
import { settleInterior } from '../surface/inside'
import { orthonormal } from '../surface/orthonormal'
import { memory as surface, now } from '../surface/memory'
import { CHANNELS } from '../surface/slots'
import { memory, DEEPEST } from './memory'
import { FILLS } from './slots'

const {
  acrossWay,
  alone,
  depth,
  does,
  fills,
  hero,
  mediumPart,
  index,
  insideOf,
  kept,
  keptAlbedo,
  keptCosine,
  meanCosine,
  rank,
  scattering,
  sigma,
  steps,
  walking,
} = memory

const { below, belowAlbedo, interior, interiorAlbedo } = surface

/** Starts a path outside of everything. */
export function beginMedia(path: number): void {
  depth[path] = 0
  fills[path] = FILLS.nothing
  mediumPart[path] = -1
  walking[path] = -1
  steps[path] = 0
}

/** Lane of a path's single wavelength, −1 where it carries all. */
export const loneLane = (path: number): number => (alone[path] ? hero[path]! : -1)

/** Whether a path is in any glass. */
export const isInGlass = (path: number): boolean => depth[path]! > 0

/** Slot of the glass that counts, leaving out part `without`; −1 for none. */
function counting(path: number, without: number): number {
  let best = -1
  for (let k = path * DEEPEST; k < path * DEEPEST + depth[path]!; k++)
    if (insideOf[k] !== without && (best < 0 || rank[k]! >= rank[best]!)) best = k
  return best
}

/** What the path's surface was begun in last. */
const within: Surroundings = { surround: 1.5, leaving: false }

/**
 * What lies about a face of a part, to begin its surface with.
 * @param leaving whether light that walked below the surface leaves it here
 */
export function surroundings(path: number, part: number, leaving: boolean): Surroundings {
  const k = depth[path] === 0 ? -1 : counting(path, part)
  within.surround = k < 0 ? 1 : index[k]!
  within.leaving = leaving
  return within
}

/** Whether the face of glass just pushed is to be passed as if it were not there. */
export function isHidden(path: number, part: number, priority: number): boolean {
  if (depth[path] === 0) return false
  const k = counting(path, -1)
  return now.outside ? rank[k]! > priority : insideOf[k] !== part && isInside(path, part)
}

function isInside(path: number, part: number): boolean {
  for (let k = path * DEEPEST; k < path * DEEPEST + depth[path]!; k++) if (insideOf[k] === part) return true
  return false
}

/** A path goes through the face of glass just pushed. */
export function crossGlass(path: number, part: number, priority: number): void {
  if (now.outside) enter(path, part, priority)
  else leave(path, part)
  settle(path)
}

function enter(path: number, part: number, priority: number): void {
  if (depth[path]! >= DEEPEST) return
  const k = path * DEEPEST + depth[path]!++
  insideOf[k] = part
  rank[k] = priority
  index[k] = now.glass
  does[k] = now.fills
  if (now.fills === 0) return
  settleInterior()
  for (let j = 0; j < CHANNELS; j++) {
    kept[k * CHANNELS + j] = interior[j]!
    keptAlbedo[k * CHANNELS + j] = interiorAlbedo[j]!
  }
  keptCosine[k] = now.interiorG
}

function leave(path: number, part: number): void {
  const first = path * DEEPEST
  let at = -1
  for (let k = first; k < first + depth[path]!; k++) if (insideOf[k] === part) at = k
  if (at < 0) return
  for (let k = at; k < first + depth[path]! - 1; k++) {
    insideOf[k] = insideOf[k + 1]!
    rank[k] = rank[k + 1]!
    index[k] = index[k + 1]!
    does[k] = does[k + 1]!
    keptCosine[k] = keptCosine[k + 1]!
    for (let j = 0; j < CHANNELS; j++) {
      kept[k * CHANNELS + j] = kept[(k + 1) * CHANNELS + j]!
      keptAlbedo[k * CHANNELS + j] = keptAlbedo[(k + 1) * CHANNELS + j]!
    }
  }
  depth[path]!--
}

/** The medium that counts becomes that of the path. */
function settle(path: number): void {
  const k = depth[path] === 0 ? -1 : counting(path, -1)
  fills[path] = k < 0 ? 0 : does[k]!
  mediumPart[path] = k < 0 ? -1 : insideOf[k]!
  if (fills[path] === FILLS.nothing) return
  for (let j = 0; j < CHANNELS; j++) {
    sigma[path * CHANNELS + j] = kept[k * CHANNELS + j]!
    scattering[path * CHANNELS + j] = keptAlbedo[k * CHANNELS + j]!
  }
  meanCosine[path] = keptCosine[k]!
}

/** A path goes below the surface just pushed. */
export function beginWalk(path: number, part: number): void {
  walking[path] = part
  fills[path] = FILLS.scatters
  mediumPart[path] = -1
  for (let j = 0; j < CHANNELS; j++) {
    sigma[path * CHANNELS + j] = below[j]!
    scattering[path * CHANNELS + j] = belowAlbedo[j]!
  }
  meanCosine[path] = now.belowG
}

/** A path comes out again. */
export function endWalk(path: number): void {
  walking[path] = -1
  settle(path)
}

/**
 * Extinction, 1/m, of what a shadow ray from the surface just pushed is in at first, into `target[o …]`.
 * @param through whether it goes through the surface
 * @returns whether that takes of its light
 */
export function extinctionBeside(
  path: number,
  part: number,
  through: boolean,
  target: Float64Array,
  o: number,
): boolean {
  if (!through || now.glass === 0 || now.thin) {
    if (fills[path] === FILLS.nothing) return false
    for (let j = 0; j < CHANNELS; j++) target[o + j] = sigma[path * CHANNELS + j]!
    return true
  }
  if (now.outside) {
    if (now.fills === 0) return false
    settleInterior()
    for (let j = 0; j < CHANNELS; j++) target[o + j] = interior[j]!
    return true
  }
  const k = depth[path] === 0 ? -1 : counting(path, part)
  if (k < 0 || does[k] === FILLS.nothing) return false
  for (let j = 0; j < CHANNELS; j++) target[o + j] = kept[k * CHANNELS + j]!
  return true
}

/** Of the flight drawn last: density per metre with which it scatters there, or chance of passing its whole way. */
export const flown = { density: 0.5 }

/**
 * Free flight in the medium of a path, drawn by one of the companion's extinctions, in proportion to what the path
 * carries of each, so that no component grows over many steps; or, where a path carries a single wavelength, by
 * that: one-sample multiple importance over them. Multiplies the throughput by what the flight leaves.
 * @param reach way to the next surface, metres
 * @param lone lane of a path's single wavelength, −1 for all
 * @param u draws: which extinction, how far
 * @returns distance to where it scatters; −1 when it reaches the surface
 */
export function fly(path: number, throughput: Float64Array, reach: number, lone: number, u: Float64Array): number {
  const c = path * CHANNELS
  const from = lone < 0 ? 4 : lone
  const count = lone < 0 ? 3 : 1
  let sum = 0
  for (let k = from; k < from + count; k++) sum += throughput[c + k]!
  if (!(sum > 0)) {
    throughput.fill(0, c, c + CHANNELS)
    return -1
  }
  let pick = from
  let rest = u[0]! * sum
  while (pick < from + count - 1 && rest >= throughput[c + pick]!) rest -= throughput[c + pick++]!
  const picked = sigma[c + pick]!
  const flight = picked > 0 ? -Math.log(1 - u[1]!) / picked : Infinity
  const scatters = flight < reach
  const way = scatters ? flight : reach
  let pdf = 0
  for (let k = from; k < from + count; k++) {
    const s = sigma[c + k]!
    pdf += ((scatters ? s : 1) * remains(s, way) * throughput[c + k]!) / sum
  }
  if (!(pdf > 0)) {
    throughput.fill(0, c, c + CHANNELS)
    return -1
  }
  for (let k = 0; k < CHANNELS; k++) {
    const s = sigma[c + k]!
    throughput[c + k]! *= ((scatters ? s * scattering[c + k]! : 1) * remains(s, way)) / pdf
  }
  flown.density = pdf
  return scatters ? flight : -1
}

/** A path goes through its medium, which absorbs and does not scatter. */
export function absorb(path: number, throughput: Float64Array, way: number): void {
  const c = path * CHANNELS
  for (let k = 0; k < CHANNELS; k++) throughput[c + k]! *= remains(sigma[c + k]!, way)
}

/** What is left after a way, metres, by Beer–Lambert; nothing crosses an endless one. @param s extinction, 1/m */
export const remains = (s: number, way: number): number => (s > 0 ? Math.exp(-s * way) : 1)

/** Density per steradian of light that turns by an angle, by Henyey & Greenstein 1941. @param g mean cosine */
export function phase(cosine: number, g: number): number {
  const q = 1 + g * g - 2 * g * cosine
  return (1 - g * g) / (4 * Math.PI * q * Math.sqrt(q))
}

/**
 * Draws a direction about the one at `d[o …]`, into it, by the phase function of Henyey & Greenstein 1941 (whose
 * mean cosine is g).
 * @param u two draws
 */
export function scatterPhase(d: Float64Array, o: number, g: number, u: Float64Array): void {
  const q = (1 - g * g) / (1 - g + 2 * g * u[0]!)
  const cos = Math.abs(g) < 1e-3 ? 1 - 2 * u[0]! : (1 + g * g - q * q) / (2 * g)
  onCircle(u[1]!)
  const sin = Math.sqrt(Math.max(0, 1 - cos * cos))
  const x = d[o]!
  const y = d[o + 1]!
  const z = d[o + 2]!
  const s = sin * CIRCLE[0]!
  const t = sin * CIRCLE[1]!
  orthonormal(acrossWay, x, y, z)
  let nx = s * acrossWay[0]! + t * acrossWay[3]! + cos * x
  let ny = s * acrossWay[1]! + t * acrossWay[4]! + cos * y
  let nz = s * acrossWay[2]! + t * acrossWay[5]! + cos * z
  const l = 1 / Math.sqrt(nx * nx + ny * ny + nz * nz)
  nx *= l
  ny *= l
  nz *= l
  d[o] = nx
  d[o + 1] = ny
  d[o + 2] = nz
}
