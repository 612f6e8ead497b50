/** What reads and writes files, fetched by the loader when there is a file to read or to write. */
export { rgbChannels, writeExr } from '../../core/formats/exr'
export { readGlb } from '../../core/formats/glb'
export { writeGlb } from '../../core/formats/glb-write'
export { extentOf, readModelFiles, scaleModel } from '../../core/formats/model-files'
export { readPicture, writePng } from '../../core/formats/image'
