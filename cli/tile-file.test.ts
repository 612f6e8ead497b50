import { existsSync } from 'node:fs'
import { dirname } from 'node:path'
import { expect, it } from 'vitest'
import { createMap } from '../core/maps/create-map'
import { createMapShelf } from '../core/world/compile-material'
import { tilesOf } from '../workers/tiles-node'
import { createTileFile } from './tile-file'

const picture = (side: number) => ({
  width: side,
  height: side,
  data: Uint8Array.from({ length: side * side * 4 }, (_, i) => (i * 2654435761) >>> 24),
})

it('bytes come back from where they were put, here and in other threads; the file goes when it is closed', () => {
  const store = createTileFile()
  const first = store.append(Uint8Array.of(1, 2, 3))
  const second = store.append(Uint8Array.of(4, 5))
  expect([first, second]).toEqual([0, 3])
  for (const reader of [store, tilesOf(store.file)]) {
    const into = new Uint8Array(new SharedArrayBuffer(3))
    reader.read(2, into)
    expect([...into]).toEqual([3, 4, 5])
    expect(() => reader.read(4, into)).toThrow(/ends too early/)
  }
  const folder = dirname(store.file)
  expect(existsSync(folder)).toBe(true)
  store.close()
  expect(existsSync(folder)).toBe(false)
})

it('a shelf keeps maps whole as long as there is room, then in the file', () => {
  const store = createTileFile()
  const shelf = createMapShelf(undefined, { bytes: 2 * 2 ** 20, store })
  const first = shelf.map('a', 'raw', () => picture(512))!
  const second = shelf.map('b', 'raw', () => picture(1024))!
  expect(first.paging).toBe(undefined)
  expect(second.paging!.file).toBe(store.file)
  expect(second.width).toBe(1024)
  expect(shelf.map('a', 'raw', () => undefined)).toBe(first)
  expect(createMap(picture(512), 'raw').paging).toBe(undefined)
  store.close()
})
