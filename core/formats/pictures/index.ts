import { FormatError } from '../error'
import { exr } from './exr'
import { hdr } from './hdr'
import { jpeg } from './jpeg'
import { beginsWith, type Picture, type PictureFormat } from './picture'
import { png } from './png'
import { tiff, tiffTurned } from './tiff'

/** Formats of pictures that are read; a new one is a file of its own and a line here. */
export const pictureFormats: PictureFormat[] = [png, jpeg, exr, hdr, tiff, tiffTurned]

/** Adds a format from outside. */
export const registerPictureFormat = (format: PictureFormat): unknown => pictureFormats.push(format)

/** Format of a file by its first bytes; undefined where it is no picture that is read. */
export const pictureFormat = (bytes: Uint8Array): PictureFormat | undefined =>
  pictureFormats.find(f => beginsWith(bytes, f.magic))

/** Names as words: "a, b nor c". */
const listed = (names: readonly string[]): string => `${names.slice(0, -1).join(', ')} nor ${names.at(-1)}`

/**
 * Reads a picture of any of the formats.
 * @throws FormatError where the file is damaged, too large or something else
 */
export function readPicture(bytes: Uint8Array): Picture {
  const format = pictureFormat(bytes)
  if (!format)
    throw new FormatError(
      'Picture',
      `the file is neither ${listed([...new Set(pictureFormats.map(f => f.name))])}`,
    )
  return format.read(bytes)
}
