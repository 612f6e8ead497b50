/** A decoded picture: RGBA, row 0 at the top. Bytes are encoded as the file has them; floats are linear. */
export interface Picture {
  width: number
  height: number
  data: Uint8Array | Float32Array
  /** What floats were in the file, where that was less. */ depth?: 'half' | 'sixteen'
  /** Primaries that the file says it has, where they are not Rec.709's. */ space?: 'acescg'
}

/** A format of pictures: a file in this folder and a line in `index.ts`. */
export interface PictureFormat {
  /** As people write it. */
  name: string
  /** Endings of its files, and its media type. */
  endings: readonly string[]
  type: string
  /** Its first bytes. */
  magic: readonly number[]
  /** @throws FormatError where the file is damaged or too large */
  read(bytes: Uint8Array): Picture
}

/** Largest picture read, pixels. */
export const LARGEST_PICTURE = 16384 * 8192

/** Whether bytes begin with some. */
export const beginsWith = (bytes: Uint8Array, magic: readonly number[]): boolean =>
  magic.every((x, i) => bytes[i] === x)
