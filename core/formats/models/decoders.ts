/** What unpacks the meshes of glTF files: fetched when a file asks for it. */
import { FormatError } from '../error'

/** Makes the decoder of draco3dgltf; its host knows where the binary lies. */
type LoadDraco = () => Promise<unknown>
let loadDraco: LoadDraco | undefined

/** Says how Draco's decoder is loaded. */
export function setDraco(load: LoadDraco): void {
  loadDraco = load
}

/**
 * Decoders that a file needs, by the names under which gltf-transform takes them.
 * @throws FormatError where one of them cannot be had here
 */
export async function decodersFor(extensions: readonly string[]): Promise<Record<string, unknown>> {
  const decoders: Record<string, unknown> = {}
  if (extensions.includes('EXT_meshopt_compression')) {
    const { MeshoptDecoder } = await import('meshoptimizer/decoder')
    await MeshoptDecoder.ready
    decoders['meshopt.decoder'] = MeshoptDecoder
  }
  if (extensions.includes('KHR_draco_mesh_compression')) {
    if (!loadDraco) throw new FormatError('glTF', 'its meshes are packed by Draco, which is not unpacked here')
    decoders['draco3d.decoder'] = await loadDraco()
  }
  return decoders
}
