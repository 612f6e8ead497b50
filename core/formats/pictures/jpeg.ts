import { decode as decodeJpeg } from 'jpeg-js'
import { FormatError } from '../error'
import { checkPromise } from '../promises'
import { jpegSegments } from './jpeg-segments'
import { oriented, orientationOfJpeg } from './orientation'
import type { Picture, PictureFormat } from './picture'

/** Markers that begin a frame (ISO/IEC 10918-1, table B.1): SOF0 to SOF15, but for DHT, JPG and DAC among them. */
const isFrame = (marker: number): boolean =>
  marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker)

/** Holds what the frame header promises (ISO/IEC 10918-1, B.2.2) against what can be. */
function checkHeader(bytes: Uint8Array): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  for (const { marker, at, length } of jpegSegments(bytes)) {
    if (!isFrame(marker)) continue
    if (length < 8 || at + length > bytes.length) break
    const [height, width, count] = [view.getUint16(at + 3), view.getUint16(at + 5), bytes[at + 7]!]
    if (length < 8 + 3 * count) break
    const sampling = Array.from({ length: count }, (_, c) => bytes[at + 9 + c * 3]!)
    const [h, v] = [sampling.map(s => s >> 4), sampling.map(s => s & 15)]
    const area = Math.max(...h) * Math.max(...v)
    /** Samples a pixel, all components together. */
    const samples = area > 0 ? h.reduce((n, x, c) => n + x * v[c]!, 0) / area : count
    const pixels = width * height
    checkPromise({
      format: 'JPEG',
      what: `${width} × ${height} pixels`,
      // coefficients as words with what the decoder holds about each block, samples, and the picture
      needs: pixels * (samples * 7 + 4),
      // a block takes one bit at least
      least: (pixels * samples) / 64 / 8,
      file: bytes.length,
    })
    return
  }
}

function readJpeg(bytes: Uint8Array): Picture {
  checkHeader(bytes)
  try {
    const { width, height, data } = decodeJpeg(bytes, {
      useTArray: true,
      formatAsRGBA: true,
      maxResolutionInMP: 256,
      // its own count; ours is held before it begins
      maxMemoryUsageInMB: 8192,
      tolerantDecoding: false,
    })
    return oriented({ width, height, data }, orientationOfJpeg(bytes))
  } catch (e) {
    throw new FormatError('JPEG', e instanceof Error ? e.message : 'the file is damaged')
  }
}

export const jpeg: PictureFormat = {
  name: 'JPEG',
  endings: ['jpg', 'jpeg'],
  type: 'image/jpeg',
  magic: [0xff, 0xd8, 0xff],
  read: readJpeg,
}
