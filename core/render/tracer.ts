/** What a thread traces with. */
import type { RayBatch } from '../trace/ray-batch'
import { createRayBatch } from '../trace/cast'
import { BATCH } from './film'
import { createFewRays, type FewRays } from '../fields/few-rays'
import { MAX_FIELDS } from '../point/slots'

/** Counters of {@link Tracer}. */
export interface Counts {
  paths: number
  rays: number
  lost: number
  /** Paths that were ended by the most bounces there may be, with what they still carried. */
  cut: number
}

/** Working memory of one thread. */
export interface Tracer {
  rays: RayBatch
  shadows: RayBatch
  fewRays: FewRays
  counts: Counts
  /** Asked before every bounce; where it says so the tile is left as it is, and what it gave is worth nothing. */
  stop: (() => boolean) | null
  /** Which pixels of the tile are wanted, row by row; null for all. The others come out black. */
  only: Uint8Array | null
}

export const createTracer = (): Tracer => ({
  rays: createRayBatch(BATCH),
  shadows: createRayBatch(BATCH),
  fewRays: createFewRays(BATCH * MAX_FIELDS),
  counts: { paths: 0, rays: 0, lost: 0, cut: 0 },
  stop: null,
  only: null,
})
