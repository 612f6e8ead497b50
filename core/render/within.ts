/**
 * Drawn light in matter that scatters: each way of a path through it asks one light at one place (see `distance.ts`),
 * weighed by the balance heuristic against the path scattering there by itself and finding that light.
 */
import { addLight } from '../light/add-light'
import { findMiddle, weighAlong, weightAlong } from '../light/along'
import { chooseLight, drawFrom } from '../light/draw-light'
import { emissionLight, type Lights } from '../light/lights'
import { isBlocked } from '../light/meet-panel'
import { drawnEmitter, lit, memory as light } from '../light/memory'
import { receiveAll } from '../light/receiver'
import { memory as surface } from '../surface/memory'
import { CHANNELS } from '../surface/slots'
import { castAny } from '../trace/cast'
import type { RenderScene } from '../world/render-scene'
import { arriveAt } from './arrive'
import { angleDensity, drawByAngle, drawScatter, flightDensity, scatterChance } from './distance'
import { deposit, type Layers } from './layers'
import { drawInMatter } from './matter-draws'
import { flown, loneLane, phase, remains } from './media'
import { memory, tile } from './memory'
import { loadWavelengths } from './paths'
import { COUNTED, PAIR } from './slots'
import { passStraight } from './straight'
import type { Tracer } from './tracer'

const {
  brought,
  carried,
  counted,
  direction,
  drawn,
  inMatter,
  lightDraws,
  lightSum,
  meanCosine,
  mediumPart,
  origin,
  passed,
  radiance,
  scattering,
  scatterPlace,
  sigma,
  smoothBefore,
  surrounding,
  throughput,
  unseen,
  wayAlong,
  wayChance,
  wayFlight,
  wayFrom,
  wayLikely,
  wayPart,
  wayReach,
} = memory

const { emission } = surface
const { weights } = light

/** Of the way that was asked about last: the sum of the lights' weights, 0 where none was drawn, and the rest. */
const asked = { sum: 0.5, unseen: 0.5, chance: 0.5, reach: 0.5 }

/**
 * Density with which choice i is asked for at t, over the one with which a path scatters there by itself.
 * @param from index `at` on: where the way begins; its unit direction, its length
 * @param chance that a path scatters on it; @param likely density with which it does at t
 */
function askedOverScattered(
  lights: Lights,
  i: number,
  from: Float64Array,
  along: Float64Array,
  at: number,
  reach: number,
  chance: number,
  likely: number,
  t: number,
): number {
  if (!findMiddle(lights, i)) return 1 / chance
  return 0.5 / chance + (0.5 * angleDensity(from, along, at, reach, t)) / likely
}

/** Asks a light along the way that a path is about to fly in its medium, up to `lit.distance`; adds what it brings. */
export function askAlong(
  t: Tracer,
  scene: RenderScene,
  path: number,
  bounce: number,
  layers: Layers | null,
): void {
  asked.sum = 0
  const part = mediumPart[path]!
  if (part < 0) return
  const { geometry, lights } = scene
  const reach = lit.distance
  receiveAll()
  weighAlong(lights, geometry, part, origin, direction, path * 3, reach)
  if (lit.sum > 0) {
    const chance = scatterChance(path, throughput, reach, loneLane(path))
    if (chance > 0) {
      asked.sum = lit.sum
      asked.unseen = lit.unseen
      asked.chance = chance
      asked.reach = reach
      bring(t, scene, path, bounce, layers)
    }
  }
  lit.distance = reach
}

