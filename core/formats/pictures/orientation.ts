/** Pictures whose rows and columns do not run as they are shown. */
import { jpegSegments } from './jpeg-segments'

/**
 * Orientation of Exif 2.32, tag 274 (the numbers of TIFF 6.0): 1 as stored; 2 mirrored; 3 turned round; 4 upside down,
 * mirrored; 5 to 8 with rows and columns exchanged, and then as 1 to 4.
 */
export type Orientation = 1 | 2 | 3 | 4 | 5 | 6 | 7 | 8

const APP1 = 0xe1
const SCAN = 0xda
const ORIENTATION = 0x0112

/** Orientation that a JPEG file says it has; 1 where it says none. */
export function orientationOfJpeg(bytes: Uint8Array): Orientation {
  for (const { marker, at, length } of jpegSegments(bytes)) {
    // the picture itself follows
    if (marker === SCAN) break
    if (marker !== APP1 || at + length > bytes.length) continue
    const found = orientationOfExif(bytes.subarray(at + 2, at + length))
    if (found) return found
  }
  return 1
}

function orientationOfExif(bytes: Uint8Array): Orientation | undefined {
  if (new TextDecoder('latin1').decode(bytes.subarray(0, 6)) !== 'Exif\0\0') return undefined
  const view = new DataView(bytes.buffer, bytes.byteOffset + 6, bytes.length - 6)
  try {
    const little = view.getUint16(0) === 0x4949
    const first = view.getUint32(4, little)
    for (let i = 0, n = view.getUint16(first, little); i < n; i++) {
      const entry = first + 2 + i * 12
      if (view.getUint16(entry, little) !== ORIENTATION) continue
      const value = view.getUint16(entry + 8, little)
      return value >= 1 && value <= 8 ? (value as Orientation) : undefined
    }
  } catch {
    // cut short: as if it said nothing
  }
  return undefined
}

/** A picture of four numbers a pixel as it is to be shown. */
export function oriented<T extends Uint8Array | Float32Array>(
  p: { width: number; height: number; data: T },
  orientation: Orientation,
): { width: number; height: number; data: T } {
  if (orientation === 1) return p
  const exchanged = orientation > 4
  const width = exchanged ? p.height : p.width
  const height = exchanged ? p.width : p.height
  const data = p.data.slice() as T
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      // where a shown pixel was stored: its column and row from the top left
      const column = [2, 3, 7, 8].includes(orientation) ? p.width - 1 - (exchanged ? y : x) : exchanged ? y : x
      const row = [3, 4, 6, 7].includes(orientation) ? p.height - 1 - (exchanged ? x : y) : exchanged ? x : y
      const from = (row * p.width + column) * 4
      for (let k = 0; k < 4; k++) data[(y * width + x) * 4 + k] = p.data[from + k]!
    }
  return { width, height, data }
}
