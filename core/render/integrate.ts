/**
 * Spectral path tracing of one tile, wavefront style: all paths of the tile advance together, so that rays go to
 * the kernel in batches.
 *
 * A path carries four wavelengths and an RGB companion (see `colour/wavelengths.ts`). Light comes by drawn lights
 * and by drawn directions, joined by the balance heuristic (Veach 1997, §9.2). Pixel filter: tent of two pixels'
 * width, by importance sampling. Each sample is a function of
 * (seed, pixel, pass) alone. Samples are rounded to 2⁻³⁰, so that sums of passes are exact and do not depend
 * on their order.
 *
 * Tried: one path at a time instead of batches: −12 % paths a second on the benchmark scene (ray calls no longer
 * amortised); compaction of finished paths every bounce against a list of living ones: the list is 3 % faster.
 * Roulette from the second bounce on instead of the fourth: +9 % at equal noise. Paths sorted by material before
 * they are shaded: −2 to −4 %, also with 25 networks of 120 nodes.
 */
import { leafAt } from '../light/emitters'
import { emissionLight, environmentLight, type Lights } from '../light/lights'
import { drawnEmitter, emitterDensity, emittersWeight } from '../light/sample-emitters'
import {
  addLight,
  drawnLight,
  environmentRadiance,
  hitPanel,
  isBlocked,
  lit,
  panelDensity,
  panelRadiance,
  sampleLight,
  visibility,
  weighLights,
} from '../light/sample-light'
import type { Shader } from '../network/instantiate'
import { MAX_PROBES, POINT, POINT_STRIDE } from '../network/shading-point'
import type { Geometry } from '../scene/geometry'
import { beginSurfaceAt } from '../surface/begin'
import { evaluateIncoming } from '../surface/evaluate'
import { finishLeaving, finishSurface, surfaceAlbedo } from '../surface/finish'
import { PASSAGE } from '../surface/lobe'
import { KIND } from '../surface/lobes/kinds'
import { memory, now, scattered } from '../surface/memory'
import { sampleDrawn } from '../surface/sample'
import { ASK, CHANNELS } from '../surface/slots'
import { batchNear, castAny, castClosest, createRayBatch, type RayBatch } from '../trace/cast'
import { beginInside, partsAround } from './around'
import { BATCH } from './film'
import { doubtOf, fillPoint } from './hit'
import { holdSamples, keepSeen } from './hold'
import {
  BACKGROUND_LAYER,
  beginLayers,
  deposit,
  depositDrawn,
  EMISSION_LAYER,
  shareByLobe,
  shareOfSmooth,
  type Layers,
} from './layers'
import {
  absorb,
  beginWalk,
  crossGlass,
  endWalk,
  fills,
  fly,
  isHidden,
  isInGlass,
  surroundings,
  walking,
} from './media'
import {
  alone,
  density,
  direction,
  drift,
  FIRST_PAIR,
  goAlone,
  hero,
  lightSum,
  loadWavelengths,
  opaque,
  origin,
  PAIRS,
  places,
  radiance,
  seeds,
  smoothBefore,
  specular,
  startPaths,
  throughput,
  travelled,
  writeSamples,
} from './paths'
import { createProbes, type Probes } from './probes'
import { draw2, drawn } from './sampler'
import { counted, passed, passStraight } from './straight'

const { ask, emission, value } = memory

/** A material as the loop needs it. */
export interface Material {
  shader: Shader
  constants: Float64Array
  probes: readonly ('convex' | 'concave' | 'both')[]
  /** Whether shadow rays pass it straight. */ straight?: boolean
}

export interface RenderScene {
  geometry: Geometry
  lights: Lights
  materials: readonly Material[]
  /** Material of each part. */
  materialOf: Int32Array
  /** Which of glasses in each other counts, by part; the higher one. */
  priorityOf: Int32Array
  /** Output of `cameraFrame`. */
  camera: Float64Array
  maxOpaque: number
  maxSpecular: number
  /** Most that a path may bring after it has scattered; 0 or left out: all of it. */
  clamp?: number
}

