/** TIFF 6.0 by the library tiff: the first picture of a file, 8, 16 and 32 bits, strips, LZW and deflate. */
import { decode } from 'tiff'
import { fromHalf } from '../../maps/formats'
import { FormatError } from '../error'
import { patiently } from '../patience'
import { checkPromise, DEFLATE_MOST } from '../promises'
import { TIFF_MAGICS } from './magic'
import { LARGEST_PICTURE, type Picture, type PictureFormat } from './picture'

type Ifd = ReturnType<typeof decode>[number]

/** Kinds of samples (tag 339): whole numbers, and floats. */
const WHOLE = 1
const FLOAT = 3
/** Kinds of prediction (tag 317): differences along a row; of the bytes of floats. */
const DIFFERENCES = 2
const FLOAT_PREDICTOR = 3
/** Photometric interpretations (tag 262): grey from white, grey from black, RGB, palette. */
const PALETTE = 3

/** Reads the file by the library, in our words. @param pixels whether those are read too */
function readBy(bytes: Uint8Array, pixels: boolean): Ifd {
  try {
    const first = patiently(() => decode(bytes, { pages: [0], ignoreImageData: !pixels }))[0]
    if (first) return first
  } catch (e) {
    // the library names what it does not know; all else is damage
    const known = e instanceof Error ? /^Unsupported (.+)$/i.exec(e.message) : null
    if (known) throw new FormatError('TIFF', `${known[1]} is not read`)
  }
  throw new FormatError('TIFF', 'the file is damaged or cut short')
}

function check(ifd: Ifd, file: number): void {
  const { width, height, samplesPerPixel: samples, bitsPerSample: bits } = ifd
  if (!(width > 0 && height > 0) || width * height > LARGEST_PICTURE || !(samples >= 1 && samples <= 16))
    throw new FormatError('TIFF', `${width} × ${height} pixels of ${samples} samples cannot be read`)
  if (![8, 16, 32].includes(bits) || (bits === 32 && ifd.sampleFormat !== FLOAT))
    throw new FormatError('TIFF', `samples of ${bits} bits are not read; 8, 16 and floats are`)
  if (ifd.sampleFormat !== WHOLE && ifd.sampleFormat !== FLOAT)
    throw new FormatError('TIFF', 'negative whole numbers are not read')
  if (samples > 1 && ifd.planarConfiguration === 2)
    throw new FormatError('TIFF', 'pictures in separate planes are not read')
  // the library mixes these up
  if (ifd.tiled && (samples > 1 || ifd.predictor === DIFFERENCES))
    throw new FormatError('TIFF', 'colours in tiles are not read; in strips they are')
  if (ifd.predictor === FLOAT_PREDICTOR)
    throw new FormatError('TIFF', 'floats packed by differences of their bytes (predictor 3) are not read')
  const raw = (width * height * samples * bits) / 8
  checkPromise({
    format: 'TIFF',
    what: `${width} × ${height} pixels of ${samples} samples`,
    needs: 2 * raw + width * height * (bits === 8 ? 4 : 16),
    least: ifd.compression === 1 ? raw : raw / DEFLATE_MOST,
    file,
  })
}

function readTiff(bytes: Uint8Array): Picture {
  check(readBy(bytes, false), bytes.length)
  const ifd = readBy(bytes, true)
  const { width, height, samplesPerPixel: n, bitsPerSample: bits, data: from } = ifd
  if (from.length < width * height * n) throw new FormatError('TIFF', 'the file ends before its last row')
  const floats = ifd.sampleFormat === FLOAT
  const number = !floats
    ? bits === 16
      ? (x: number) => x / 65535
      : (x: number) => x
    : bits === 16
      ? fromHalf
      : (x: number) => x
  const data = bits === 8 ? new Uint8Array(width * height * 4) : new Float32Array(width * height * 4)
  const whole = bits === 8 ? 255 : 1
  const colours = ifd.type === PALETTE ? ifd.palette : undefined
  if (colours) {
    if (bits !== 8) throw new FormatError('TIFF', `palettes of ${bits} bits are not read; of 8 they are`)
    for (let i = 0; i < width * height; i++) {
      // colours of a palette have 16 bits
      const [r, g, b] = colours[from[i]!] ?? [0, 0, 0]
      data.set([r / 257, g / 257, b / 257, 255], i * 4)
    }
    return { width, height, data }
  }
  const grey = n < 3
  for (let i = 0; i < width * height; i++) {
    for (let k = 0; k < 3; k++) data[i * 4 + k] = number(from[i * n + (grey ? 0 : k)]!)
    data[i * 4 + 3] = ifd.alpha ? number(from[i * n + (grey ? 1 : 3)]!) : whole
  }
  const depth = bits === 16 ? (floats ? ('half' as const) : ('sixteen' as const)) : undefined
  return { width, height, data, ...(depth ? { depth } : {}) }
}

const shared = { name: 'TIFF', endings: ['tif', 'tiff'], type: 'image/tiff', read: readTiff }

/** Of either order of bytes. */
export const tiff: PictureFormat = { ...shared, magic: TIFF_MAGICS[0] }
export const tiffTurned: PictureFormat = { ...shared, endings: [], magic: TIFF_MAGICS[1] }
