/** Unpacks what files hold in packed form, and verifies the sums that they carry: fflate's readers pass them over. */
import { Unzlib, unzipSync } from 'fflate'
import { adler32, crc32 } from './checksums'
import { FormatError } from './error'

/** Bytes that are unpacked at once: a stream that goes on beyond its size is left after four megabytes. */
const PUSHED = 4096

/**
 * Unpacks a zlib stream (RFC 1950).
 * @param size bytes that it has to unpack to
 * @throws FormatError where it unpacks to another size, or its sum differs
 */
export function unpackZlib(format: string, packed: Uint8Array, size: number, where: string): Uint8Array {
  const damaged = () => new FormatError(format, 'packed data are damaged', where)
  const raw = new Uint8Array(size)
  let have = 0
  const stream = new Unzlib(piece => {
    if (have + piece.length > size) throw damaged()
    raw.set(piece, have)
    have += piece.length
  })
  try {
    for (let at = 0; at < packed.length; at += PUSHED)
      stream.push(packed.subarray(at, at + PUSHED), at + PUSHED >= packed.length)
  } catch {
    throw damaged()
  }
  if (have !== size || packed.length < 6) throw damaged()
  const stated = new DataView(packed.buffer, packed.byteOffset).getUint32(packed.length - 4)
  if (adler32(raw) !== stated) throw damaged()
  return raw
}

/** Sums of a zip's entries by their names (PKWARE APPNOTE, 4.3.12: central directory). */
function zipSums(bytes: Uint8Array): Map<string, number> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const sums = new Map<string, number>()
  const END = 22
  let end = bytes.length - END
  while (end >= 0 && view.getUint32(end, true) !== 0x06054b50) end--
  if (end < 0) return sums
  let at = view.getUint32(end + 16, true)
  for (let n = view.getUint16(end + 10, true); n > 0 && at + 46 <= bytes.length; n--) {
    if (view.getUint32(at, true) !== 0x02014b50) break
    const length = view.getUint16(at + 28, true)
    const utf8 = (view.getUint16(at + 8, true) & 0x800) !== 0
    const name = bytes.subarray(at + 46, at + 46 + length)
    sums.set(new TextDecoder(utf8 ? 'utf-8' : 'latin1').decode(name), view.getUint32(at + 16, true))
    at += 46 + length + view.getUint16(at + 30, true) + view.getUint16(at + 32, true)
  }
  return sums
}

/**
 * Unpacks a zip.
 * @param most bytes that it may unpack to
 * @throws FormatError where it is damaged, or holds more
 */
export function unpackZip(bytes: Uint8Array, most: number): Record<string, Uint8Array> {
  let size = 0
  let entries
  try {
    entries = unzipSync(bytes, {
      filter: e => {
        size += e.originalSize
        if (size > most) throw new FormatError('Zip', `it unpacks to more than ${Math.floor(most / 2 ** 20)} MiB`)
        return !e.name.endsWith('/')
      },
    })
  } catch (e) {
    if (e instanceof FormatError) throw e
    throw new FormatError('Zip', e instanceof Error ? e.message : 'the file is damaged')
  }
  const sums = zipSums(bytes)
  for (const [name, content] of Object.entries(entries))
    if (sums.get(name) !== crc32(content))
      throw new FormatError('Zip', 'a file in it is damaged', name.slice(0, 120))
  return entries
}
