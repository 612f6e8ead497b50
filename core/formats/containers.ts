/** Files that hold others, by their first bytes. */
import { beginsWith } from './pictures/picture'

export const isGlb = (bytes: Uint8Array): boolean => beginsWith(bytes, [0x67, 0x6c, 0x54, 0x46])
export const isZip = (bytes: Uint8Array): boolean => beginsWith(bytes, [0x50, 0x4b, 0x03, 0x04])
