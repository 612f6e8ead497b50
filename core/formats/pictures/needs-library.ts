import { isOurs, readExrHeader } from './exr-header'
import { EXR_MAGIC, TIFF_MAGICS } from './magic'
import { beginsWith } from './picture'

/** Whether a file is a picture that a library unpacks, which may not come back from a damaged one. */
export function needsLibrary(bytes: Uint8Array): boolean {
  if (TIFF_MAGICS.some(magic => beginsWith(bytes, magic))) return true
  if (!beginsWith(bytes, EXR_MAGIC)) return false
  try {
    return !isOurs(readExrHeader(bytes))
  } catch {
    return false
  }
}