/** Draws the light and the place, and adds what comes from there. */
function bring(t: Tracer, scene: RenderScene, path: number, bounce: number, layers: Layers | null): void {
  const { geometry, lights } = scene
  const { chance, reach } = asked
  const o = path * 3
  const c = path * CHANNELS
  const lone = loneLane(path)
  drawInMatter(path, bounce, PAIR.asked)
  const i = chooseLight(lights, drawn)
  const share = weights[i]! / asked.sum
  const stands = findMiddle(lights, i)
  const byAngle = stands && drawn[0]! < 0.5
  if (stands) drawn[0] = byAngle ? 2 * drawn[0]! : 2 * drawn[0]! - 1
  const at = byAngle
    ? drawByAngle(origin, direction, o, reach, drawn[1]!)
    : drawScatter(path, throughput, reach, lone, chance, drawn)
  const likely = flightDensity(path, throughput, at, lone)
  if (!(likely > 0)) return
  lightDraws[0] = drawn[0]!
  drawInMatter(path, bounce, PAIR.lamp)
  lightDraws[1] = drawn[0]!
  lightDraws[2] = drawn[1]!
  for (let k = 0; k < 3; k++) scatterPlace[k] = origin[o + k]! + at * direction[o + k]!
  lit.share = share * likely * askedOverScattered(lights, i, origin, direction, o, reach, chance, likely, at)
  if (!drawFrom(lights, geometry, i, scatterPlace, lightDraws)) return
  const cosine = direction[o]! * lit.x + direction[o + 1]! * lit.y + direction[o + 2]! * lit.z
  const turned = phase(cosine, meanCosine[path]!)
  lit.weight = 1 / (lights.gather === 'lights' ? lit.pdf : lit.pdf + likely * turned)
  for (let j = 0; j < CHANNELS; j++) {
    const s = sigma[c + j]!
    carried[j] = throughput[c + j]! * s * scattering[c + j]! * Math.exp(-s * at) * turned
  }
  const shines = lit.light === emissionLight(lights)
  loadWavelengths(path)
  brought.fill(0)
  if (shines) for (let j = 0; j < CHANNELS; j++) brought[j] = carried[j]! * lit.weight
  else addLight(brought, 0, carried, 0)
  const place = drawnEmitter.place
  const { u, v } = drawnEmitter
  if (!arrives(t, scene, path, shines)) return
  if (shines) {
    arriveAt(scene, place, u, v, t.shadows.direction, 0, t.shadows.distance[0]!, path)
    for (let j = 0; j < CHANNELS; j++) brought[j]! *= emission[j]!
  }
  for (let j = 0; j < CHANNELS; j++) radiance[c + j]! += brought[j]!
  if (!layers) return
  deposit(layers, path, lights.layerOf[lit.light]!, -1, brought, 0)
  layers.cost[path]!++
}

/**
 * Casts the shadow ray from `scatterPlace` to the light drawn, and takes from `brought` what is lost on the way.
 * @returns whether anything arrives
 */
function arrives(t: Tracer, scene: RenderScene, path: number, shines: boolean): boolean {
  const { geometry, lights } = scene
  const ray = t.shadows
  const c = path * CHANNELS
  ray.origin[0] = scatterPlace[0]!
  ray.origin[1] = scatterPlace[1]!
  ray.origin[2] = scatterPlace[2]!
  ray.direction[0] = lit.x
  ray.direction[1] = lit.y
  ray.direction[2] = lit.z
  const distance = lit.distance * (1 - (shines ? 1e-6 : 1e-9))
  const whole = 1 / (lit.pdf * lit.weight)
  ray.distance[0] = distance
  if (lights.panelCount > 0 && isBlocked(lights, ray.origin, ray.direction, 0, distance * (1 - 1e-6))) return false
  castAny(geometry.hierarchy, ray, 1)
  t.counts.rays++
  if (ray.triangle[0]! < 0) {
    for (let j = 0; j < CHANNELS; j++) brought[j]! *= remains(sigma[c + j]!, distance)
    return true
  }
  if (!tile.shadowsPass) return false
  for (let j = 0; j < CHANNELS; j++) surrounding[j] = sigma[c + j]!
  ray.distance[0] = distance
  if (!passStraight(scene, ray, 0, path, true)) return false
  for (let j = 0; j < CHANNELS; j++) brought[j]! *= passed[j]! * whole
  return true
}

/** A path scatters `flight` along the way that was asked about last, which is then kept for the light that it finds. */
export function keepWay(path: number, flight: number): void {
  const o = path * 3
  const drawnFor = asked.sum > 0
  inMatter[path] = 1
  smoothBefore[path] = drawnFor ? 0 : 1
  counted[path] = drawnFor ? COUNTED.drawn : COUNTED.not
  lightSum[path] = asked.sum
  if (!drawnFor) return
  for (let k = 0; k < 3; k++) {
    wayFrom[o + k] = origin[o + k]!
    wayAlong[o + k] = direction[o + k]!
  }
  unseen[path] = asked.unseen
  wayPart[path] = mediumPart[path]!
  wayFlight[path] = flight
  wayReach[path] = asked.reach
  wayChance[path] = asked.chance
  wayLikely[path] = flown.density
}

/**
 * Share with which choice i was asked for where a path scattered last, over the density of its scattering there: what
 * the density of directions to that light is to be multiplied by, to compare with that of the phase function.
 */
export function shareFromWithin(scene: RenderScene, path: number, i: number): number {
  if (!(lightSum[path]! > 0)) return 0
  const { geometry, lights } = scene
  const o = path * 3
  const reach = wayReach[path]!
  lit.unseen = unseen[path]!
  const weight = weightAlong(lights, geometry, i, wayPart[path]!, wayFrom, wayAlong, o, reach)
  return (
    (weight / lightSum[path]!) *
    askedOverScattered(
      lights,
      i,
      wayFrom,
      wayAlong,
      o,
      reach,
      wayChance[path]!,
      wayLikely[path]!,
      wayFlight[path]!,
    )
  )
}