/** First-hit values of a tile's pixels for guides and AOVs. */
export interface FirstHits {
  albedo: Float64Array
  normal: Float64Array
  position: Float64Array
  depth: Float64Array
  part: Int32Array
}

export const createFirstHits = (): FirstHits => ({
  albedo: new Float64Array(BATCH * 3),
  normal: new Float64Array(BATCH * 3),
  position: new Float64Array(BATCH * 3),
  depth: new Float64Array(BATCH),
  part: new Int32Array(BATCH),
})

/** Counters of {@link Tracer}. */
export interface Counts {
  paths: number
  rays: number
  lost: number
}

/** Working memory of one thread. */
export interface Tracer {
  rays: RayBatch
  shadows: RayBatch
  probes: Probes
  counts: Counts
  /** Asked before every bounce; where it says so the tile is left as it is, and what it gave is worth nothing. */
  stop: (() => boolean) | null
  /** Which pixels of the tile are wanted, row by row; null for all. The others come out black. */
  only: Uint8Array | null
}

export const createTracer = (): Tracer => ({
  rays: createRayBatch(BATCH),
  shadows: createRayBatch(BATCH),
  probes: createProbes(BATCH),
  counts: { paths: 0, rays: 0, lost: 0 },
  stop: null,
  only: null,
})

/** Paths that scattered in a medium and go on without meeting a surface. */
const drifting = new Int32Array(BATCH)
const active = new Int32Array(BATCH)
const shading = new Int32Array(BATCH)
const shadowOf = new Int32Array(BATCH)
const shadowValue = new Float64Array(BATCH * CHANNELS)
const pointData = new Float64Array(BATCH * POINT_STRIDE)
const points = Array.from({ length: BATCH }, (_, i) =>
  pointData.subarray(i * POINT_STRIDE, (i + 1) * POINT_STRIDE),
)
/** Part that each path left last, and the factor there on lights that it does not see. */
const leftPart = new Int32Array(BATCH)
const unseen = new Float64Array(BATCH)
/** Density with which the tree of shining triangles would have drawn each path's hit. */
const emitterPdf = new Float64Array(BATCH)
/** Light of each shadow ray, and, for shining triangles, where it ends: place, u, v. */
const shadowLight = new Int32Array(BATCH)
const shadowPlace = new Int32Array(BATCH)
const shadowAt = new Float64Array(BATCH * 2)
/** How much more a shadow ray counts where no drawn direction brings the same light. */
const shadowWhole = new Float64Array(BATCH)
/**
 * What one path or shadow ray brings, before it is added; the value at a surface, kept while it is evaluated by
 * lobe.
 */
const brought = new Float64Array(CHANNELS)
const whole = new Float64Array(CHANNELS)
let pixelAngle = 0.5
const arrival = createRayBatch(1)
const shining = new Float64Array(POINT_STRIDE)
const radii = new Float64Array(MAX_PROBES)
const lightDraws = new Float64Array(3)

/**
 * Renders one pass of a tile.
 * @param x0 left pixel; y0 top pixel; w, h size, at most a tile's side
 * @param out linear Rec.709 of each pixel, row by row: w·h·3 numbers
 * @param first receives the first hits, when wanted
 * @param layers receives radiance by light and lobe, when wanted
 * @returns whether it came to its end; see {@link Tracer.stop}
 */
