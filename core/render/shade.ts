/** Shading of the paths that met a surface: what it sends out, a drawn light, a drawn direction. */
import { letsShadowsPass } from '../light/emitters'
import { weighLights } from '../light/draw-light'
import { receiveAt, receiver } from '../light/receiver'
import { emissionLight } from '../light/lights'
import { lit } from '../light/memory'
import { POINT } from '../point/slots'
import { doubtOf } from '../scene/fill-point'
import { beginSurfaceAt } from '../surface/begin'
import { finishLeaving, finishSurface } from '../surface/finish'
import { PASSAGE } from '../surface/lobe'
import { KIND } from '../surface/lobes/kinds'
import { memory as surface, now, scattered } from '../surface/memory'
import { sampleDrawn } from '../surface/sample'
import { ASK, CHANNELS } from '../surface/slots'
import type { RenderScene } from '../world/render-scene'
import { bendCone } from './cone'
import { forgetFirst, keepFirst, type FirstHits } from './first-hits'
import { keepSeen } from './hold'
import { deposit, EMISSION_LAYER, shareByLobe, shareOfSmooth, type Layers } from './layers'
import { beginWalk, crossGlass, endWalk, isHidden, isInGlass, surroundings } from './media'
import { goAlone, loadWavelengths } from './paths'
import { draw2 } from './sampler'
import { castShadows, drawShadow } from './shadows'
import { COUNTED, PAIR, VIEW } from './slots'
import type { Tracer } from './tracer'
import { memory } from './memory'

const {
  active,
  alone,
  brought,
  counted,
  density,
  direction,
  drawn,
  emitterPdf,
  hero,
  inMatter,
  leftNormal,
  leftPart,
  leftSides,
  lightDraws,
  lightSum,
  opaque,
  origin,
  places,
  points,
  radiance,
  seeds,
  shading,
  smoothBefore,
  specular,
  throughput,
  unseen,
  walking,
  whole,
  view,
} = memory

const { ask, emission, value } = surface

/**
 * Shades the paths in `shading`, casts their shadow rays and leaves those that go on in `active`.
 * @returns how many go on
 */
