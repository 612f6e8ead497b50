/** A segment of a JPEG file: its marker, and where its length begins, which counts from there. */
export interface JpegSegment {
  marker: number
  at: number
  length: number
}

/** Segments of a file in their order, as far as they stand one behind the other (ISO/IEC 10918-1, B.1.1.4). */
export function* jpegSegments(bytes: Uint8Array): Generator<JpegSegment> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  for (let at = 2; at + 4 <= bytes.length && bytes[at] === 0xff;) {
    const marker = bytes[at + 1]!
    const length = view.getUint16(at + 2)
    // 0xff is a fill byte
    if (marker !== 0xff) yield { marker, at: at + 2, length }
    at += marker === 0xff ? 1 : 2 + length
  }
}
