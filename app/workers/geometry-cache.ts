import { GEOMETRY_VERSION, packGeometry, unpackGeometry } from '../../core/scene/geometry-pack'
import type { Geometry } from '../../core/scene/geometry'

const STORE = 'wavelume-geometry'
/** Geometries kept at most. */
const MOST = 12
const address = (key: string) => `/kept/geometry/${GEOMETRY_VERSION}/${encodeURIComponent(key)}`

/**
 * Geometry that this browser built earlier for the same model and the same hidden parts. What goes wrong with the
 * browser's store counts as not kept.
 */
export async function keptGeometry(key: string): Promise<Geometry | undefined> {
  try {
    const answer = await (await caches.open(STORE)).match(address(key))
    return (
      answer && unpackGeometry(new Uint8Array(await answer.arrayBuffer()), bytes => new SharedArrayBuffer(bytes))
    )
  } catch {
    return undefined
  }
}

export async function keepGeometry(key: string, g: Geometry): Promise<void> {
  try {
    const store = await caches.open(STORE)
    for (const old of (await store.keys()).slice(0, 1 - MOST)) await store.delete(old)
    await store.put(address(key), new Response(packGeometry(g) as Uint8Array<ArrayBuffer>))
  } catch {
    /* a full store only means building again */
  }
}
