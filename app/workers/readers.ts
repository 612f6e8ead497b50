/** What reads and writes files, fetched by the loader when there is a file to read or to write. */
export { rgbChannels, writeExr } from '../../core/formats/pictures/exr'
export { readGlb } from '../../core/formats/models/glb'
export { writeGlb } from '../../core/formats/models/glb-write'
export { readModelFiles } from '../../core/formats/models'
export { extentOf, scaleModel } from '../../core/mesh/extent'
export { readPicture } from '../../core/formats/pictures'
export { writePng } from '../../core/formats/pictures/png'
