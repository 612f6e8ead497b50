/**
 * How threads share the building of one hierarchy. The memory they work in holds a queue of entries (some
 * triangles to be split): large ones are split once and leave two, smaller ones are built and weighed to their
 * leaves. Whoever has time takes the next: the thread that wants the hierarchy, and any that were called and came,
 * early or late or never. The tree is the same however many work on it.
 */
import { compiledKernel } from './kernel'

/** Where things lie in the memory: addresses in bytes. */
export interface BuildShare {
  memory: WebAssembly.Memory
  count: number
  position: number
  index: number
  records: number
  nodes: number
  /** Reference of the root, and the box of everything behind it. */
  root: number
  control: number
  queue: number
  scratch: number
}

export interface Builder {
  measureTriangles(position: number, index: number, from: number, to: number, records: number): void
  enterAll(records: number, count: number, root: number, entry: number): void
  build(records: number, nodes: number, scratch: number, used: number, once: number): number
  weigh(nodes: number, from: number, to: number, records: number, sides: number): void
  beginFold(root: number, records: number, order: number, waiting: number): void
  fold(
    nodes: number,
    records: number,
    wide: number,
    order: number,
    slack: number,
    waiting: number,
    most: number,
  ): number
}

/**
 * Words of the control line: hands that came, chunks begun and measured, entries reserved and taken, entries not
 * done yet, nodes of entries split once, nodes in all.
 */
const HANDS = 0
const CHUNK = 1
const MEASURED = 2
const RESERVED = 3
const TAKEN = 4
const OPEN = 5
const TOP = 6
const USED = 7
/**
 * Bytes of an entry, where it waits in the scratch, and the word that says that it has been written: see
 * kernel/build.ts.
 */
const ENTRY = 48
const WAITING = 3 * 512 + 320
const READY = 12
/** Most entries, hands, bytes of a hand's scratch, triangles of a chunk that is measured at once. */
export const MOST_ENTRIES = 4096
export const MOST_HANDS = 17
export const SCRATCH = 8192
const CHUNKED = 32768
/** Triangles of an entry that is not worth a split of its own. */
const SMALL = 4096
/** How long to wait for what others do before it counts as lost, in waits of 10 ms. */
const PATIENCE = 3000

export const builderIn = (memory: WebAssembly.Memory): Builder | undefined => {
  const module = compiledKernel()
  return module ? (new WebAssembly.Instance(module, { env: { memory } }).exports as unknown as Builder) : undefined
}

/**
 * Joins a building that another thread has begun.
 * @returns works on it until nothing is left to take or `stop`, asked after each entry, says so; whether there is
 * more to do
 */
export function joinBuild(s: BuildShare): (stop: () => boolean) => boolean {
  const b = builderIn(s.memory)
  const work = b && hand(s, b)
  return stop => work?.(false, stop) === 'stopped'
}

/**
 * Builds, with whoever comes to help.
 * @param call asks others to {@link joinBuild}
 * @returns how many nodes there are in all, and of those the ones of entries that were split once, which come
 * after all others; undefined where a helper was lost
 */
export function buildShared(
  s: BuildShare,
  b: Builder,
  call?: (share: BuildShare) => void,
): { used: number; top: number } | undefined {
  const words = new Int32Array(s.memory.buffer, s.control, 8)
  Atomics.store(words, OPEN, 1)
  call?.(s)
  return hand(s, b)?.(true, () => false) === 'done' ? { used: words[USED]!, top: words[TOP]! } : undefined
}

/** A hand that works on a building; undefined where there are enough. */
function hand(
  s: BuildShare,
  b: Builder,
): ((owner: boolean, stop: () => boolean) => 'done' | 'stopped' | 'lost') | undefined {
  const words = new Int32Array(s.memory.buffer, s.control, 8)
  const ready = new Int32Array(s.memory.buffer, s.queue, (MOST_ENTRIES * ENTRY) / 4)
  const bytes = new Uint8Array(s.memory.buffer)
  const number = Atomics.add(words, HANDS, 1)
  const scratch = s.scratch + number * SCRATCH
  const chunks = Math.ceil(s.count / CHUNKED)
  const small = Math.max(SMALL, s.count >> 7)
  if (number >= MOST_HANDS) return undefined
  let patience = PATIENCE
  const wait = (word: number, value: number): boolean => {
    if (Atomics.wait(words, word, value, 10) === 'timed-out') patience--
    return patience > 0
  }
  return (owner, stop) => {
    for (let k = Atomics.add(words, CHUNK, 1); k < chunks; k = Atomics.add(words, CHUNK, 1)) {
      b.measureTriangles(s.position, s.index, k * CHUNKED, Math.min(s.count, (k + 1) * CHUNKED), s.records)
      Atomics.add(words, MEASURED, 1)
      Atomics.notify(words, MEASURED)
    }
    if (owner) {
      for (let done = Atomics.load(words, MEASURED); done < chunks; done = Atomics.load(words, MEASURED))
        if (!wait(MEASURED, done)) return 'lost'
      b.enterAll(s.records, s.count, s.root, s.queue)
      publish(0)
      Atomics.store(words, RESERVED, 1)
      Atomics.notify(words, RESERVED)
    }
    while (Atomics.load(words, OPEN) > 0) {
      if (stop()) return 'stopped'
      const entry = take()
      if (entry < 0) {
        const reserved = Atomics.load(words, RESERVED)
        if (Atomics.load(words, TAKEN) === reserved && Atomics.load(words, OPEN) > 0 && !wait(RESERVED, reserved))
          return 'lost'
        continue
      }
      // its place was reserved before it was written
      while (Atomics.load(ready, (entry * ENTRY + READY) / 4) === 0);
      bytes.copyWithin(scratch + WAITING, s.queue + entry * ENTRY, s.queue + (entry + 1) * ENTRY)
      split(ready[(entry * ENTRY) / 4]!, ready[(entry * ENTRY) / 4 + 1]!)
      // who waits for more entries is told when there will be none
      if (Atomics.sub(words, OPEN, 1) === 1) Atomics.notify(words, RESERVED)
      patience = PATIENCE
    }
    return 'done'
  }

  function publish(entry: number): void {
    Atomics.store(ready, (entry * ENTRY + READY) / 4, 1)
  }

  function take(): number {
    for (;;) {
      const taken = Atomics.load(words, TAKEN)
      if (taken >= Atomics.load(words, RESERVED)) return -1
      if (Atomics.compareExchange(words, TAKEN, taken, taken + 1) === taken) return taken
    }
  }

  /** Splits the entry in the scratch once, or builds all of it. */
  function split(first: number, n: number): void {
    const once = n > small && Atomics.load(words, RESERVED) < MOST_ENTRIES - 2 * MOST_HANDS
    if (!once) {
      const end = b.build(s.records, s.nodes, scratch, first, 0)
      b.weigh(s.nodes, first, end, s.records, scratch)
      Atomics.add(words, USED, end - first)
      return
    }
    b.build(s.records, s.nodes, scratch, s.count + Atomics.add(words, TOP, 1), 1)
    Atomics.add(words, USED, 1)
    const place = Atomics.add(words, RESERVED, 2)
    Atomics.add(words, OPEN, 2)
    for (let k = 0; k < 2; k++) {
      bytes.copyWithin(
        s.queue + (place + k) * ENTRY,
        scratch + WAITING + k * ENTRY,
        scratch + WAITING + (k + 1) * ENTRY,
      )
      publish(place + k)
    }
    Atomics.notify(words, RESERVED)
  }
}
