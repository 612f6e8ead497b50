/**
 * Radiance pictures (Ward 1991, "Real Pixels"; the reference pages of the format): RGBE and XYZE, flat, with the runs
 * of old and of new files, rows and columns in any order, exposures taken out again, primaries brought to Rec.709's.
 */
import { rec709From, rec709FromXYZ } from '../../colour/rgb'
import { FormatError } from '../error'
import { checkPromise } from '../promises'
import { CHROMATICITIES } from './chromaticities'
import { oriented, type Orientation } from './orientation'
import { LARGEST_PICTURE, type Picture, type PictureFormat } from './picture'

interface Header {
  /** Lines of pixels in the file, and pixels in a line. */
  lines: number
  pixels: number
  orientation: Orientation
  /** What pixels are to be divided by, per component. */
  exposure: readonly [number, number, number]
  /** Null for XYZ. */
  primaries: readonly number[] | null
  /** First byte of the pixels. */
  end: number
}

/** Orientation by what runs down the file and what along its lines: "-Y +X" is as it is shown. */
const ORIENTATIONS: Record<string, Orientation> = {
  '-Y+X': 1,
  '-Y-X': 2,
  '+Y-X': 3,
  '+Y+X': 4,
  '+X-Y': 5,
  '-X-Y': 6,
  '-X+Y': 7,
  '+X+Y': 8,
}

function readHeader(bytes: Uint8Array): Header {
  let at = 0
  const line = () => {
    const start = at
    while (at < bytes.length && bytes[at] !== 10) at++
    if (at >= bytes.length) throw new FormatError('HDR', 'the header has no end', `byte ${start}`)
    return new TextDecoder('latin1').decode(bytes.subarray(start, at++))
  }
  // a file that names none has Rec.709's, as most writers mean (common practice)
  let primaries: readonly number[] = CHROMATICITIES.rec709
  let exposure: Header['exposure'] = [1, 1, 1]
  let xyz = false
  const numbers = (text: string, count: number, what: string) => {
    const found = text.trim().split(/\s+/).map(Number)
    if (found.length !== count || !found.every(Number.isFinite))
      throw new FormatError('HDR', `${what} is not ${count} numbers`, text.slice(0, 60))
    return found
  }
  for (let l = line(); l !== ''; l = line()) {
    const [key = '', value = ''] = [l.slice(0, l.indexOf('=')), l.slice(l.indexOf('=') + 1)]
    if (key === 'FORMAT') {
      if (!/^32-bit_rle_(rgbe|xyze)$/.test(value.trim()))
        throw new FormatError('HDR', `${value.slice(0, 40)} is not read; 32-bit_rle_rgbe and 32-bit_rle_xyze are`)
      xyz = value.includes('xyze')
    } else if (key === 'EXPOSURE') {
      const [e = 1] = numbers(value, 1, key)
      if (e > 0) exposure = exposure.map(x => x * e) as unknown as Header['exposure']
    } else if (key === 'COLORCORR') {
      const c = numbers(value, 3, key)
      if (c.every(x => x > 0)) exposure = exposure.map((x, k) => x * c[k]!) as unknown as Header['exposure']
    } else if (key === 'PRIMARIES') primaries = numbers(value, 8, key)
  }
  const size = /^([-+][XY]) (\d+) ([-+][XY]) (\d+)$/.exec(line().trim())
  const orientation = size ? ORIENTATIONS[`${size[1]}${size[3]}`] : undefined
  if (!size || !orientation)
    throw new FormatError('HDR', 'its size is not two axes with their lengths', 'resolution line')
  const [lines, pixels] = [+size[2]!, +size[4]!]
  if (!(lines > 0 && pixels > 0) || lines * pixels > LARGEST_PICTURE)
    throw new FormatError('HDR', `${pixels} × ${lines} pixels cannot be read`)
  return { lines, pixels, orientation, exposure, primaries: xyz ? null : primaries, end: at }
}

