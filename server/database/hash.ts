import { createHash } from 'node:crypto'

/** SHA-256 in hexadecimal. */
export const hashOf = (content: Uint8Array | string): string => createHash('sha256').update(content).digest('hex')
