/**
 * OpenEXR: written as 32-bit float lines with ZIP compression; all channels are read of single-part lines without
 * compression, with ZIPS or ZIP, half, float and uint, the picture of others by a library (`exr-packed.ts`). Source:
 * the OpenEXR file layout document (openexr.com, "OpenEXR File Layout"). Checked against Debian's openexr and
 * openimageio tools, see the tests.
 */
import { fromHalf } from '../../maps/formats'
import { zlibSync } from 'fflate'
import { rec709From } from '../../colour/rgb'
import { FormatError } from '../error'
import { checkPromise, DEFLATE_MOST } from '../promises'
import { unpackZlib } from '../unpack'
import { CHROMATICITIES } from './chromaticities'
import { COMPRESSIONS, isOurs, isSpace, readExrHeader, type ExrHeader } from './exr-header'
import { readPacked } from './exr-packed'
import { EXR_MAGIC } from './magic'
import type { Picture, PictureFormat } from './picture'

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
  head.push(...EXR_MAGIC)
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
 * Reads all channels of a file of single-part lines.
 * @throws FormatError where the file is damaged, or uses a compression that is not read with all channels
 */
export function readExr(bytes: Uint8Array): ExrFile {
  const header = readExrHeader(bytes)
  if (header.tiled || header.parts || header.deep)
    throw new FormatError('EXR', 'of tiled, deep and multi-part files the picture alone is read')
  if (!isOurs(header))
    throw new FormatError(
      'EXR',
      `of files with ${COMPRESSIONS[header.compression] ?? 'unknown'} compression the picture alone is read`,
    )
  return readLines(bytes, header)
}

function readLines(bytes: Uint8Array, header: ExrHeader): ExrFile {
  const { channels: list, compression, width, height, attributes } = header
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let at = header.end
  const cut = () => new FormatError('EXR', 'the file is cut short or damaged', `byte ${at}`)
  try {
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
      const y0 = view.getInt32(at, true) - header.top
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
      ...(isSpace(header, 'acescg') ? { space: 'acescg' as const } : {}),
      ...(halves ? { depth: 'half' as const } : {}),
    }
  } catch (e) {
    if (e instanceof FormatError) throw e
    throw cut()
  }
}

/** An EXR as a picture: R, G, B and A, or whatever channel there is as grey. */
function readPicture(bytes: Uint8Array): Picture {
  const header = readExrHeader(bytes)
  if (!isOurs(header)) return inRec709(readPacked(bytes, header), header)
  const { width, height, channels, depth } = readLines(bytes, header)
  const named = (letter: string) => channels.get(letter) ?? ofLayer(channels, letter)
  const r = named('R') ?? named('Y') ?? [...channels.values()][0]!
  const g = named('G') ?? r
  const b = named('B') ?? r
  const a = named('A')
  const data = new Float32Array(width * height * 4)
  for (let i = 0; i < r.length; i++) {
    data[i * 4] = r[i]!
    data[i * 4 + 1] = g[i]!
    data[i * 4 + 2] = b[i]!
    data[i * 4 + 3] = a ? a[i]! : 1
  }
  return inRec709({ width, height, data, ...(depth ? { depth } : {}) }, header)
}

/** A channel of the first layer by name that has colours, where the file has none without a layer. */
function ofLayer(channels: ReadonlyMap<string, Float32Array>, letter: string): Float32Array | undefined {
  if (channels.has('R') || channels.has('Y')) return undefined
  const layer = [...channels.keys()].find(n => n.endsWith('.R'))?.slice(0, -1)
  return layer === undefined ? undefined : channels.get(layer + letter)
}

/** Says that a picture is in ACEScg where its file does, and brings other primaries to Rec.709's (Bradford). */
function inRec709(picture: Picture & { data: Float32Array }, header: ExrHeader): Picture {
  if (header.chromaticities === null || isSpace(header, 'rec709')) return picture
  if (isSpace(header, 'acescg')) return { ...picture, space: 'acescg' }
  const convert = rec709From(header.chromaticities)
  const { data } = picture
  for (let i = 0; i < data.length; i += 4) data.set(convert(data.subarray(i, i + 3)), i)
  return picture
}

export const exr: PictureFormat = {
  name: 'OpenEXR',
  endings: ['exr'],
  type: 'image/x-exr',
  magic: EXR_MAGIC,
  read: readPicture,
}
