/** What reads and writes files, fetched by the loader when there is a file to read or to write. */
export { rgbChannels, writeExr } from '../../core/formats/exr'
export { modelOf, parseGlb, readGlb } from '../../core/formats/glb'
export { materialsOfGltf } from '../../core/formats/gltf-materials'
export { readPicture, writePng } from '../../core/formats/image'
