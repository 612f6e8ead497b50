/** Sums by which files tell that they were damaged. */

/** Adler-32 (RFC 1950, section 8.2). */
export function adler32(bytes: Uint8Array): number {
  const MOD = 65521
  /** Bytes after which the sums are reduced, so that they stay below 2³². */
  const RUN = 5552
  let a = 1
  let b = 0
  for (let i = 0; i < bytes.length;) {
    for (const end = Math.min(i + RUN, bytes.length); i < end; i++) {
      a += bytes[i]!
      b += a
    }
    a %= MOD
    b %= MOD
  }
  return ((b << 16) | a) >>> 0
}

const CRC = Uint32Array.from({ length: 256 }, (_, n) => {
  let c = n
  for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1
  return c
})
/** CRC-32 (ISO 3309, as in ZIP and PNG). */
export function crc32(bytes: Uint8Array): number {
  let c = 0xffffffff
  for (let i = 0; i < bytes.length; i++) c = CRC[(c ^ bytes[i]!) & 255]! ^ (c >>> 8)
  return (c ^ 0xffffffff) >>> 0
}
