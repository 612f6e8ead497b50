import { decode as decodePng, encode as encodePng } from 'fast-png'
import { decode as decodeJpeg } from 'jpeg-js'
import { FormatError } from './error'
import type { Picture } from './picture'
import { readExr } from './exr'
import { readHdr } from './hdr'

/** Largest picture read, pixels. */
export const LARGEST_PICTURE = 16384 * 8192

/** Kind of a file by its first bytes. */
export function sniff(bytes: Uint8Array): 'png' | 'jpeg' | 'exr' | 'hdr' | 'glb' | 'zip' | 'unknown' {
  const is = (...b: number[]) => b.every((x, i) => bytes[i] === x)
  if (is(0x89, 0x50, 0x4e, 0x47)) return 'png'
  if (is(0xff, 0xd8, 0xff)) return 'jpeg'
  if (is(0x76, 0x2f, 0x31, 0x01)) return 'exr'
  if (is(0x23, 0x3f)) return 'hdr'
  if (is(0x67, 0x6c, 0x54, 0x46)) return 'glb'
  if (is(0x50, 0x4b, 0x03, 0x04)) return 'zip'
  return 'unknown'
}

/**
 * Reads PNG (8 and 16 bit), JPEG, OpenEXR or Radiance HDR.
 * @throws FormatError where the file is damaged, too large or something else
 */
export function readPicture(bytes: Uint8Array): Picture {
  switch (sniff(bytes)) {
    case 'png':
      return readPng(bytes)
    case 'jpeg':
      return readJpeg(bytes)
    case 'exr': {
      const { width, height, channels, space } = readExr(bytes)
      const r = channels.get('R') ?? channels.get('Y') ?? [...channels.values()][0]!
      const g = channels.get('G') ?? r
      const b = channels.get('B') ?? r
      const a = channels.get('A')
      const data = new Float32Array(width * height * 4)
      for (let i = 0; i < r.length; i++) {
        data[i * 4] = r[i]!
        data[i * 4 + 1] = g[i]!
        data[i * 4 + 2] = b[i]!
        data[i * 4 + 3] = a ? a[i]! : 1
      }
      return { width, height, data, ...(space === 'acescg' ? { space } : {}) }
    }
    case 'hdr':
      return readHdr(bytes)
    default:
      throw new FormatError('Picture', 'the file is neither PNG, JPEG, OpenEXR nor Radiance HDR')
  }
}

function limit(width: number, height: number, format: string): void {
  if (!(width > 0 && height > 0) || width * height > LARGEST_PICTURE)
    throw new FormatError(format, `${width} × ${height} pixels cannot be read; the limit is ${LARGEST_PICTURE}`)
}

function readPng(bytes: Uint8Array): Picture {
  if (bytes.length < 33) throw new FormatError('PNG', 'the file ends inside its header', `byte ${bytes.length}`)
  const view = new DataView(bytes.buffer, bytes.byteOffset)
  limit(view.getUint32(16), view.getUint32(20), 'PNG')
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
  return { width, height, data: out }
}

function readJpeg(bytes: Uint8Array): Picture {
  try {
    const { width, height, data } = decodeJpeg(bytes, {
      useTArray: true,
      formatAsRGBA: true,
      maxResolutionInMP: 256,
      maxMemoryUsageInMB: 2048,
      tolerantDecoding: false,
    })
    return { width, height, data }
  } catch (e) {
    throw new FormatError('JPEG', e instanceof Error ? e.message : 'the file is damaged')
  }
}

/** Writes an 8-bit RGBA or RGB PNG, marked as sRGB. */
export function writePng(width: number, height: number, data: Uint8Array, channels: 3 | 4 = 4): Uint8Array {
  return encodePng({ width, height, data, channels, depth: 8 })
}