export function renderTile(
  t: Tracer,
  scene: RenderScene,
  x0: number,
  y0: number,
  w: number,
  h: number,
  width: number,
  height: number,
  pass: number,
  seed: number,
  out: Float64Array,
  first: FirstHits | null,
  layers: Layers | null = null,
): boolean {
  const n = w * h
  const { geometry, lights, camera } = scene
  t.rays = batchNear(geometry.hierarchy, t.rays, 1)
  t.shadows = batchNear(geometry.hierarchy, t.shadows, 2)
  startPaths(x0, y0, w, n, width, height, pass, seed, camera)
  counted.fill(0, 0, n)
  if (partsAround(scene).length > 0)
    for (let i = 0; i < n; i++) {
      loadWavelengths(i)
      beginInside(scene, i)
    }
  // what a pixel covers at a distance of one
  pixelAngle =
    ((Math.hypot(camera[6]!, camera[7]!, camera[8]!) / Math.hypot(camera[9]!, camera[10]!, camera[11]!)) * 2) /
    height
  let living = 0
  for (let i = 0; i < n; i++) if (t.only === null || t.only[i] !== 0) active[living++] = i
  t.counts.paths += living
  if (first) {
    first.part.fill(-1)
    first.albedo.fill(0)
    first.normal.fill(0)
    first.position.fill(0)
    first.depth.fill(0)
  }
  if (layers) beginLayers(layers, n)
  for (let bounce = 0; living > 0; bounce++) {
    if (t.stop !== null && t.stop()) return false
    const rays = t.rays
    for (let k = 0; k < living; k++) {
      const p = active[k]! * 3
      rays.origin[k * 3] = origin[p]!
      rays.origin[k * 3 + 1] = origin[p + 1]!
      rays.origin[k * 3 + 2] = origin[p + 2]!
      rays.direction[k * 3] = direction[p]!
      rays.direction[k * 3 + 1] = direction[p + 1]!
      rays.direction[k * 3 + 2] = direction[p + 2]!
      rays.distance[k] = Infinity
    }
    castClosest(geometry.hierarchy, rays, living)
    t.counts.rays += living
    // What the rays met: lights end a path, surfaces go on to shading.
    let shaded = 0
    let drifted = 0
    t.probes.count = 0
    for (let k = 0; k < living; k++) {
      const path = active[k]!
      const o = path * 3
      const c = path * CHANNELS
      const triangle = rays.triangle[k]!
      const distance = triangle >= 0 ? rays.distance[k]! : Infinity
      lit.distance = distance
      const panel = lights.panelCount > 0 ? hitPanel(lights, origin, direction, o, bounce === 0) : -1
      if (fills[path] === 2) {
        draw2(places[path]!, seeds[path]!, FIRST_PAIR + bounce * PAIRS + 5)
        const flight = fly(path, throughput, lit.distance, alone[path] ? hero[path]! : -1, drawn)
        if (flight >= 0) {
          counted[path] = 0
          if (drift(path, flight, bounce)) drifting[drifted++] = path
          continue
        }
        // nothing is left of what walks below an open surface
        if (walking[path]! >= 0 && (panel >= 0 || triangle < 0)) continue
      }
      if (fills[path] === 1) absorb(path, throughput, lit.distance)
      if (panel >= 0 || triangle < 0) {
        loadWavelengths(path)
        lit.sum = lightSum[path]!
        lit.unseen = unseen[path]!
        const light = panel >= 0 ? panel : environmentLight(lights)
        if (panel >= 0) {
          panelDensity(lights, panel, origin, direction, o, leftPart[path]!)
          panelRadiance(lights, panel)
        } else if (bounce === 0 && lights.backdrop !== null) {
          lit.r = lights.backdrop[0]
          lit.g = lights.backdrop[1]
          lit.b = lights.backdrop[2]
          lit.pdf = 0
        } else environmentRadiance(lights, direction, o)
        // what could have been drawn has come straight already
        if (counted[path] === 2 && lit.pdf > 0) continue
        // balance heuristic; where the light could not have been drawn, the direction counts whole
        const q = smoothBefore[path] ? 0 : lit.pdf
        lit.weight = q > 0 ? (lights.gather === 'lights' ? 0 : density[path]! / (density[path]! + q)) : 1
        if (layers) {
          brought.fill(0)
          addLight(brought, 0, throughput, c)
          for (let j = 0; j < CHANNELS; j++) radiance[c + j]! += brought[j]!
          deposit(layers, path, light, bounce === 0 ? BACKGROUND_LAYER : -1, brought, 0)
        } else addLight(radiance, c, throughput, c)
        continue
      }
      const S = points[path]!
      fillPoint(geometry, rays, k, direction, o, S)
      travelled[path]! += distance
      S[POINT.footprint] = (travelled[path]! * pixelAngle) / 2
      emitterPdf[path] = 0
      if (counted[path] === 2 && lights.emitters !== null && leafAt(lights.emitters, triangle) >= 0)
        emitterPdf[path] = Infinity
      else if (lights.emitters !== null && !smoothBefore[path]) {
        const leaf = leafAt(lights.emitters, triangle)
        if (leaf >= 0 && lightSum[path]! > 0) {
          lit.unseen = unseen[path]!
          emitterDensity(lights.emitters, geometry, leaf, origin, direction, o, distance)
          emitterPdf[path] =
            (drawnEmitter.pdf *
              emittersWeight(lights.emitters, origin, o) *
              visibility(lights, emissionLight(lights), leftPart[path]!)) /
            lightSum[path]!
        }
      }
      const material = scene.materials[scene.materialOf[S[POINT.part]!]!]!
      if (material.probes.length > 0) {
        material.shader.requests(S, material.constants, radii)
        draw2(places[path]!, seeds[path]!, FIRST_PAIR + bounce * PAIRS + 4)
        t.probes.ask(S, material.probes, radii, drawn)
      }
      shading[shaded++] = path
    }
    if (layers) for (let k = 0; k < living; k++) layers.cost[active[k]!]!++
    if (t.probes.count > 0) t.counts.rays += t.probes.answer(geometry.hierarchy)
    living = shade(t, scene, shaded, bounce, first, layers)
    for (let k = 0; k < drifted; k++) active[living++] = drifting[k]!
  }
  t.counts.lost += writeSamples(n, out)
  if (scene.clamp) holdSamples(n, scene.clamp, out, layers)
  return true
}

