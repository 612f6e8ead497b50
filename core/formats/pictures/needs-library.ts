import { EXR_MAGIC, isOurs, readExrHeader } from './exr-header'
import { beginsWith } from './picture'

/** Whether a file is a picture that a library unpacks, which may not come back from a damaged one. */
export function needsLibrary(bytes: Uint8Array): boolean {
  if (!beginsWith(bytes, EXR_MAGIC)) return false
  try {
    return !isOurs(readExrHeader(bytes))
  } catch {
    return false
  }
}
