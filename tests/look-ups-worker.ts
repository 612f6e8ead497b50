/** Looks two maps of one picture up at the same places, and says how often they differ; for tests with real threads. */
import { parentPort, workerData } from 'node:worker_threads'
import { memory } from '../core/expression/memory'
import { lookUp } from '../core/maps/look-up'
import type { TextureMap } from '../core/maps/map'
import { openMap } from '../core/maps/texture'

const { whole, paged, file, first, count } = workerData as {
  whole: TextureMap
  paged: TextureMap
  /** What the paged map's tiles are in. */
  file: SharedArrayBuffer
  first: number
  count: number
}
const { result } = memory
const known = openMap(whole)
const asked = openMap(paged, () => ({
  read: (at, into) => into.set(new Uint8Array(file, at, into.length)),
}))
const was = new Float64Array(4)
let differences = 0
for (let i = first; i < first + count; i++) {
  const u = (i * 0.7548776662466927) % 1
  const v = (i * 0.5698402909980532) % 1
  const half = i % 3 === 0 ? 0.002 : 0
  lookUp(known, u, v, 2, 2, 0, 0, 0, 0, 0, half, 0, 0, half)
  was.set(result)
  lookUp(asked, u, v, 2, 2, 0, 0, 0, 0, 0, half, 0, 0, half)
  if (was.some((x, k) => x !== result[k])) differences++
}
parentPort!.postMessage(differences)
