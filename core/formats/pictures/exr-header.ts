/** Header of an OpenEXR file, of its first part (openexr.com, "OpenEXR File Layout"). */
import { FormatError } from '../error'
import { CHROMATICITIES } from './chromaticities'
import { EXR_MAGIC } from './magic'
import { beginsWith, LARGEST_PICTURE } from './picture'

/** Names of the kinds of compression, by their number. */
export const COMPRESSIONS = ['none', 'RLE', 'ZIPS', 'ZIP', 'PIZ', 'PXR24', 'B44', 'B44A', 'DWAA', 'DWAB']

/** Bits of the version: tiles, deep samples, several parts. */
const TILED = 0x200
const DEEP = 0x800
const PARTS = 0x1000

export interface ExrHeader {
  tiled: boolean
  deep: boolean
  parts: boolean
  /** Kinds: 0 whole numbers, 1 halves, 2 floats. Samples: one in so many pixels along a side. */
  channels: { name: string; type: number; sampling: number }[]
  /** Text attributes. */
  attributes: Record<string, string>
  compression: number
  width: number
  height: number
  /** Number of the first line. */
  top: number
  chromaticities: readonly number[] | null
  /** First byte beyond it. */
  end: number
}

/** Whether the lines of a file are unpacked by our own reader, with all their channels. */
export const isOurs = (h: ExrHeader): boolean =>
  !h.tiled && !h.parts && !h.deep && [0, 2, 3].includes(h.compression) && h.channels.every(c => c.sampling === 1)

/** Whether a file says that it has the primaries and white of a space. */
export const isSpace = (header: ExrHeader, space: keyof typeof CHROMATICITIES): boolean =>
  header.chromaticities !== null &&
  CHROMATICITIES[space].every((c, k) => Math.abs(header.chromaticities![k]! - c) < 1e-3)

/** @throws FormatError where the file is none, is cut short, or gives no picture of a readable size */
export function readExrHeader(bytes: Uint8Array): ExrHeader {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  let at = 8
  const cut = () => new FormatError('EXR', 'the file is cut short or damaged', `byte ${at}`)
  try {
    if (!beginsWith(bytes, EXR_MAGIC)) throw new FormatError('EXR', 'not an OpenEXR file')
    const flags = view.getInt32(4, true)
    const text = () => {
      const start = at
      while (bytes[at] !== 0) {
        if (at >= bytes.length) throw cut()
        at++
      }
      return new TextDecoder().decode(bytes.subarray(start, at++))
    }
    const channels: ExrHeader['channels'] = []
    const attributes: Record<string, string> = {}
    let compression = 0
    let window = [0, 0, -1, -1]
    let chromaticities: number[] | null = null
    for (let name = text(); name !== ''; name = text()) {
      const type = text()
      const size = view.getInt32(at, true)
      at += 4
      const end = at + size
      if (size < 0 || end > bytes.length) throw cut()
      if (name === 'channels')
        while (bytes[at] !== 0 && at < end) {
          const n = text()
          channels.push({ name: n, type: view.getInt32(at, true), sampling: view.getInt32(at + 8, true) })
          at += 16
        }
      else if (name === 'compression') compression = bytes[at]!
      else if (name === 'dataWindow') window = [0, 4, 8, 12].map(k => view.getInt32(at + k, true))
      else if (name === 'chromaticities' && size === 32)
        chromaticities = Array.from({ length: 8 }, (_, k) => view.getFloat32(at + k * 4, true))
      else if (type === 'string') attributes[name] = new TextDecoder().decode(bytes.subarray(at, end))
      at = end
    }
    const width = window[2]! - window[0]! + 1
    const height = window[3]! - window[1]! + 1
    if (!(width > 0 && height > 0) || width * height > LARGEST_PICTURE || !channels.length)
      throw new FormatError('EXR', 'the header gives no picture of a readable size')
    return {
      tiled: (flags & TILED) !== 0,
      deep: (flags & DEEP) !== 0,
      parts: (flags & PARTS) !== 0,
      channels,
      attributes,
      compression,
      width,
      height,
      top: window[1]!,
      chromaticities,
      end: at,
    }
  } catch (e) {
    if (e instanceof FormatError) throw e
    throw cut()
  }
}
