/**
 * What the header of a file promises, held against what can be true and what there is room for, before anything is
 * made of it: a small file may promise gigabytes.
 */
import { FormatError } from './error'

/** Bytes that one file may take while it is read, unless its host says otherwise. */
const USUAL = 2 ** 30
let room = USUAL

/** Says how much one file may take while it is read. @param bytes at least a mebibyte */
export function setRoomOfFiles(bytes: number): void {
  if (!(bytes >= 2 ** 20)) throw new RangeError('a file needs a mebibyte of room at least')
  room = bytes
}
/** The room of a file on a machine with so much memory: an eighth of it, and no more than is usual. */
export const roomOfFiles = (memory: number): number => Math.min(USUAL, Math.max(2 ** 26, memory / 8))

/** What a header promises. */
export interface Promised {
  format: string
  /** What it is, in words: "400 × 300 pixels". */
  what: string
  /** Bytes that reading it takes, and the least that such content takes up in a file. */
  needs: number
  least: number
  /** Bytes of the file. */
  file: number
}

/** @throws FormatError where a header promises more than the file can hold, or than there is room for */
export function checkPromise({ format, what, needs, least, file }: Promised): void {
  if (least > file)
    throw new FormatError(format, `the file is too short for the ${what} that it promises`, `byte ${file}`)
  if (needs > room)
    throw new FormatError(
      format,
      `${what} need ${Math.ceil(needs / 2 ** 20)} MiB to be read; a file may take ${Math.floor(room / 2 ** 20)}`,
    )
}

/** Deflate packs no more than 258 bytes into two bits (RFC 1951): the most that a packed byte can hold. */
export const DEFLATE_MOST = 1032
