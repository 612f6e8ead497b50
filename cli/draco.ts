import { createRequire } from 'node:module'

/** Makes Draco's decoder, whose package finds its binary beside itself. */
export async function loadDraco(): Promise<unknown> {
  const create = createRequire(import.meta.url)(
    'draco3dgltf/draco_decoder_gltf_nodejs.js',
  ) as () => Promise<unknown>
  return create()
}