function anyStraight(materials: readonly Material[]): boolean {
  for (let i = 0; i < materials.length; i++) if (materials[i]!.straight) return true
  return false
}

/**
 * Shades the paths in `shading`, casts their shadow rays and leaves those that go on in `active`.
 * @returns how many go on
 */
function shade(
  t: Tracer,
  scene: RenderScene,
  shaded: number,
  bounce: number,
  first: FirstHits | null,
  layers: Layers | null,
): number {
  const { lights, geometry } = scene
  const shadows = t.shadows
  const straight = anyStraight(scene.materials)
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
    material.shader.shade(S, material.constants)
    let scatters = true
    if (leaving) {
      finishLeaving()
      emission.fill(0)
      endWalk(path)
    } else scatters = finishSurface()
    const priority = scene.priorityOf[part]!
    if (now.glass > 0 && isInGlass(path) && isHidden(path, part, priority)) {
      if (++specular[path]! > scene.maxSpecular) continue
      crossGlass(path, part, priority)
      goStraight(path, S)
      counted[path] = material.straight && counted[path]! > 0 ? 2 : 0
      active[living++] = path
      continue
    }
    if (now.disperses === 2 && !alone[path]) goAlone(path)
    if (first && bounce === 0) {
      first.part[path] = part
      first.depth[path] = Math.sqrt(
        (S[0]! - origin[o]!) ** 2 + (S[1]! - origin[o + 1]!) ** 2 + (S[2]! - origin[o + 2]!) ** 2,
      )
      for (let j = 0; j < 3; j++) {
        first.normal[o + j] = S[POINT.normal + j]!
        first.position[o + j] = S[j]!
      }
      surfaceAlbedo(first.albedo, o)
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
      if (layers) deposit(layers, path, emissionLight(lights), bounce === 0 ? EMISSION_LAYER : -1, brought, 0)
    }
    if (!scatters) continue
    const px = S[0]!
    const py = S[1]!
    const pz = S[2]!
    const shift = doubtOf(S)
    const pair = FIRST_PAIR + bounce * PAIRS
    const seed = seeds[path]!
    const place = places[path]!
    draw2(place, seed, pair)
    const pickLobe = drawn[0]!
    lightDraws[0] = drawn[1]!
    // what is smooth all over answers no drawn light; behind straight glass it still has to be known what could
    // have been drawn
    let sum = 0
    let dark = 0
    if (now.answers || material.straight) {
      weighLights(lights, S)
      sum = lit.sum
      dark = lit.unseen
    }
    if (sum > 0 && now.answers) {
      draw2(place, seed, pair + 1)
      lightDraws[1] = drawn[0]!
      lightDraws[2] = drawn[1]!
      if (sampleLight(lights, geometry, S, lightDraws)) {
        ask[ASK.x] = lit.x
        ask[ASK.y] = lit.y
        ask[ASK.z] = lit.z
        evaluateIncoming()
        const q = ask[ASK.pdf]!
        const inward = lit.x * now.gx + lit.y * now.gy + lit.z * now.gz <= 0
        if (q > 0 && !(inward && material.straight && counted[path]! > 0)) {
          const side = inward ? -shift : shift
          const s = shadowed * 3
          shadows.origin[s] = px + side * now.gx
          shadows.origin[s + 1] = py + side * now.gy
          shadows.origin[s + 2] = pz + side * now.gz
          shadows.direction[s] = lit.x
          shadows.direction[s + 1] = lit.y
          shadows.direction[s + 2] = lit.z
          shadows.distance[shadowed] = lit.distance * (1 - 1e-9)
          const v = shadowed * CHANNELS
          const open =
            lights.blockers === 0 ||
            !isBlocked(lights, shadows.origin, shadows.direction, s, shadows.distance[shadowed]!)
          if (layers?.lobes && bounce === 0) {
            whole.set(value)
            shareByLobe(layers.shadowShare, shadowed, whole, side < 0)
            value.set(whole)
          }
          lit.weight = 1 / (lights.gather === 'lights' ? lit.pdf : lit.pdf + q)
          shadowLight[shadowed] = lit.light
          shadowWhole[shadowed] = 1 / (lit.pdf * lit.weight)
          if (lit.light === emissionLight(lights)) {
            // the ray ends before its own triangle, from wherever it was shifted to; what that sends out is found
            // when the ray has arrived
            shadows.distance[shadowed] = lit.distance * (1 - 1e-6) - 4 * shift
            for (let j = 0; j < CHANNELS; j++) shadowValue[v + j] = value[j]! * throughput[c + j]! * lit.weight
            shadowPlace[shadowed] = drawnEmitter.place
            shadowAt[shadowed * 2] = drawnEmitter.u
            shadowAt[shadowed * 2 + 1] = drawnEmitter.v
          } else drawnLight(shadowValue, v, throughput, c)
          if (open) shadowOf[shadowed++] = path
        }
      }
    }
    draw2(place, seed, pair + 2)
    ask[ASK.choose] = pickLobe
    ask[ASK.u] = drawn[0]!
    ask[ASK.v] = drawn[1]!
    if (!sampleDrawn()) continue
    const glassy = scattered.passage === PASSAGE.glass
    const walks = scattered.passage === PASSAGE.walk
    if ((scattered.smooth && !walks) || glassy) {
      if (++specular[path]! > scene.maxSpecular) continue
    } else if (++opaque[path]! > scene.maxOpaque) continue
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
      draw2(place, seed, pair + 3)
      if (drawn[0]! >= survive) continue
      for (let j = 0; j < CHANNELS; j++) throughput[c + j]! /= survive
    }
    if (scattered.transmitted) {
      if (glassy) crossGlass(path, part, priority)
      else if (walks) beginWalk(path, part)
    }
    const side = scattered.transmitted ? -shift : shift
    origin[o] = px + side * now.gx
    origin[o + 1] = py + side * now.gy
    origin[o + 2] = pz + side * now.gz
    direction[o] = scattered.x
    direction[o + 1] = scattered.y
    direction[o + 2] = scattered.z
    smoothBefore[path] = scattered.smooth ? 1 : 0
    counted[path] =
      material.straight && counted[path]! > 0 && scattered.transmitted && !walks ? 2 : scattered.smooth ? 0 : 1
    density[path] = scattered.pdf
    lightSum[path] = sum
    leftPart[path] = part
    unseen[path] = dark
    active[living++] = path
  }
  // what the camera sees directly is known now
  if (bounce === 0 && scene.clamp) keepSeen(layers)
  if (shadowed > 0) {
    castAny(geometry.hierarchy, shadows, shadowed)
    t.counts.rays += shadowed
    for (let k = 0; k < shadowed; k++) {
      const c = shadowOf[k]! * CHANNELS
      const v = k * CHANNELS
      if (shadows.triangle[k]! >= 0 && !(straight && followStraight(scene, shadows, k))) continue
      if (shadowLight[k] === emissionLight(lights)) arrive(scene, shadows.direction, shadows.distance[k]!, k, v)
      radiance[c]! += shadowValue[v]!
      radiance[c + 1]! += shadowValue[v + 1]!
      radiance[c + 2]! += shadowValue[v + 2]!
      radiance[c + 3]! += shadowValue[v + 3]!
      radiance[c + 4]! += shadowValue[v + 4]!
      radiance[c + 5]! += shadowValue[v + 5]!
      radiance[c + 6]! += shadowValue[v + 6]!
      if (layers) depositDrawn(layers, shadowOf[k]!, shadowLight[k]!, k, bounce === 0, shadowValue, v)
    }
    if (layers) for (let k = 0; k < shadowed; k++) layers.cost[shadowOf[k]!]!++
  }
  return living
}