/**
 * Reads a picture.
 * @throws FormatError where the file is damaged or cut short
 */
export function readHdr(bytes: Uint8Array): Picture {
  const header = readHeader(bytes)
  const { lines, pixels, exposure } = header
  checkPromise({
    format: 'HDR',
    what: `${pixels} × ${lines} pixels`,
    needs: pixels * lines * 16,
    // a run of 127 equal bytes takes two; an old one of 255 pixels four
    least: Math.floor((pixels * lines * 4) / 255),
    file: bytes.length,
  })
  const data = new Float32Array(pixels * lines * 4)
  const row = new Uint8Array(pixels * 4)
  let at = header.end
  for (let y = 0; y < lines; y++) {
    const packed =
      bytes[at] === 2 &&
      bytes[at + 1] === 2 &&
      ((bytes[at + 2]! << 8) | bytes[at + 3]!) === pixels &&
      pixels >= 8 &&
      pixels < 32768
    at = packed ? unpackRuns(bytes, at + 4, row, pixels) : unpackPixels(bytes, at, row, pixels)
    for (let x = 0; x < pixels; x++) {
      const e = row[x * 4 + 3]!
      const f = e ? 2 ** (e - 136) : 0
      const o = (y * pixels + x) * 4
      for (let c = 0; c < 3; c++) data[o + c] = (row[x * 4 + c]! * f) / exposure[c]!
      data[o + 3] = 1
    }
  }
  const { primaries } = header
  if (primaries === null || CHROMATICITIES.rec709.some((x, k) => Math.abs(x - primaries[k]!) > 0.02)) {
    // XYZ of this format is of equal energy where it is white
    const convert = primaries === null ? rec709FromXYZ([1, 1, 1]) : rec709From(primaries)
    for (let i = 0; i < data.length; i += 4) data.set(convert(data.subarray(i, i + 3)), i)
  }
  return oriented({ width: pixels, height: lines, data }, header.orientation)
}

const cut = (bytes: Uint8Array) =>
  new FormatError('HDR', 'the file ends before its last row', `byte ${bytes.length}`)

/** A line of four planes in runs. @returns first byte beyond it */
function unpackRuns(bytes: Uint8Array, at: number, row: Uint8Array, pixels: number): number {
  for (let c = 0; c < 4; c++)
    for (let x = 0; x < pixels;) {
      if (at >= bytes.length) throw cut(bytes)
      let n = bytes[at++]!
      if (n === 0) throw new FormatError('HDR', 'a run of length zero', `byte ${at - 1}`)
      if (n > 128) {
        n -= 128
        const v = bytes[at++]!
        for (let k = 0; k < n && x < pixels; k++) row[x++ * 4 + c] = v
      } else for (let k = 0; k < n && x < pixels; k++) row[x++ * 4 + c] = bytes[at++]!
    }
  return at
}

/** A line of pixels, of which (1, 1, 1, n) repeats the last one n times, 256 times as often each time anew. */
function unpackPixels(bytes: Uint8Array, at: number, row: Uint8Array, pixels: number): number {
  for (let x = 0, shift = 0; x < pixels; at += 4) {
    if (at + 4 > bytes.length) throw cut(bytes)
    if (x > 0 && bytes[at] === 1 && bytes[at + 1] === 1 && bytes[at + 2] === 1) {
      for (let n = bytes[at + 3]! << shift; n > 0 && x < pixels; n--, x++)
        row.copyWithin(x * 4, (x - 1) * 4, x * 4)
      shift = Math.min(24, shift + 8)
      continue
    }
    shift = 0
    row.set(bytes.subarray(at, at + 4), x++ * 4)
  }
  return at
}

export const hdr: PictureFormat = {
  name: 'Radiance HDR',
  endings: ['hdr', 'pic'],
  type: 'image/vnd.radiance',
  magic: [0x23, 0x3f],
  read: readHdr,
}
