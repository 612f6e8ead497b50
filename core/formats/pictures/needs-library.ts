import { EXR_MAGIC, isOurs, readExrHeader } from './exr-header'
import { beginsWith } from './picture'

/** Of TIFF files in either order of bytes. */
const TIFF = [
  [0x49, 0x49, 42, 0],
  [0x4d, 0x4d, 0, 42],
]

/** Whether a file is a picture that a library unpacks, which may not come back from a damaged one. */
export function needsLibrary(bytes: Uint8Array): boolean {
  if (TIFF.some(magic => beginsWith(bytes, magic))) return true
  if (!beginsWith(bytes, EXR_MAGIC)) return false
  try {
    return !isOurs(readExrHeader(bytes))
  } catch {
    return false
  }
}
