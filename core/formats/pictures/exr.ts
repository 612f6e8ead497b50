/**
 * OpenEXR, single-part scanline files: written as 32-bit float with ZIP compression, read with none, RLE-free ZIPS
 * and ZIP, half, float and uint. Source: the OpenEXR file layout document (openexr.com, "OpenEXR File Layout").
 * Checked against Debian's openexr and openimageio tools, see the test.
 */
import { fromHalf } from '../../maps/formats'
import { zlibSync } from 'fflate'
import { FormatError } from '../error'
import { checkPromise, DEFLATE_MOST } from '../promises'
import { unpackZlib } from '../unpack'
import type { Picture, PictureFormat } from './picture'

/** x and y of red, green, blue and white: ITU-R BT.709-6 with D65; ACES S-2014-004. */
const CHROMATICITIES = {
  rec709: [0.64, 0.33, 0.3, 0.6, 0.15, 0.06, 0.3127, 0.329],
  acescg: [0.713, 0.293, 0.165, 0.83, 0.128, 0.044, 0.32168, 0.33767],
} as const

export interface ExrFile {
  width: number
  height: number
  /** By name, row 0 at the top. */
  channels: Map<string, Float32Array>
  /** Text attributes. */
  attributes: Record<string, string>
  /** Primaries and white of R, G and B as they stand; linear Rec.709 when left out. */
  space?: keyof typeof CHROMATICITIES
  /** Where all channels are halves. */
  depth?: 'half'
}

/** Separate channels R, G and B of interleaved pixels. */
export const rgbChannels = (rgb: ArrayLike<number>): Map<string, Float32Array> => planes(rgb, 'RGB')

/** Interleaved numbers as channels. @param names one letter each, as many as there are numbers a pixel */
export function planes(numbers: ArrayLike<number>, names: string): Map<string, Float32Array> {
  const n = names.length
  return new Map(
    [...names].map((name, c) => [
      name,
      Float32Array.from({ length: numbers.length / n }, (_, i) => numbers[i * n + c]!),
    ]),
  )
}

/** Names of the kinds of compression, by their number (OpenEXR file layout). */
const COMPRESSIONS = ['none', 'RLE', 'ZIPS', 'ZIP', 'PIZ', 'PXR24', 'B44', 'B44A', 'DWAA', 'DWAB']
const MAGIC = 20000630
const BLOCK = 16

/**
 * Writes an EXR. Channels are sorted by name as the format wants; `attributes` become string attributes of the
 * header.
 */
export function writeExr(file: ExrFile): Uint8Array {
  const { width, height } = file
  const names = [...file.channels.keys()].sort()
  const head: number[] = []
  const int = (n: number) => head.push(n & 255, (n >> 8) & 255, (n >> 16) & 255, n >>> 24)
  const float = (x: number) => head.push(...new Uint8Array(new Float32Array([x]).buffer))
  const text = (s: string) => head.push(...new TextEncoder().encode(s), 0)
  const attribute = (name: string, type: string, size: number, body: () => void) => {
    text(name)
    text(type)
    int(size)
    body()
  }
  int(MAGIC)
  int(2 | (names.some(n => n.length > 31) ? 0x400 : 0))
  attribute(
    'channels',
    'chlist',
    names.reduce((n, c) => n + new TextEncoder().encode(c).length + 17, 1),
    () => {
      for (const c of names) {
        text(c)
        int(2)
        int(0)
        int(1)
        int(1)
      }
      head.push(0)
    },
  )
  attribute('chromaticities', 'chromaticities', 32, () => CHROMATICITIES[file.space ?? 'rec709'].forEach(float))
  attribute('compression', 'compression', 1, () => head.push(3))
  for (const name of ['dataWindow', 'displayWindow'])
    attribute(name, 'box2i', 16, () => [0, 0, width - 1, height - 1].forEach(int))
  attribute('lineOrder', 'lineOrder', 1, () => head.push(0))
  attribute('pixelAspectRatio', 'float', 4, () => float(1))
  attribute('screenWindowCenter', 'v2f', 8, () => {
    float(0)
    float(0)
  })
  attribute('screenWindowWidth', 'float', 4, () => float(1))
  for (const [name, value] of Object.entries(file.attributes)) {
    const bytes = new TextEncoder().encode(value)
    attribute(name, 'string', bytes.length, () => head.push(...bytes))
  }
  head.push(0)
  const blocks: Uint8Array[] = []
  for (let y0 = 0; y0 < height; y0 += BLOCK) {
    const rows = Math.min(BLOCK, height - y0)
    const raw = new Float32Array(rows * names.length * width)
    let o = 0
    for (let y = y0; y < y0 + rows; y++)
      for (const c of names) {
        raw.set(file.channels.get(c)!.subarray(y * width, (y + 1) * width), o)
        o += width
      }
    const bytes = new Uint8Array(raw.buffer)
    const packed = zlibSync(predict(bytes), { level: 4 })
    blocks.push(packed.length < bytes.length ? packed : bytes)
  }
  const table = head.length + blocks.length * 8
  const out = new Uint8Array(table + blocks.reduce((n, b) => n + 8 + b.length, 0))
  const view = new DataView(out.buffer)
  out.set(head)
  let at = table
  blocks.forEach((b, i) => {
    view.setBigUint64(head.length + i * 8, BigInt(at), true)
    view.setInt32(at, i * BLOCK, true)
    view.setInt32(at + 4, b.length, true)
    out.set(b, at + 8)
    at += 8 + b.length
  })
  return out
}

