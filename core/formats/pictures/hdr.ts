import { FormatError } from '../error'
import { checkPromise } from '../promises'
import type { Picture, PictureFormat } from './picture'

/**
 * Reads a Radiance RGBE picture (Ward 1991; the format's reference pages), flat or run-length encoded, rows from
 * the top.
 * @throws FormatError where the file is damaged or cut short
 */
export function readHdr(bytes: Uint8Array): Picture {
  let at = 0
  const line = () => {
    const start = at
    while (at < bytes.length && bytes[at] !== 10) at++
    if (at >= bytes.length) throw new FormatError('HDR', 'the header has no end', `byte ${start}`)
    return new TextDecoder('latin1').decode(bytes.subarray(start, at++))
  }
  for (let l = line(); l !== ''; l = line())
    if (l.startsWith('FORMAT=') && l !== 'FORMAT=32-bit_rle_rgbe')
      throw new FormatError('HDR', `${l.slice(7, 40)} is not read; 32-bit_rle_rgbe is`)
  const size = /^-Y (\d+) \+X (\d+)$/.exec(line())
  if (!size)
    throw new FormatError('HDR', 'only rows from the top, columns from the left are read', 'resolution line')
  const height = +size[1]!
  const width = +size[2]!
  if (!(width > 0 && height > 0) || width * height > 16384 * 8192)
    throw new FormatError('HDR', `${width} × ${height} pixels cannot be read`)
  checkPromise({
    format: 'HDR',
    what: `${width} × ${height} pixels`,
    needs: width * height * 16,
    // a run of 127 equal bytes takes two
    least: Math.floor((width * height * 4 * 2) / 128),
    file: bytes.length,
  })
  const data = new Float32Array(width * height * 4)
  const row = new Uint8Array(width * 4)
  const cut = () => new FormatError('HDR', 'the file ends before its last row', `byte ${bytes.length}`)
  for (let y = 0; y < height; y++) {
    if (
      bytes[at] === 2 &&
      bytes[at + 1] === 2 &&
      ((bytes[at + 2]! << 8) | bytes[at + 3]!) === width &&
      width >= 8 &&
      width < 32768
    ) {
      at += 4
      for (let c = 0; c < 4; c++)
        for (let x = 0; x < width;) {
          if (at >= bytes.length) throw cut()
          let n = bytes[at++]!
          if (n > 128) {
            n -= 128
            const v = bytes[at++]!
            for (let k = 0; k < n && x < width; k++) row[c * width + x++] = v
          } else for (let k = 0; k < n && x < width; k++) row[c * width + x++] = bytes[at++]!
          if (n === 0) throw new FormatError('HDR', 'a run of length zero', `byte ${at - 1}`)
        }
    } else {
      if (at + width * 4 > bytes.length) throw cut()
      for (let x = 0; x < width; x++) for (let c = 0; c < 4; c++) row[c * width + x] = bytes[at++]!
    }
    for (let x = 0; x < width; x++) {
      const e = row[3 * width + x]!
      const f = e ? 2 ** (e - 136) : 0
      const o = (y * width + x) * 4
      for (let c = 0; c < 3; c++) data[o + c] = row[c * width + x]! * f
      data[o + 3] = 1
    }
  }
  return { width, height, data }
}

export const hdr: PictureFormat = {
  name: 'Radiance HDR',
  endings: ['hdr'],
  type: 'image/vnd.radiance',
  magic: [0x23, 0x3f],
  read: readHdr,
}
