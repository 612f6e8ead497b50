/**
 * Maps that are larger than their memory: tiles of the finer levels are kept in a file, and read into slots when a
 * look-up asks for them. Slots are shared by all threads and given back by the clock (Corbató 1968, "A Paging
 * Experiment with the Multics System": one that was used since the hand came by is passed over once), so what is
 * used least goes first, and what a look-up gives is the same to the bit whatever is there at the moment.
 *
 * A thread reads without a lock: it takes the entry of a table, the numbers, and the entry again. An entry says its
 * slot and a count that grows with each tile read, so one that stayed the same stands for the same tile.
 */

/** Where a map's tiles are kept, and what stands in its slots. Plain data. */
export interface Paging {
  /** Name of the file, and where in it the first tile begins. */
  file: string
  at: number
  /** Words of {@link PAGE}. */
  state: ArrayBufferLike
}

/** Reads what was appended to a file, in the thread that asks. */
export interface TileReader {
  read(at: number, into: Uint8Array): void
}

/** A file that tiles are kept in. */
export interface TileStore {
  file: string
  /** @returns where the bytes begin */
  append(bytes: Uint8Array): number
}

/** Words of a paging's state, then two of each slot: whose entry's tile it holds (−1 none), if it was used. */
export const PAGE = { lock: 0, hand: 1, count: 2, slots: 3, owner: 0, used: 1, stride: 2 } as const

/** An entry of a table: the slot in its lower bits, above it a count. −1 where the tile is not there. */
const ENTRY = { bits: 20, slot: (1 << 20) - 1, counts: (1 << 10) - 1 } as const

/** Slots that a map may have. */
export const MOST_SLOTS = 1 << ENTRY.bits

/** How long a thread waits for another that reads, ms: one that takes longer has died. */
const PATIENCE = 2000

/** A paging, opened in a thread. */
export interface Pages {
  state: Int32Array
  /** Memory of the slots, and the bytes of each. */
  bytes: Uint8Array
  slotBytes: number
  at: number
  reader: TileReader
}

/** State of a paging whose slots are empty. */
export function writeEmptyState(memory: ArrayBufferLike, slots: number): void {
  const state = new Int32Array(memory)
  for (let s = 0; s < slots; s++) state[PAGE.slots + s * PAGE.stride + PAGE.owner] = -1
}

/** Bytes of a paging's state. */
export const stateBytes = (slots: number): number => (PAGE.slots + slots * PAGE.stride) * 4

/** How many tiles were read. */
export const tilesReadOf = ({ state }: Paging): number => new Int32Array(state)[PAGE.count]!

/** Slot of an entry. */
export const slotOf = (entry: number): number => entry & ENTRY.slot

/** Says that a slot was used. */
export function touch({ state }: Pages, slot: number): void {
  const o = PAGE.slots + slot * PAGE.stride + PAGE.used
  if (state[o] === 0) state[o] = 1
}

/** Moves the hand to the next slot that was not used since it came by. */
function nextSlot(state: Int32Array): number {
  const slots = (state.length - PAGE.slots) / PAGE.stride
  for (;;) {
    const slot = (state[PAGE.hand]! + 1) % slots
    state[PAGE.hand] = slot
    const used = PAGE.slots + slot * PAGE.stride + PAGE.used
    if (state[used] === 0) return slot
    state[used] = 0
  }
}

/** Brings the tile of an entry, where it is not there. @throws what the reader throws */
export function bring({ state, bytes, slotBytes, at, reader }: Pages, table: Int32Array, entry: number): void {
  while (Atomics.compareExchange(state, PAGE.lock, 0, 1) !== 0)
    if (Atomics.wait(state, PAGE.lock, 1, PATIENCE) === 'timed-out') break
  try {
    if (Atomics.load(table, entry) >= 0) return
    const slot = nextSlot(state)
    const o = PAGE.slots + slot * PAGE.stride
    const before = state[o + PAGE.owner]!
    if (before >= 0) Atomics.store(table, before, -1)
    state[o + PAGE.owner] = -1
    reader.read(at + entry * slotBytes, bytes.subarray(slot * slotBytes, (slot + 1) * slotBytes))
    const count = state[PAGE.count]! + 1
    state[PAGE.count] = count
    state[o + PAGE.owner] = entry
    state[o + PAGE.used] = 1
    Atomics.store(table, entry, ((count & ENTRY.counts) << ENTRY.bits) | slot)
  } finally {
    Atomics.store(state, PAGE.lock, 0)
    Atomics.notify(state, PAGE.lock)
  }
}
