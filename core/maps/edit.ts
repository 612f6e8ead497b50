/**
 * Edits of a map: new tiles in free slots, and a new table that points to them. Work that began before goes on with
 * the table that it began with, and the slots that this one needs stay as they are until {@link TABLES} edits later.
 */
import { covered, halfOf } from './average'
import { curveOf } from './colour-spaces'
import { BYTES, FORMAT, numbersIn } from './formats'
import { pixelOf } from './look-up'
import { encoded, entriesOf, LEVEL, placeIn, SIDE, TABLES, type AllocateMap, type TextureMap } from './map'
import { openMap, showVersion } from './texture'

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
  format: number
  memory: ArrayBufferLike
  used: number
  free: number[]
}

/** @param allocate memory like the map's own */
export function createMapEditor(map: TextureMap, allocate: AllocateMap = n => new ArrayBuffer(n)): MapEditor {
  let current = map
  const entries = entriesOf(map.levels)
  const texture = openMap(map)
  const curve = map.fine === FORMAT.byte ? curveOf(map.space) : null
  const bytesOfSlot = (format: number) => SIDE * SIDE * map.channels * BYTES[format]!
  const slotsIn = (format: number, memory: ArrayBufferLike): Slots => ({
    format,
    memory,
    used: Math.floor(memory.byteLength / bytesOfSlot(format)),
    free: [],
  })
  const fine = slotsIn(map.fine, map.fineTiles)
  const coarse = slotsIn(map.coarse, map.coarseTiles)
  const tables = new Int32Array(map.tables)
  /** Slots that an edit left, with its version: free once no table that is kept points to them. */
  const left: { version: number; slots: Slots; slot: number }[] = []

  function take(slots: Slots): number {
    if (!slots.free.length) {
      const bytes = bytesOfSlot(slots.format)
      const more = Math.max(4, slots.used >> 1)
      const memory = allocate((slots.used + more) * bytes)
      new Uint8Array(memory).set(new Uint8Array(slots.memory))
      slots.memory = memory
      for (let k = more - 1; k >= 0; k--) slots.free.push(slots.used + k)
      slots.used += more
    }
    return slots.free.pop()!
  }

  /** Gives a level's tiles that a rectangle touches new slots, with what they held. */
  function renew(level: number, version: number, x0: number, y0: number, x1: number, y1: number): Slots {
    const slots = level < map.fineLevels ? fine : coarse
    const row = (version % TABLES) * entries
    const o = level * LEVEL.stride
    const bytes = bytesOfSlot(slots.format)
    for (let ty = Math.floor(y0 / SIDE); ty * SIDE < y1; ty++)
      for (let tx = Math.floor(x0 / SIDE); tx * SIDE < x1; tx++) {
        const at = row + map.levels[o + LEVEL.first]! + ty * map.levels[o + LEVEL.across]! + tx
        const old = tables[at]!
        const slot = take(slots)
        const all = new Uint8Array(slots.memory)
        all.copyWithin(slot * bytes, old * bytes, (old + 1) * bytes)
        left.push({ version, slots, slot: old })
        tables[at] = slot
      }
    return slots
  }

  /** Writes numbers into the renewed tiles of a level. */
  function fill(
    level: number,
    version: number,
    slots: Slots,
    [x0, y0, x1, y1]: readonly [number, number, number, number],
    numberAt: (x: number, y: number, channel: number) => number,
  ): void {
    const numbers = numbersIn(slots.format, slots.memory)
    const row = (version % TABLES) * entries
    const o = level * LEVEL.stride
    for (let y = y0; y < y1; y++)
      for (let x = x0; x < x1; x++) {
        const tile = Math.floor(y / SIDE) * map.levels[o + LEVEL.across]! + Math.floor(x / SIDE)
        const at = placeIn(tables[row + map.levels[o + LEVEL.first]! + tile]!, x, y) * map.channels
        for (let k = 0; k < map.channels; k++) numbers[at + k] = numberAt(x, y, k)
      }
  }

  function publish(version: number): void {
    current = { ...current, version, fineTiles: fine.memory, coarseTiles: coarse.memory }
    showVersion(texture, current)
  }

  return {
    write({ x, y, width, height, data }) {
      if (!(x >= 0 && y >= 0 && width > 0 && height > 0 && x + width <= map.width && y + height <= map.height))
        throw new RangeError(
          `a patch of ${width} × ${height} at ${x}, ${y} does not lie on ${map.width} × ${map.height}`,
        )
      const version = current.version + 1
      while (left.length && left[0]!.version + TABLES <= version) {
        const { slots, slot } = left.shift()!
        slots.free.push(slot)
      }
      const row = (version % TABLES) * entries
      tables.copyWithin(row, (current.version % TABLES) * entries, (current.version % TABLES) * entries + entries)
      let box: [number, number, number, number] = [x, y, x + width, y + height]
      const kept = renew(0, version, ...box)
      fill(0, version, kept, box, (px, py, k) => data[((py - y) * width + px - x) * 4 + k]!)
      publish(version)
      let from = [map.width, map.height] as [number, number]
      for (let level = 1; level < map.levels.length / LEVEL.stride; level++) {
        const to = [halfOf(from[0]), halfOf(from[1])] as [number, number]
        const shrunk = (value: number, axis: 0 | 1) => (value * to[axis]) / from[axis]
        box = [
          Math.floor(shrunk(box[0], 0)),
          Math.floor(shrunk(box[1], 1)),
          Math.min(to[0], Math.ceil(shrunk(box[2], 0))),
          Math.min(to[1], Math.ceil(shrunk(box[3], 1))),
        ]
        const slots = renew(level, version, ...box)
        const size = from
        fill(level, version, slots, box, (px, py, k) => {
          const across = covered(px, size[0], to[0])
          const down = covered(py, size[1], to[1])
          let sum = 0
          down.shares.forEach((v, j) =>
            across.shares.forEach((u, i) => {
              sum += u * v * pixelOf(texture, level - 1, across.first + i, down.first + j, k)
            }),
          )
          return encoded(slots.format, sum, k === 3 ? null : curve)
        })
        publish(version)
        from = to
      }
      return current
    },
  }
}
