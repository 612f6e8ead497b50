/**
 * Fields by a few rays a point: noisy, and nothing is kept. For coarse pictures, which stand for a moment; a picture
 * that is kept never has these, for the mean of what a network makes of a noisy number is not what it makes of the true
 * one. On a plane the estimate has no noise at all.
 */
import { POINT } from '../point/slots'
import { doubtOf } from '../scene/fill-point'
import { CIRCLE, onCircle } from '../surface/circle'
import { orthonormal } from '../surface/orthonormal'
import { batchNear, castClosest, createRayBatch } from '../trace/cast'
import type { Hierarchy } from '../trace/hierarchy'
import { NUMBERED } from './measure'
import type { FieldUse } from './use'

/** Rays a point, field and side. */
const RAYS = 6
const CAPACITY = 256
/** Which of a memory's batches is used. */
const BATCH = 3

export interface FewRays {
  /** Rays asked for and not yet answered. */
  count: number
  /** Asks for a field at a point, by two draws in 0..1. @param slot which of the point's fields it is */
  ask(S: Float64Array, slot: number, use: FieldUse, radius: number, draws: Float64Array): void
  /** Casts what was asked for, adds the results to the points. @returns rays cast */
  answer(h: Hierarchy): number
}

/** Working memory for so many fields. */
export function createFewRays(most: number): FewRays {
  const room = most * RAYS * 2
  let batch = createRayBatch(CAPACITY)
  // grown when first needed: most materials ask for nothing
  let rays = new Float64Array(0)
  let targets: (Float64Array | null)[] = []
  let slots = new Int32Array(0)
  let fieldOf = new Int32Array(0)
  let gain = new Float64Array(0)
  const frame = new Float64Array(6)
  const grow = () => {
    rays = new Float64Array(room * 7)
    targets = new Array(room).fill(null)
    slots = new Int32Array(room)
    fieldOf = new Int32Array(room)
    gain = new Float64Array(room)
  }
  const few: FewRays = {
    count: 0,
    ask(S, at, { field, inside, outside }, radius, draws) {
      if (!targets.length) grow()
      const nx = S[POINT.geometric]!
      const ny = S[POINT.geometric + 1]!
      const nz = S[POINT.geometric + 2]!
      const shift = doubtOf(S)
      orthonormal(frame, nx, ny, nz)
      const even = NUMBERED[field]!.spread === 'even'
      for (let half = 0; half < 2; half++) {
        const weight = half === 0 ? inside : outside
        if (weight === 0) continue
        const out = half === 0 ? -1 : 1
        for (let k = 0; k < RAYS; k++) {
          let x = draws[0]! + (k + 0.5) / RAYS
          let y = draws[1]! + k * 0.618033988749895
          x -= Math.floor(x)
          y -= Math.floor(y)
          if (!even) x = Math.sqrt(x)
          onCircle(y)
          const s = Math.sqrt(Math.max(0, 1 - x * x))
          const cx = s * CIRCLE[0]!
          const cy = s * CIRCLE[1]!
          const cz = x * out
          const i = few.count++
          const o = i * 7
          rays[o] = S[POINT.position]! + out * shift * nx
          rays[o + 1] = S[POINT.position + 1]! + out * shift * ny
          rays[o + 2] = S[POINT.position + 2]! + out * shift * nz
          rays[o + 3] = frame[0]! * cx + frame[3]! * cy + nx * cz
          rays[o + 4] = frame[1]! * cx + frame[4]! * cy + ny * cz
          rays[o + 5] = frame[2]! * cx + frame[5]! * cy + nz * cz
          rays[o + 6] = radius
          targets[i] = S
          slots[i] = at
          fieldOf[i] = field
          gain[i] = weight / RAYS
        }
      }
    },
    answer(h) {
      const n = few.count
      batch = batchNear(h, batch, BATCH)
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
          const r = start + i
          const far = batch.triangle[i]! < 0 ? 1 : Math.min(1, batch.distance[i]! / rays[r * 7 + 6]!)
          targets[r]![slots[r]!]! += gain[r]! * NUMBERED[fieldOf[r]!]!.tells(far)
        }
      }
      few.count = 0
      return n
    },
  }
  return few
}
