/**
 * Curvature by probing rays, from the ball integral invariant (Pottmann, Wallner, Huang & Yang 2009, "Integral
 * invariants for robust geometry processing"): the volume of the solid inside a ball of radius r about a surface
 * point is V = 2π/3·r³ − π/4·H·r⁴ + O(r⁵), with mean curvature H. Rays from the point measure V: into
 * the solid, one that leaves after t fills t³ of its cone instead of r³; out of it, one that meets the solid at t
 * adds r³ − t³. So H·r = 8/3·(I − O), with I and O the means of 1 − (t/r)³ over the inner and the outer
 * hemisphere. What a node returns is H·r: 0 on a plane, 1 on a sphere of that radius, 4/3 on a right-angled edge.
 * Convex is I alone, concave O alone, both their signed difference. On a plane the estimate has no noise at all.
 */
import { POINT } from '../point/slots'
import { CIRCLE, onCircle } from '../surface/circle'
import { orthonormal } from '../surface/orthonormal'
import { batchNear, castClosest, createRayBatch } from '../trace/cast'
import type { Hierarchy } from '../trace/hierarchy'
import { doubtOf } from '../scene/fill-point'

/** Rays a probe and hemisphere. */
const RAYS = 6
const CAPACITY = 256

export interface Probes {
  /** Rays asked for and not yet answered. */
  count: number
  /** Asks for the probes of a point. Nothing is asked for a radius of zero or less. */
  ask(
    S: Float64Array,
    sides: readonly ('convex' | 'concave' | 'both')[],
    radii: Float64Array,
    draws: Float64Array,
  ): void
  /** Casts what was asked for, writes the results into the points. @returns rays cast */
  answer(h: Hierarchy): number
}

/** Working memory for the probes of a batch of points. */
export function createProbes(points: number): Probes {
  const most = points * RAYS * 2 * 6
  let batch = createRayBatch(CAPACITY)
  // grown when first needed: most materials ask for nothing
  let rays = new Float64Array(0)
  let targets: (Float64Array | null)[] = []
  let slot = new Int32Array(0)
  let gain = new Float64Array(0)
  const frame = new Float64Array(6)
  const grow = () => {
    rays = new Float64Array(most * 7)
    targets = new Array(most).fill(null)
    slot = new Int32Array(most)
    gain = new Float64Array(most)
  }
  const probes: Probes = {
    count: 0,
    ask(S, sides, radii, draws) {
      const u = draws[0]!
      const v = draws[1]!
      if (!targets.length) grow()
      const nx = S[POINT.geometric]!
      const ny = S[POINT.geometric + 1]!
      const nz = S[POINT.geometric + 2]!
      const shift = doubtOf(S)
      orthonormal(frame, nx, ny, nz)
      for (let p = 0; p < sides.length; p++) {
        const r = radii[p]!
        const side = sides[p]!
        S[POINT.probe + p] = 0
        if (!(r > 0 && r < 1e6)) continue
        for (let half = 0; half < 2; half++) {
          if ((half === 0 && side === 'concave') || (half === 1 && side === 'convex')) continue
          const out = half === 0 ? -1 : 1
          for (let k = 0; k < RAYS; k++) {
            let x = u + (k + 0.5) / RAYS
            let y = v + k * 0.618033988749895
            x -= Math.floor(x)
            y -= Math.floor(y)
            onCircle(y)
            const s = Math.sqrt(Math.max(0, 1 - x * x))
            const cx = s * CIRCLE[0]!
            const cy = s * CIRCLE[1]!
            const cz = x * out
            const i = probes.count++
            const o = i * 7
            rays[o] = S[POINT.position]! + out * shift * nx
            rays[o + 1] = S[POINT.position + 1]! + out * shift * ny
            rays[o + 2] = S[POINT.position + 2]! + out * shift * nz
            rays[o + 3] = frame[0]! * cx + frame[3]! * cy + nx * cz
            rays[o + 4] = frame[1]! * cx + frame[4]! * cy + ny * cz
            rays[o + 5] = frame[2]! * cx + frame[5]! * cy + nz * cz
            rays[o + 6] = r
            targets[i] = S
            slot[i] = POINT.probe + p
            gain[i] = (side === 'both' && half === 1 ? -8 : 8) / 3 / RAYS
          }
        }
      }
    },
    answer(h) {
      const n = probes.count
      batch = batchNear(h, batch, 3)
      for (let start = 0; start < n; start += CAPACITY) {
        const m = Math.min(CAPACITY, n - start)
        for (let i = 0; i < m; i++) {
          const o = (start + i) * 7
          for (let k = 0; k < 3; k++) {
            batch.origin[i * 3 + k] = rays[o + k]!
            batch.direction[i * 3 + k] = rays[o + 3 + k]!
          }
          batch.distance[i] = rays[o + 6]!
        }
        castClosest(h, batch, m)
        for (let i = 0; i < m; i++) {
          if (batch.triangle[i]! < 0) continue
          const f = batch.distance[i]! / rays[(start + i) * 7 + 6]!
          targets[start + i]![slot[start + i]!]! += gain[start + i]! * (1 - f * f * f)
        }
      }
      probes.count = 0
      return n
    },
  }
  return probes
}
