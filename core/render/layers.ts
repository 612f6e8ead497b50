/**
 * Radiance kept apart by light and by lobe. Both are partitions: layers of a kind add up to the picture.
 *
 * By light: panels and groups of them, the environment with the backdrop, what parts send out (`light-layers.ts`).
 * By lobe: which kind of scattering the camera's path met first; what follows belongs to it. Where several kinds
 * answer one direction, each takes its share of the value there, channel by channel. Light that the camera sees
 * directly is emission on a part and
 * background elsewhere.
 */
import { evaluateClass } from '../surface/evaluate'
import { memory as surface, scattered } from '../surface/memory'
import { CHANNELS, CLASS } from '../surface/slots'
import { MOST_LAYERS } from '../light/light-layers'
import { laneTable } from '../colour/wavelengths'
import { BATCH, LOBE_LAYERS } from './film'

const { value } = surface

export const EMISSION_LAYER = 5
export const BACKGROUND_LAYER = 6
/** Lobes that scatter: the first of {@link LOBE_LAYERS}. */
const SCATTERING = 5

/** What one thread keeps apart for the tile under way. */
export interface Layers {
  /** Layers of light; 0 for none. */
  lights: number
  lobes: boolean
  /** Radiance by layer, path and channel. */
  light: Float64Array
  lobe: Float64Array
  /**
   * Share of each scattering lobe in what a path still carries, by path, lobe and channel; the same for shadow
   * rays.
   */
  share: Float64Array
  shadowShare: Float64Array
  /** Rays cast for each path. */
  cost: Float64Array
}

/** Makes the arrays for the kinds wanted. @param lights how many layers of light to keep apart */
export function createLayers(lights: number, lobes: boolean): Layers {
  if (lights > MOST_LAYERS) throw new RangeError(`${lights} layers of light are too many, ${MOST_LAYERS} may be`)
  const shares = lobes ? BATCH * SCATTERING * CHANNELS : 0
  return {
    lights,
    lobes,
    light: new Float64Array(BATCH * CHANNELS * lights),
    lobe: new Float64Array(lobes ? BATCH * CHANNELS * LOBE_LAYERS.length : 0),
    share: new Float64Array(shares),
    shadowShare: new Float64Array(shares),
    cost: new Float64Array(BATCH),
  }
}

export function beginLayers(l: Layers, n: number): void {
  l.light.fill(0)
  l.lobe.fill(0)
  l.cost.fill(0, 0, n)
  if (!l.lobes) return
  // what a path finds in matter before any surface is light from below one
  l.share.fill(0, 0, n * SCATTERING * CHANNELS)
  for (let path = 0; path < n; path++) {
    const s = (path * SCATTERING + CLASS.subsurface) * CHANNELS
    l.share.fill(1, s, s + CHANNELS)
  }
}

const at = (layer: number, path: number) => (layer * BATCH + path) * CHANNELS

/**
 * Adds what a path brings from a light: `from[o …]`, seven channels.
 * @param light layer of the light; lobe: layer it belongs to, or −1 for the shares of what the path met first
 */
export function deposit(
  l: Layers,
  path: number,
  light: number,
  lobe: number,
  from: Float64Array,
  o: number,
): void {
  if (l.lights > 0) add(l.light, at(light, path), from, o)
  if (!l.lobes) return
  if (lobe >= 0) add(l.lobe, at(lobe, path), from, o)
  else addShares(l, path, l.share, path, from, o)
}

/** Adds what a shadow ray brought. @param first whether it left the surface that the camera sees */
export function depositDrawn(
  l: Layers,
  path: number,
  light: number,
  shadow: number,
  first: boolean,
  from: Float64Array,
  o: number,
): void {
  if (l.lights > 0) add(l.light, at(light, path), from, o)
  if (l.lobes) addShares(l, path, first ? l.shadowShare : l.share, first ? shadow : path, from, o)
}

function add(target: Float64Array, t: number, from: Float64Array, o: number): void {
  for (let j = 0; j < CHANNELS; j++) target[t + j]! += from[o + j]!
}

function addShares(
  l: Layers,
  path: number,
  share: Float64Array,
  row: number,
  from: Float64Array,
  o: number,
): void {
  for (let k = 0; k < SCATTERING; k++)
    for (let j = 0, t = at(k, path), s = (row * SCATTERING + k) * CHANNELS; j < CHANNELS; j++)
      l.lobe[t + j]! += share[s + j]! * from[o + j]!
}

/**
 * Shares of the direction in R[0…2], which was evaluated last with `whole` as its value, into a row.
 * @param transmitted whether it goes through the surface
 */
export function shareByLobe(target: Float64Array, row: number, whole: Float64Array, transmitted: boolean): void {
  for (let k = 0; k < SCATTERING; k++) {
    const s = (row * SCATTERING + k) * CHANNELS
    if (transmitted || k === CLASS.transmission) {
      target.fill(transmitted && k === CLASS.transmission ? 1 : 0, s, s + CHANNELS)
      continue
    }
    evaluateClass(k)
    for (let j = 0; j < CHANNELS; j++) target[s + j] = whole[j]! !== 0 ? value[j]! / whole[j]! : 0
  }
}

/** A smooth lobe was drawn: all belongs to it. */
export function shareOfSmooth(target: Float64Array, row: number): void {
  shareOfOne(
    target,
    row,
    scattered.transmitted && scattered.class !== CLASS.subsurface ? CLASS.transmission : scattered.class,
  )
}

/** All belongs to lobes of one class. */
export function shareOfOne(target: Float64Array, row: number, mine: number): void {
  for (let k = 0; k < SCATTERING; k++)
    target.fill(k === mine ? 1 : 0, (row * SCATTERING + k) * CHANNELS, (row * SCATTERING + k + 1) * CHANNELS)
}

/**
 * Turns seven channels into linear Rec.709: W·f + h − W·(Bᵀh), see `colour/wavelengths.ts`.
 * @param lanes grid indices of the path's wavelengths, four from `s` on
 */
export function toRec709(
  from: Float64Array,
  c: number,
  lanes: Int32Array,
  s: number,
  out: Float64Array,
  o: number,
): void {
  const h0 = from[c + 4]!
  const h1 = from[c + 5]!
  const h2 = from[c + 6]!
  let r = h0
  let g = h1
  let b = h2
  for (let k = 0; k < 4; k++) {
    const t = lanes[s + k]! * 6
    const f = from[c + k]! - (laneTable[t]! * h0 + laneTable[t + 1]! * h1 + laneTable[t + 2]! * h2)
    r += laneTable[t + 3]! * f
    g += laneTable[t + 4]! * f
    b += laneTable[t + 5]! * f
  }
  out[o] = r
  out[o + 1] = g
  out[o + 2] = b
}