export function shade(
  t: Tracer,
  scene: RenderScene,
  shaded: number,
  bounce: number,
  first: FirstHits | null,
  layers: Layers | null,
): number {
  const { lights } = scene
  let living = 0
  let shadowed = 0
  for (let k = 0; k < shaded; k++) {
    const path = shading[k]!
    const o = path * 3
    const c = path * CHANNELS
    const S = points[path]!
    const part = S[POINT.part]!
    const material = scene.materials[scene.materialOf[part]!]!
    const leaving = walking[path]! >= 0 && walking[path] === part
    loadWavelengths(path)
    // light that walked below a surface leaves it as if seen from straight above
    if (leaving) for (let j = 0; j < 3; j++) S[POINT.view + j] = -S[POINT.normal + j]!
    beginSurfaceAt(S, surroundings(path, part, leaving))
    material.shader.shade(S, material.constants, material.shader.images)
    let scatters = true
    if (leaving) {
      finishLeaving()
      emission.fill(0)
      endWalk(path)
    } else scatters = finishSurface()
    const priority = scene.priorityOf[part]!
    if (now.glass > 0 && isInGlass(path) && isHidden(path, part, priority)) {
      if (isOneTooMany(t, specular, path, scene.maxSpecular)) continue
      crossGlass(path, part, priority)
      goStraight(path, S)
      counted[path] = material.straight && counted[path]! > 0 ? COUNTED.passed : COUNTED.not
      active[living++] = path
      continue
    }
    if (now.disperses === 2 && !alone[path]) goAlone(path)
    if (first && view[path] === VIEW.openings) {
      if (bounce === 0) keepFirst(first, path, S, origin, o)
      else keepFirst(first, path, S, scene.camera, 0)
    }
    if (emission[4] !== 0 || emission[5] !== 0 || emission[6] !== 0) {
      // where the light could have been drawn, both ways share it by the balance heuristic
      const own =
        emitterPdf[path]! > 0
          ? lights.gather === 'lights'
            ? 0
            : density[path]! / (density[path]! + emitterPdf[path]!)
          : 1
      for (let j = 0; j < CHANNELS; j++) {
        brought[j] = throughput[c + j]! * emission[j]! * own
        radiance[c + j]! += brought[j]!
      }
      if (layers)
        deposit(
          layers,
          path,
          lights.layerOf[emissionLight(lights)]!,
          bounce === 0 ? EMISSION_LAYER : -1,
          brought,
          0,
        )
    }
    if (!scatters) continue
    const px = S[POINT.position]!
    const py = S[POINT.position + 1]!
    const pz = S[POINT.position + 2]!
    const shift = doubtOf(S)
    const pair = PAIR.first + bounce * PAIR.stride
    const seed = seeds[path]!
    const place = places[path]!
    draw2(place, seed, pair + PAIR.pick)
    const pickLobe = drawn[0]!
    lightDraws[0] = drawn[1]!
    // what is smooth all over answers no drawn light; behind straight glass it still has to be known what could
    // have been drawn
    let sum = 0
    let dark = 0
    if (now.answers || letsShadowsPass(material)) {
      receiveAt(now.sx, now.sy, now.sz, letsShadowsPass(material) ? 0 : now.behind ? 2 : 1)
      weighLights(lights, S)
      sum = lit.sum
      dark = lit.unseen
    }
    if (sum > 0 && now.answers) shadowed += drawShadow(t, scene, path, S, bounce, shadowed, layers)
    draw2(place, seed, pair + PAIR.direction)
    ask[ASK.choose] = pickLobe
    ask[ASK.u] = drawn[0]!
    ask[ASK.v] = drawn[1]!
    if (!sampleDrawn()) continue
    const opening = scattered.kind === KIND.through
    const glassy = scattered.passage === PASSAGE.glass
    const walks = scattered.passage === PASSAGE.walk
    if (opening) {
      // no bounce: the camera sees what lies behind
      if (first && view[path] === VIEW.openings) forgetFirst(first, path)
    } else if ((scattered.smooth && !walks) || glassy) {
      if (isOneTooMany(t, specular, path, scene.maxSpecular)) continue
    } else if (isOneTooMany(t, opaque, path, scene.maxOpaque)) continue
    if (layers?.lobes && bounce === 0) {
      whole.set(value)
      if (scattered.smooth) shareOfSmooth(layers.share, path)
      else {
        for (let j = 0; j < CHANNELS; j++) whole[j]! *= scattered.pdf
        ask[ASK.x] = scattered.x
        ask[ASK.y] = scattered.y
        ask[ASK.z] = scattered.z
        shareByLobe(layers.share, path, whole, scattered.transmitted)
        for (let j = 0; j < CHANNELS; j++) whole[j]! /= scattered.pdf
      }
      value.set(whole)
    }
    throughput[c]! *= value[0]!
    throughput[c + 1]! *= value[1]!
    throughput[c + 2]! *= value[2]!
    throughput[c + 3]! *= value[3]!
    throughput[c + 4]! *= value[4]!
    throughput[c + 5]! *= value[5]!
    throughput[c + 6]! *= value[6]!
    let most = Math.max(throughput[c + 4]!, throughput[c + 5]!, throughput[c + 6]!)
    if (now.disperses === 1 && scattered.transmitted && scattered.kind === KIND.glass && !alone[path])
      goAlone(path)
    if (alone[path]) most = throughput[c + hero[path]!]! * 0.25
    if (!(most > 0)) continue
    if (bounce >= 1 && most < 0.5) {
      const survive = Math.max(0.05, most * 2)
      draw2(place, seed, pair + PAIR.roulette)
      if (drawn[0]! >= survive) continue
      for (let j = 0; j < CHANNELS; j++) throughput[c + j]! /= survive
    }
    if (scattered.transmitted) {
      if (glassy) crossGlass(path, part, priority)
      else if (walks) beginWalk(path, part)
    }
    if (!opening)
      view[path] =
        view[path] !== VIEW.none && material.straight && glassy && scattered.smooth && scattered.transmitted
          ? VIEW.glass
          : VIEW.none
    bendCone(path, S)
    const side = scattered.transmitted ? -shift : shift
    origin[o] = px + side * now.gx
    origin[o + 1] = py + side * now.gy
    origin[o + 2] = pz + side * now.gz
    direction[o] = scattered.x
    direction[o + 1] = scattered.y
    direction[o + 2] = scattered.z
    smoothBefore[path] = scattered.smooth ? 1 : 0
    inMatter[path] = 0
    counted[path] =
      (material.straight || (opening && material.opens)) && counted[path]! > 0 && scattered.transmitted && !walks
        ? COUNTED.passed
        : scattered.smooth
          ? COUNTED.not
          : COUNTED.drawn
    density[path] = scattered.pdf
    lightSum[path] = sum
    leftPart[path] = part
    leftSides[path] = receiver.sides
    leftNormal[o] = now.sx
    leftNormal[o + 1] = now.sy
    leftNormal[o + 2] = now.sz
    unseen[path] = dark
    active[living++] = path
  }
  // what the camera sees directly is known now
  if (bounce === 0 && scene.clamp) keepSeen(layers)
  if (shadowed > 0) castShadows(t, scene, shadowed, bounce, layers)
  return living
}

/** Counts a bounce of a path. @returns whether it was one more than there may be, which ends the path */
function isOneTooMany(t: Tracer, bounces: Uint16Array, path: number, most: number): boolean {
  if (++bounces[path]! <= most) return false
  t.counts.cut++
  return true
}

/**
 * A path passes a face that does not count. No drawn light came through it, so what it meets next counts whole.
 */
function goStraight(path: number, S: Float64Array): void {
  const o = path * 3
  const side = now.outside ? -doubtOf(S) : doubtOf(S)
  for (let j = 0; j < 3; j++) origin[o + j] = S[POINT.position + j]! + side * S[POINT.geometric + j]!
  smoothBefore[path] = 1
}
