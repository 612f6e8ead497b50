/** First bytes of files whose readers are libraries, for those who must know before these are loaded. */
export const EXR_MAGIC = [0x76, 0x2f, 0x31, 0x01] as const
/** Of either order of bytes: least first, and greatest first. */
export const TIFF_MAGICS = [
  [0x49, 0x49, 42, 0],
  [0x4d, 0x4d, 0, 42],
] as const