/** Splits even and odd bytes, then stores differences: what ZIP blocks hold before deflating. */
function predict(raw: Uint8Array): Uint8Array {
  const half = (raw.length + 1) >> 1
  const out = new Uint8Array(raw.length)
  for (let i = 0; i < raw.length; i++) out[(i & 1 ? half : 0) + (i >> 1)] = raw[i]!
  for (let i = out.length - 1; i > 0; i--) out[i] = out[i]! - out[i - 1]! + 384
  return out
}

function unpredict(packed: Uint8Array): Uint8Array<ArrayBuffer> {
  for (let i = 1; i < packed.length; i++) packed[i] = packed[i - 1]! + packed[i]! - 128
  const half = (packed.length + 1) >> 1
  const out = new Uint8Array(packed.length)
  for (let i = 0; i < out.length; i++) out[i] = packed[(i & 1 ? half : 0) + (i >> 1)]!
  return out
}

/**
 * Reads the first part of a scanline EXR.
 * @throws FormatError where the file is damaged, or uses a compression that is not read
 */
export function readExr(bytes: Uint8Array): ExrFile {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let at = 8
  const cut = () => new FormatError('EXR', 'the file is cut short or damaged', `byte ${at}`)
  try {
    if (view.getInt32(0, true) !== MAGIC) throw new FormatError('EXR', 'not an OpenEXR file')
    const flags = view.getInt32(4, true)
    if (flags & 0x1a00) throw new FormatError('EXR', 'tiled, deep and multi-part files are not read')
    const text = () => {
      const start = at
      while (bytes[at] !== 0) {
        if (at >= bytes.length) throw cut()
        at++
      }
      return new TextDecoder().decode(bytes.subarray(start, at++))
    }
    const list: { name: string; type: number }[] = []
    const attributes: Record<string, string> = {}
    let compression = 0
    let window = [0, 0, -1, -1]
    let space: ExrFile['space']
    for (let name = text(); name !== ''; name = text()) {
      const type = text()
      const size = view.getInt32(at, true)
      at += 4
      const end = at + size
      if (size < 0 || end > bytes.length) throw cut()
      if (name === 'channels')
        while (bytes[at] !== 0 && at < end) {
          const n = text()
          list.push({ name: n, type: view.getInt32(at, true) })
          at += 16
        }
      else if (name === 'compression') compression = bytes[at]!
      else if (name === 'dataWindow') window = [0, 4, 8, 12].map(k => view.getInt32(at + k, true))
      else if (
        name === 'chromaticities' &&
        size === 32 &&
        CHROMATICITIES.acescg.every((c, k) => Math.abs(view.getFloat32(at + k * 4, true) - c) < 1e-3)
      )
        space = 'acescg'
      else if (type === 'string') attributes[name] = new TextDecoder().decode(bytes.subarray(at, end))
      at = end
    }
    if (![0, 2, 3].includes(compression))
      throw new FormatError(
        'EXR',
        `compression ${COMPRESSIONS[compression] ?? compression} is not read; none, ZIPS and ZIP are`,
      )
    const width = window[2]! - window[0]! + 1
    const height = window[3]! - window[1]! + 1
    if (!(width > 0 && height > 0) || width * height > 16384 * 8192 || !list.length)
      throw new FormatError('EXR', 'the header gives no picture of a readable size')
    const raw = list.reduce((n, c) => n + width * height * (c.type === 1 ? 2 : 4), 0)
    checkPromise({
      format: 'EXR',
      what: `${width} × ${height} pixels of ${list.length} channels`,
      needs: width * height * (list.length * 4 + 16),
      least: raw / (compression ? DEFLATE_MOST : 1),
      file: bytes.length,
    })
    const channels = new Map(list.map(c => [c.name, new Float32Array(width * height)]))
    const rowBytes = list.reduce((n, c) => n + width * (c.type === 1 ? 2 : 4), 0)
    const perBlock = compression === 3 ? BLOCK : 1
    at += Math.ceil(height / perBlock) * 8
    for (let b = 0; b < Math.ceil(height / perBlock); b++) {
      const y0 = view.getInt32(at, true) - window[1]!
      const size = view.getInt32(at + 4, true)
      const rows = Math.min(perBlock, height - y0)
      if (y0 < 0 || y0 >= height || size < 0 || at + 8 + size > bytes.length) throw cut()
      let raw = bytes.slice(at + 8, at + 8 + size)
      if (compression && size < rowBytes * rows)
        raw = unpredict(unpackZlib('EXR', raw, rowBytes * rows, `line ${y0}`))
      if (raw.length < rowBytes * rows) throw cut()
      const data = new DataView(raw.buffer, raw.byteOffset)
      let o = 0
      for (let y = y0; y < y0 + rows; y++)
        for (const c of list) {
          const target = channels.get(c.name)!
          for (let x = 0; x < width; x++) {
            target[y * width + x] =
              c.type === 1
                ? fromHalf(data.getUint16(o, true))
                : c.type === 2
                  ? data.getFloat32(o, true)
                  : data.getUint32(o, true)
            o += c.type === 1 ? 2 : 4
          }
        }
      at += 8 + size
    }
    const halves = list.every(c => c.type === 1)
    return {
      width,
      height,
      channels,
      attributes,
      ...(space ? { space } : {}),
      ...(halves ? { depth: 'half' as const } : {}),
    }
  } catch (e) {
    if (e instanceof FormatError) throw e
    throw cut()
  }
}

/** An EXR as a picture: R, G, B and A, or whatever channel there is as grey. */
function readPicture(bytes: Uint8Array): Picture {
  const { width, height, channels, space, depth } = readExr(bytes)
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
  return { width, height, data, ...(depth ? { depth } : {}), ...(space === 'acescg' ? { space } : {}) }
}

export const exr: PictureFormat = {
  name: 'OpenEXR',
  endings: ['exr'],
  type: 'image/x-exr',
  magic: [0x76, 0x2f, 0x31, 0x01],
  read: readPicture,
}
