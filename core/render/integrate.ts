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
import { letsShadowsPass } from '../light/emitters'
import type { RenderScene } from '../world/render-scene'
import { batchNear, castClosest } from '../trace/cast'
import { beginInside, partsAround } from './around'
import { answerFields } from './fields'
import type { FirstHits } from './first-hits'
import { holdSamples } from './hold'
import { beginLayers, type Layers } from './layers'
import { meet, met } from './meet'
import { memory, tile } from './memory'
import { loadWavelengths, startPaths, writeSamples } from './paths'
import { shade } from './shade'
import type { Tracer } from './tracer'

const { active, counted, direction, drifting, origin } = memory

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
  const { geometry, camera } = scene
  t.rays = batchNear(geometry.hierarchy, t.rays, 1)
  t.shadows = batchNear(geometry.hierarchy, t.shadows, 2)
  // what a pixel covers at a distance of one
  tile.pixelAngle =
    ((Math.hypot(camera[6]!, camera[7]!, camera[8]!) / Math.hypot(camera[9]!, camera[10]!, camera[11]!)) * 2) /
    height
  tile.shadowsPass = scene.materials.some(letsShadowsPass)
  startPaths(x0, y0, w, n, width, height, pass, seed, camera)
  counted.fill(0, 0, n)
  if (partsAround(scene).length > 0)
    for (let i = 0; i < n; i++) {
      loadWavelengths(i)
      beginInside(scene, i)
    }
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
    meet(t, scene, living, bounce, layers)
    if (layers) for (let k = 0; k < living; k++) layers.cost[active[k]!]!++
    t.counts.rays += answerFields(t, geometry)
    living = shade(t, scene, met.shaded, bounce, first, layers)
    for (let k = 0; k < met.drifted; k++) active[living++] = drifting[k]!
  }
  t.counts.lost += writeSamples(n, out)
  if (scene.clamp) holdSamples(n, scene.clamp, out, layers)
  return true
}
