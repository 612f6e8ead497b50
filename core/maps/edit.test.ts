import { describe, expect, it } from 'vitest'
import { memory } from '../expression/memory'
import { createMapEditor } from './edit'
import { lookUp } from './look-up'
import { createMap } from './create-map'
import { bytesOf, TABLES, type MapSource } from './map'
import { createOpenedMaps } from './opened'
import { planFor } from './plan'
import { openMap, type Texture } from './texture'

const W = 300
const H = 170
let state = 7
const random = (): number => (state = (state * 16807) % 2147483647) / 2147483647
const noise = (): MapSource => ({
  width: W,
  height: H,
  data: Float32Array.from({ length: W * H * 4 }, random),
})

/** Values of a map at many places, under footprints of several sizes. */
function values(t: Texture): number[] {
  const out: number[] = []
  for (const half of [0, 0.004, 0.03, 0.2])
    for (let i = 0; i < 40; i++) {
      lookUp(t, (i * 0.137) % 1, (i * 0.311) % 1, 2, 2, 0, 0, 0, 0, 0, half, 0, 0, half)
      out.push(...memory.result)
    }
  return out
}

/** A picture with a patch of random numbers, and the patch. */
function patched(source: MapSource, x: number, y: number, width: number, height: number) {
  const data = source.data.slice()
  const patch = Float32Array.from({ length: width * height * 4 }, random)
  for (let j = 0; j < height; j++)
    for (let i = 0; i < width * 4; i++) data[((y + j) * W + x) * 4 + i] = patch[j * width * 4 + i]!
  return { source: { ...source, data } as MapSource, patch: { x, y, width, height, data: patch } }
}

const close = (a: number[], b: number[]) => a.forEach((x, i) => expect(x).toBeCloseTo(b[i]!, 5))

describe('edits of maps', () => {
  it('give what a map of the edited picture gives, in every level', () => {
    let source = noise()
    const map = createMap(source, 'raw', { id: 'm' })
    const editor = createMapEditor(map)
    for (const [x, y, w, h] of [
      [10, 20, 5, 7],
      [60, 60, 70, 12],
      [0, 0, W, H],
      [W - 1, H - 1, 1, 1],
    ] as const) {
      const next = patched(source, x, y, w, h)
      source = next.source
      // witness: the pyramid made anew of the whole picture
      close(values(openMap(editor.write(next.patch))), values(openMap(createMap(source, 'raw'))))
    }
  })

  it('leave what was opened before as it was, for as many edits as there are tables', () => {
    const source = noise()
    const map = createMap(source, 'raw', { id: 'm' })
    const before = openMap(map)
    const was = values(before)
    const editor = createMapEditor(map)
    for (let edit = 1; edit < TABLES; edit++) {
      editor.write(patched(source, 5 * edit, 3 * edit, 80, 80).patch)
      expect(values(before)).toEqual(was)
    }
  })

  it('take no more memory for ever: slots that no table needs are used again', () => {
    const source = noise()
    const editor = createMapEditor(createMap(source, 'raw'))
    const sizes: number[] = []
    for (let edit = 0; edit < 60; edit++)
      sizes.push(bytesOf(editor.write(patched(source, edit, edit, 40, 40).patch)))
    expect(sizes[59]).toBe(sizes[30])
  })

  it('outside of the map are refused in words', () => {
    const editor = createMapEditor(createMap(noise(), 'raw'))
    expect(() => editor.write({ x: W - 2, y: 0, width: 3, height: 1, data: new Float32Array(12) })).toThrow(
      `a patch of 3 × 1 at ${W - 2}, 0 does not lie on ${W} × ${H}`,
    )
  })

  it('are seen by a thread from its next turn on, and by that alone', () => {
    const source = noise()
    const map = createMap(source, 'raw', { id: 'm' })
    const opened = createOpenedMaps()
    const texture = opened.open(map)
    expect(opened.open({ ...map })).toBe(texture)
    const was = values(texture)
    const edited = createMapEditor(map).write(patched(source, 0, 0, W, H).patch)
    opened.edited(edited)
    expect(values(texture)).toEqual(was)
    opened.turn()
    expect(values(texture)).toEqual(values(openMap(edited)))
    opened.keep([])
    expect(opened.open(map)).not.toBe(texture)
  })
})

describe('room for maps', () => {
  it('is kept to by leaving the finest levels out', () => {
    const source: MapSource = {
      width: 1024,
      height: 512,
      data: new Uint8Array(1024 * 512 * 4).map((_, i) => i % 251),
    }
    const whole = bytesOf(createMap(source, 'raw'))
    expect(planFor(source, whole, false)).toEqual({ skip: 0 })
    for (const room of [whole * 0.8, whole * 0.3, whole / 20]) {
      const { skip } = planFor(source, room, false)
      const map = createMap(source, 'raw', { skip })
      expect([skip > 0, map.width]).toEqual([true, 1024 >> skip])
      // a small map's tiles are not full
      expect(bytesOf(map)).toBeLessThan(room + 400_000)
    }
    expect(planFor(source, -1, false)).toEqual({ skip: 10 })
  })
})
