/** What the lobes of microfacets share: terms of their distribution, and drawing one that the viewer sees. */
import { ggxD, ggxLambda, grainD, grainLambda, sampledNormal, sampleVisibleNormal } from './ggx'
import { cosineWithin } from './medium'
import { memory, now, scattered } from './memory'
import { buildFrame, toWorld } from './frame'
import { ASK, FACET, LOBE } from './slots'

const { ask, facet, frame, lobes } = memory

/** D and both Λ of the lobe at o, which has a grain, for the half vector and the light in `memory.facet`. */
export function askGrain(o: number): void {
  const tx = lobes[o + LOBE.tx]!
  const ty = lobes[o + LOBE.tx + 1]!
  const tz = lobes[o + LOBE.tx + 2]!
  const bx = lobes[o + LOBE.bx]!
  const by = lobes[o + LOBE.bx + 1]!
  const bz = lobes[o + LOBE.bx + 2]!
  const ax = lobes[o + LOBE.ax]!
  const ay = lobes[o + LOBE.ay]!
  const hx = facet[FACET.hx]!
  const hy = facet[FACET.hy]!
  const hz = facet[FACET.hz]!
  const ix = facet[FACET.x]!
  const iy = facet[FACET.y]!
  const iz = facet[FACET.z]!
  facet[FACET.D] = grainD(hx * tx + hy * ty + hz * tz, hx * bx + hy * by + hz * bz, facet[FACET.ch]!, ax, ay)
  facet[FACET.lambdaO] = grainLambda(
    now.ox * tx + now.oy * ty + now.oz * tz,
    now.ox * bx + now.oy * by + now.oz * bz,
    lobes[o + LOBE.cosine]!,
    ax,
    ay,
  )
  facet[FACET.lambdaI] = grainLambda(
    ix * tx + iy * ty + iz * tz,
    ix * bx + iy * by + iz * bz,
    facet[FACET.light]!,
    ax,
    ay,
  )
}

/**
 * Terms of the lobe at o for the light in `memory.facet`: cosine, visible and shaped (Walter et al. 2007, eq. 20
 * over Fresnel's factor; Heitz 2018, eq. 3).
 * @returns false where no facet mirrors
 */
export function askFacets(o: number): boolean {
  const ix = facet[FACET.x]!
  const iy = facet[FACET.y]!
  const iz = facet[FACET.z]!
  const ci = facet[FACET.light]!
  let hx = ix + now.ox
  let hy = iy + now.oy
  let hz = iz + now.oz
  const inverse = 1 / Math.sqrt(hx * hx + hy * hy + hz * hz)
  hx *= inverse
  hy *= inverse
  hz *= inverse
  const co = lobes[o + LOBE.cosine]!
  const ch = Math.min(1, lobes[o + LOBE.nx]! * hx + lobes[o + LOBE.ny]! * hy + lobes[o + LOBE.nz]! * hz)
  if (ch <= 0) return false
  facet[FACET.cosine] = Math.min(1, Math.max(0, now.ox * hx + now.oy * hy + now.oz * hz))
  if (lobes[o + LOBE.grain] === 1) {
    facet[FACET.hx] = hx
    facet[FACET.hy] = hy
    facet[FACET.hz] = hz
    facet[FACET.ch] = ch
    askGrain(o)
    facet[FACET.visible] = facet[FACET.D]! / (4 * co * (1 + facet[FACET.lambdaO]!))
    facet[FACET.shaped] = facet[FACET.D]! / (4 * co * (1 + facet[FACET.lambdaO]! + facet[FACET.lambdaI]!))
    return true
  }
  const alpha = lobes[o + LOBE.alpha]!
  const D = ggxD(ch, alpha)
  const lo = ggxLambda(co, alpha)
  const li = ggxLambda(ci, alpha)
  facet[FACET.visible] = D / (4 * co * (1 + lo))
  facet[FACET.shaped] = D / (4 * co * (1 + lo + li))
  return true
}

/**
 * Draws a facet that the viewer sees, by ask[u, v]: its normal goes to h of `memory.facet`, the viewer's cosine
 * there to cosine, the direction it mirrors the viewer to into `scattered`. A smooth lobe has one facet, its
 * normal.
 * @returns false where it turns away from the viewer
 */
export function drawFacet(o: number): boolean {
  const alpha = lobes[o + LOBE.alpha]!
  const nx = lobes[o + LOBE.nx]!
  const ny = lobes[o + LOBE.ny]!
  const nz = lobes[o + LOBE.nz]!
  const { ox, oy, oz } = now
  let hx = nx
  let hy = ny
  let hz = nz
  if (alpha > 0) {
    buildFrame(o)
    const grain = lobes[o + LOBE.grain] === 1
    const lx = frame[0]! * ox + frame[1]! * oy + frame[2]! * oz
    const ly = frame[3]! * ox + frame[4]! * oy + frame[5]! * oz
    const lz = Math.max(1e-5, nx * ox + ny * oy + nz * oz)
    if (grain) sampleVisibleNormal(lx, ly, lz, lobes[o + LOBE.ax]!, ask[ASK.u]!, ask[ASK.v]!, lobes[o + LOBE.ay]!)
    else sampleVisibleNormal(lx, ly, lz, alpha, ask[ASK.u]!, ask[ASK.v]!)
    toWorld(sampledNormal[0]!, sampledNormal[1]!, sampledNormal[2]!, nx, ny, nz)
    hx = scattered.x
    hy = scattered.y
    hz = scattered.z
  }
  const oh = alpha > 0 ? Math.min(1, ox * hx + oy * hy + oz * hz) : lobes[o + LOBE.cosine]!
  if (oh <= 0) return false
  facet[FACET.hx] = hx
  facet[FACET.hy] = hy
  facet[FACET.hz] = hz
  facet[FACET.cosine] = oh
  const d = 2 * (ox * hx + oy * hy + oz * hz)
  scattered.x = d * hx - ox
  scattered.y = d * hy - oy
  scattered.z = d * hz - oz
  return true
}

/** Bends the facet's cosine to what it is in the matter that the lobe at o lies in. */
export function intoMedium(o: number): void {
  facet[FACET.cosine] = cosineWithin(facet[FACET.cosine]!, lobes[o + LOBE.shrink]!)
}

/** Whether the direction drawn leaves on the viewer's side of the geometry. */
export const leavesHere = (): boolean => !(scattered.x * now.gx + scattered.y * now.gy + scattered.z * now.gz <= 0)

/** Whether the direction drawn leaves the facets of the lobe at o for good. */
export const leavesFacets = (o: number): boolean =>
  scattered.x * lobes[o + LOBE.nx]! + scattered.y * lobes[o + LOBE.ny]! + scattered.z * lobes[o + LOBE.nz]! > 0

/** Cosine at which the facet that reflects the viewer to the direction drawn, or passes it at index t, meets it. */
export function cosineAtFacet(t: number): number {
  const hx = now.ox + t * scattered.x
  const hy = now.oy + t * scattered.y
  const hz = now.oz + t * scattered.z
  return Math.min(1, Math.abs(hx * now.ox + hy * now.oy + hz * now.oz) / Math.hypot(hx, hy, hz))
}
