/**
 * Pictures of OpenEXR files that our own reader does not unpack, by three's EXRLoader: RLE, PIZ, PXR24, B44(A), DWAA
 * and DWAB, tiles, the first of several parts, luminance with chroma.
 */
import { FloatType } from 'three'
import { EXRLoader } from 'three/examples/jsm/loaders/EXRLoader.js'
import { FormatError } from '../error'
import { patiently } from '../patience'
import { checkPromise } from '../promises'
import { COMPRESSIONS, type ExrHeader } from './exr-header'
import type { Picture } from './picture'

/** Least share of a picture's bytes that a file of each compression takes: what a flat picture packs to, halved. */
const LEAST = 1 / 4096

/**
 * Reads R, G, B and A, or luminance, of the first part.
 * @throws FormatError where the file is damaged, too large, or has samples of kinds that are not read
 */
export function readPacked(bytes: Uint8Array, header: ExrHeader): Picture & { data: Float32Array } {
  const { width, height, channels, compression } = header
  if (header.deep) throw new FormatError('EXR', 'deep samples are not read')
  const kind = COMPRESSIONS[compression]
  if (kind === undefined) throw new FormatError('EXR', `compression number ${compression} is not known`)
  const names = channels.map(c => c.name)
  if (!['R', 'G', 'B'].every(c => names.includes(c)) && !names.includes('Y'))
    throw new FormatError('EXR', `there are no channels R, G and B, nor Y, but ${names.slice(0, 8).join(', ')}`)
  const types = new Set(channels.map(c => c.type))
  if (types.size > 1 || types.has(0))
    throw new FormatError('EXR', `whole numbers, and halves beside floats, are not read with ${kind} compression`)
  const each = types.has(1) ? 2 : 4
  checkPromise({
    format: 'EXR',
    what: `${width} × ${height} pixels of ${channels.length} channels`,
    needs: width * height * (channels.length * 4 + 32),
    least: width * height * each * channels.length * (compression ? LEAST : 0.25),
    file: bytes.length,
  })
  const data = unpack(bytes, kind)
  if (data.length !== width * height * 4) throw new FormatError('EXR', 'its parts are not of one size')
  // the library's rows go from the bottom up
  const row = width * 4
  const line = new Float32Array(row)
  for (let y = 0; y < height >> 1; y++) {
    const a = data.subarray(y * row, (y + 1) * row)
    const b = data.subarray((height - 1 - y) * row, (height - y) * row)
    line.set(a)
    a.set(b)
    b.set(line)
  }
  return { width, height, data, ...(each === 2 ? { depth: 'half' as const } : {}) }
}

function unpack(bytes: Uint8Array, kind: string): Float32Array {
  try {
    const loader = new EXRLoader().setDataType(FloatType)
    const whole = bytes.byteOffset === 0 && bytes.byteLength === bytes.buffer.byteLength
    const buffer = (whole ? bytes.buffer : bytes.slice().buffer) as ArrayBuffer
    return patiently(() => loader.parse(buffer).data as Float32Array)
  } catch {
    throw new FormatError('EXR', `what is packed by ${kind} cannot be unpacked: the file is damaged or cut short`)
  }
}
