/**
 * Edits of a map: new tiles in free slots, and a new table that points to them. Work that began before goes on with
 * the table that it began with, and the slots that this one needs stay as they are until {@link TABLES} edits later.
 */
import { covered, meanOver, type NumberAt, type Stretch } from './average'
import { BYTES } from './formats'
import { TABLES, tableOf, type AllocateMap, type Box, type TextureMap } from './map'
import { writeLinear, writeNumbers } from './pyramid'
import { TILED } from './slots'
import { pixelOf } from './texel'
import { openMap, showVersion } from './texture'
import { countOf, entryAt, sizeOf } from './tiles'

/** Pixels of a picture in the format of a map's finest level: its own numbers, RGBA. */
export interface Patch {
  x: number
  y: number
  width: number
  height: number
  data: ArrayLike<number>
}

export interface MapEditor {
  /** Writes a patch. @returns the map as it is from here on @throws RangeError where it does not lie on the map */
  write(patch: Patch): TextureMap
}

/** Slots of the finest level, or of the others. */
interface Slots {
  /** Bytes of one. */
  bytes: number
  memory: ArrayBufferLike
  used: number
  free: number[]
}

/**
 * @param allocate memory like the map's own
 * @throws RangeError where the map's tiles are in a file: it is made whole before it is edited
 */
export function createMapEditor(map: TextureMap, allocate: AllocateMap = n => new ArrayBuffer(n)): MapEditor {
  if (map.paging) throw new RangeError('tiles of this map are kept in a file; make it whole to edit it')
  let current = map
  const { levels, channels } = map
  const texture = openMap(map)
  const slotsIn = (format: number, memory: ArrayBufferLike): Slots => {
    const bytes = TILED.area * channels * BYTES[format]!
    return { bytes, memory, used: Math.floor(memory.byteLength / bytes), free: [] }
  }
  const fine = slotsIn(map.fine, map.fineTiles)
  const coarse = slotsIn(map.coarse, map.coarseTiles)
  /** Slots that an edit left, with its version: free once no table that is kept points to them. */
  const left: { version: number; slots: Slots; slot: number }[] = []

  function take(slots: Slots): number {
    if (!slots.free.length) {
      const more = Math.max(4, slots.used >> 1)
      const memory = allocate((slots.used + more) * slots.bytes)
      new Uint8Array(memory).set(new Uint8Array(slots.memory))
      slots.memory = memory
      for (let k = more - 1; k >= 0; k--) slots.free.push(slots.used + k)
      slots.used += more
    }
    return slots.free.pop()!
  }

  /** Begins a version: its table is that of the one before, and slots that no table names any more are free. */
  function begin(): void {
    const version = current.version + 1
    while (left.length && left[0]!.version + TABLES <= version) {
      const { slots, slot } = left.shift()!
      slots.free.push(slot)
    }
    const before = tableOf(current)
    current = { ...current, version }
    tableOf(current).set(before)
  }

  /** Gives a level's tiles that a box touches new slots, with what they held. */
  function renew(level: number, [x0, y0, x1, y1]: Box): void {
    const slots = level < map.fineLevels ? fine : coarse
    const table = tableOf(current)
    for (let y = y0 - (y0 % TILED.side); y < y1; y += TILED.side)
      for (let x = x0 - (x0 % TILED.side); x < x1; x += TILED.side) {
        const entry = entryAt(levels, level, x, y)
        const slot = take(slots)
        const old = table[entry]!
        new Uint8Array(slots.memory).copyWithin(slot * slots.bytes, old * slots.bytes, (old + 1) * slots.bytes)
        left.push({ version: current.version, slots, slot: old })
        table[entry] = slot
      }
    current = { ...current, fineTiles: fine.memory, coarseTiles: coarse.memory }
    showVersion(texture, current)
  }

  /** Averages a level's pixels within a box anew. */
  function average(level: number, box: Box): void {
    const [x0, y0, x1, y1] = box
    const [fromWidth, fromHeight] = sizeOf(levels, level - 1)
    const [width, height] = sizeOf(levels, level)
    const across = stretches(x0, x1, fromWidth, width)
    const down = stretches(y0, y1, fromHeight, height)
    const above: NumberAt = (x, y, k) => pixelOf(texture, level - 1, x, y, k)
    writeLinear(current, level, box, (y, k, out) => {
      for (let i = 0; i < out.length; i++) out[i] = meanOver(above, across[i]!, down[y - y0]!, k)
    })
  }

  return {
    write({ x, y, width, height, data }) {
      if (!(x >= 0 && y >= 0 && width > 0 && height > 0 && x + width <= map.width && y + height <= map.height))
        throw new RangeError(
          `a patch of ${width} × ${height} at ${x}, ${y} does not lie on ${map.width} × ${map.height}`,
        )
      begin()
      let box: Box = [x, y, x + width, y + height]
      renew(0, box)
      const row = new Float64Array(width)
      writeNumbers(current, 0, box, (py, k) => {
        for (let i = 0; i < width; i++) row[i] = data[((py - y) * width + i) * 4 + k]!
        return row
      })
      for (let level = 1; level < countOf(levels); level++) {
        box = shrunk(box, sizeOf(levels, level - 1), sizeOf(levels, level))
        renew(level, box)
        average(level, box)
      }
      return current
    },
  }
}

/** Pixels of the finer level that those from one to another cover, along an axis. */
const stretches = (first: number, end: number, from: number, to: number): Stretch[] =>
  Array.from({ length: end - first }, (_, i) => covered(first + i, from, to))

/** The box of a coarser level that a box touches. */
const shrunk = ([x0, y0, x1, y1]: Box, from: readonly [number, number], to: readonly [number, number]): Box => [
  Math.floor((x0 * to[0]) / from[0]),
  Math.floor((y0 * to[1]) / from[1]),
  Math.min(to[0], Math.ceil((x1 * to[0]) / from[0])),
  Math.min(to[1], Math.ceil((y1 * to[1]) / from[1])),
]
