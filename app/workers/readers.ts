/** What reads and writes files, fetched by the loader when there is a file to read or to write. */
import dracoBinary from 'draco3dgltf/draco_decoder_gltf.wasm?url'
import { setDraco } from '../../core/formats/models/decoders'

export { rgbChannels, writeExr } from '../../core/formats/pictures/exr'
export { readGlb } from '../../core/formats/models/glb'
export { writeGlb } from '../../core/formats/models/glb-write'
export { readModelFiles } from '../../core/formats/models'
export { extentOf, scaleModel } from '../../core/mesh/extent'
export { readPicture } from '../../core/formats/pictures'
export { writePng } from '../../core/formats/pictures/png'

setDraco(async () => {
  const { default: create } = await import('draco3dgltf/draco_decoder_gltf_nodejs.js')
  const wasmBinary = await (await fetch(dracoBinary)).arrayBuffer()
  return create({ wasmBinary })
})
