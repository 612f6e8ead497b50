/** A decoded picture: RGBA, row 0 at the top. Bytes are encoded as the file has them; floats are linear. */
export interface Picture {
  width: number
  height: number
  data: Uint8Array | Float32Array
  /** Primaries that the file says it has, where they are not Rec.709's. */ space?: 'acescg'
}