/**
 * Follows a shadow ray that something lies in the way of through glass that it may pass straight, and weighs it
 * with what is left.
 * @returns whether anything is left
 */
function followStraight(scene: RenderScene, shadows: Tracer['shadows'], k: number): boolean {
  loadWavelengths(shadowOf[k]!)
  if (!passStraight(scene, shadows, k, (travelled[shadowOf[k]!]! * pixelAngle) / 2)) return false
  for (let j = 0; j < CHANNELS; j++) shadowValue[k * CHANNELS + j]! *= passed[j]! * shadowWhole[k]!
  return true
}

/**
 * A path passes a face that does not count. No drawn light came through it, so what it meets next counts whole.
 */
function goStraight(path: number, S: Float64Array): void {
  const o = path * 3
  const side = now.outside ? -doubtOf(S) : doubtOf(S)
  for (let j = 0; j < 3; j++) origin[o + j] = S[j]! + side * S[POINT.geometric + j]!
  smoothBefore[path] = 1
}

/** Weighs a shadow ray with what the triangle it arrived at sends out there. */
function arrive(scene: RenderScene, directions: Float64Array, distance: number, k: number, v: number): void {
  const { geometry } = scene
  arrival.triangle[0] = shadowPlace[k]!
  arrival.u[0] = shadowAt[k * 2]!
  arrival.v[0] = shadowAt[k * 2 + 1]!
  fillPoint(geometry, arrival, 0, directions, k * 3, shining)
  shining[POINT.footprint] = ((travelled[shadowOf[k]!]! + distance) * pixelAngle) / 2
  const material = scene.materials[scene.materialOf[shining[POINT.part]!]!]!
  loadWavelengths(shadowOf[k]!)
  beginSurfaceAt(shining)
  material.shader.shade(shining, material.constants)
  for (let j = 0; j < CHANNELS; j++) shadowValue[v + j]! *= emission[j]!
}
