/**
 * What is known of fields at corners: a table in memory that all threads share, by two hashes of what a corner is. A
 * record is never changed once it says that it is ready. Two threads that want the same corner at once compute the
 * same bits twice. Where no room is left values are computed and not kept.
 */
import type { Allocate } from '../trace/hierarchy'
import { STEPS } from './radii'

/** Words of a record: its state, its two hashes, then its values. */
const STATE = 0
const HASH = 1
const VALUES = 3
const RECORD = VALUES + STEPS
const EMPTY = 0
const CLAIMED = 1
const READY = 2

/** Records that are looked at before a corner counts as unknown, or the table as full there. */
const REACH = 8

/** A table. Plain data: it can be sent to a worker. */
export interface FieldTable {
  /** Records, a power of two of them. */
  words: Int32Array
  /** The same memory, for values. */
  values: Float32Array
  /** How many are kept, one number. */
  kept: Int32Array
}

/** A table of so many records, a power of two; each takes 48 bytes. */
export function createFieldTable(records: number, allocate: Allocate = n => new ArrayBuffer(n)): FieldTable {
  const memory = allocate(records * RECORD * 4)
  return {
    words: new Int32Array(memory),
    values: new Float32Array(memory),
    kept: new Int32Array(allocate(4)),
  }
}

export const recordsOf = (t: FieldTable): number => t.words.length / RECORD

/**
 * Where the values of a corner begin in `values`; −1 where it is not known.
 * @param a first hash of what it is
 * @param b second hash, which tells apart those that share the first
 */
export function findRecord(t: FieldTable, a: number, b: number): number {
  const { words } = t
  const mask = words.length / RECORD - 1
  for (let k = 0; k < REACH; k++) {
    const o = ((a + k) & mask) * RECORD
    const state = Atomics.load(words, o + STATE)
    if (state === EMPTY) return -1
    if (state === READY && words[o + HASH] === a && words[o + HASH + 1] === b) return o + VALUES
  }
  return -1
}

/** Keeps the values of a corner, {@link STEPS} numbers. @returns whether there was room */
export function keepRecord(t: FieldTable, a: number, b: number, values: Float32Array): boolean {
  const { words } = t
  const mask = words.length / RECORD - 1
  for (let k = 0; k < REACH; k++) {
    const o = ((a + k) & mask) * RECORD
    if (Atomics.load(words, o + STATE) !== EMPTY) continue
    if (Atomics.compareExchange(words, o + STATE, EMPTY, CLAIMED) !== EMPTY) continue
    words[o + HASH] = a
    words[o + HASH + 1] = b
    t.values.set(values, o + VALUES)
    Atomics.store(words, o + STATE, READY)
    Atomics.add(t.kept, 0, 1)
    return true
  }
  return false
}
