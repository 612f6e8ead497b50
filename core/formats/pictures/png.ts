import { decode as decodePng, encode as encodePng } from 'fast-png'
import { FormatError } from '../error'
import { checkPromise, DEFLATE_MOST } from '../promises'
import { LARGEST_PICTURE, type Picture, type PictureFormat } from './picture'

/** Samples a pixel by the kind of colour in the header (PNG, table 11.1). */
const SAMPLES = new Map([
  [0, 1],
  [2, 3],
  [3, 1],
  [4, 2],
  [6, 4],
])

/** Holds what the header promises against what can be. */
function checkHeader(view: DataView): void {
  const [width, height] = [view.getUint32(16), view.getUint32(20)]
  const [depth, samples] = [view.getUint8(24), SAMPLES.get(view.getUint8(25))]
  if (!(width > 0 && height > 0) || width * height > LARGEST_PICTURE || !samples)
    throw new FormatError('PNG', `${width} × ${height} pixels cannot be read; the limit is ${LARGEST_PICTURE}`)
  const raw = (width * height * samples * depth) / 8
  checkPromise({
    format: 'PNG',
    what: `${width} × ${height} pixels`,
    // filtered and unfiltered rows, and the picture
    needs: 2 * raw + width * height * 4 * (depth === 16 ? 4 : 1),
    least: raw / DEFLATE_MOST,
    file: view.byteLength,
  })
}

function readPng(bytes: Uint8Array): Picture {
  if (bytes.length < 33) throw new FormatError('PNG', 'the file ends inside its header', `byte ${bytes.length}`)
  checkHeader(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength))
  let png
  try {
    png = decodePng(bytes, { checkCrc: true })
  } catch (e) {
    throw new FormatError('PNG', e instanceof Error ? e.message : 'the file is damaged')
  }
  const { width, height, depth, palette } = png
  const n = png.channels
  if (depth < 8 && !palette) throw new FormatError('PNG', `${depth} bits a channel are not read; 8 and 16 are`)
  const pixels = width * height
  const indexed = palette !== undefined && n === 1
  const scale = depth === 16 ? 1 / 65535 : 1
  const out = depth === 16 ? new Float32Array(pixels * 4) : new Uint8Array(pixels * 4)
  const white = depth === 16 ? 1 : 255
  if (indexed) {
    const perByte = 8 / depth
    const stride = Math.ceil(width / perByte)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const index =
          depth === 8
            ? png.data[y * width + x]!
            : (png.data[y * stride + Math.floor(x / perByte)]! >> (8 - depth - (x % perByte) * depth)) &
              ((1 << depth) - 1)
        const colour = palette[index] ?? [0, 0, 0]
        out.set([colour[0]!, colour[1]!, colour[2]!, colour[3] ?? 255], (y * width + x) * 4)
      }
    return { width, height, data: out }
  }
  for (let i = 0; i < pixels; i++) {
    const o = i * n
    const grey = n < 3
    out[i * 4] = png.data[o]! * scale
    out[i * 4 + 1] = png.data[grey ? o : o + 1]! * scale
    out[i * 4 + 2] = png.data[grey ? o : o + 2]! * scale
    out[i * 4 + 3] = n === 4 ? png.data[o + 3]! * scale : n === 2 ? png.data[o + 1]! * scale : white
  }
  return { width, height, data: out, ...(depth === 16 ? { depth: 'sixteen' as const } : {}) }
}

export const png: PictureFormat = {
  name: 'PNG',
  endings: ['png'],
  type: 'image/png',
  magic: [0x89, 0x50, 0x4e, 0x47],
  read: readPng,
}

/** Writes an RGBA, RGB or grey PNG: 8 bits by bytes, marked as sRGB; 16 by words. */
export function writePng(
  width: number,
  height: number,
  data: Uint8Array | Uint16Array,
  channels: 1 | 3 | 4 = 4,
): Uint8Array {
  return encodePng({ width, height, data, channels, depth: data instanceof Uint16Array ? 16 : 8 })
}
