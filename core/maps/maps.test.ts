import { describe, expect, it } from 'vitest'
import { memory } from '../expression/memory'
import { decodeSRGB } from '../colour/rgb'
import { covered } from './average'
import { halfTable, toHalf } from './formats'
import { lookUp } from './look-up'
import { createMap } from './create-map'
import { bytesOf, type MapSource } from './map'
import { FORMAT, LEVEL } from './slots'
import { createTexture, openMap, type Texture } from './texture'

const { result } = memory
const PERIODIC = 2

/** Value of a texture over a parallelogram of two half-sides. */
function value(
  t: Texture,
  u: number,
  v: number,
  [ux, vx, uy, vy]: readonly [number, number, number, number] = [0, 0, 0, 0],
  mode = PERIODIC,
): number[] {
  lookUp(t, u, v, mode, mode, 0, 0, 0, 0, 0, ux, vx, uy, vy)
  return [...result]
}

const picture = (width: number, height: number, at: (x: number, y: number) => number[]): MapSource => ({
  width,
  height,
  data: Float32Array.from({ length: width * height * 4 }, (_, i) => {
    const p = i >> 2
    return at(p % width, Math.floor(p / width))[i & 3]!
  }),
})

describe('maps', () => {
  it('keep what the file has: bytes, 16 bits, halves and floats, and no channel more', () => {
    const floats = picture(70, 3, (x, y) => [x / 69, y / 2, 0.1, 1])
    const kinds = [
      [
        createMap({ width: 2, height: 1, data: Uint8Array.of(9, 9, 9, 255, 200, 200, 200, 255) }, 'srgb_texture'),
        FORMAT.byte,
        1,
      ],
      [createMap({ ...floats, depth: 'sixteen' }, 'raw'), FORMAT.sixteen, 3],
      [createMap({ ...floats, depth: 'half' }, 'raw'), FORMAT.half, 3],
      [
        createMap(
          picture(2, 2, () => [0.1, 0.2, 0.3, 0.4]),
          'raw',
        ),
        FORMAT.float,
        4,
      ],
    ] as const
    for (const [map, format, channels] of kinds) expect([map.fine, map.channels]).toEqual([format, channels])
    expect(value(openMap(kinds[0][0]), 0.25, 0.5)[0]).toBeCloseTo(decodeSRGB(9 / 255), 8)
    expect(value(openMap(kinds[3][0]), 0.25, 0.25)).toEqual([0.1, 0.2, 0.3, 0.4].map(Math.fround))
    const sixteen = value(openMap(kinds[1][0]), 65.5 / 70, 0.5)
    expect(sixteen).toEqual([
      Math.round((65 / 69) * 65535) / 65535,
      Math.round(0.5 * 65535) / 65535,
      Math.round(0.1 * 65535) / 65535,
      1,
    ])
  })

  it('halves go to and fro whole, and are rounded to the nearest, ties to even', () => {
    const table = halfTable()
    for (let h = 0; h < 65536; h++) if (Number.isFinite(table[h])) expect(toHalf(table[h]!)).toBe(h)
    // IEEE 754: between 1 and the next half lies 2⁻¹⁰
    expect(table[toHalf(1 + 2 ** -11)]).toBe(1)
    expect(table[toHalf(1 + 3 * 2 ** -11)]).toBe(1 + 2 ** -9)
    expect(table[toHalf(1e9)]).toBe(65504)
    expect(table[toHalf(2 ** -25 * 1.01)]).toBe(2 ** -24)
  })

  it('have levels down to one pixel, each with the mean of the picture, whatever its size', () => {
    let s = 1
    const random = () => (s = (s * 16807) % 2147483647) / 2147483647
    for (const [w, h] of [
      [1, 1],
      [7, 5],
      [200, 33],
      [129, 131],
    ] as const) {
      const p = picture(w, h, () => [random(), random(), random(), random()])
      const map = createMap(p, 'raw')
      const t = openMap(map)
      const mean = [0, 1, 2, 3].map(k => {
        let sum = 0
        for (let i = 0; i < w * h; i++) sum += p.data[i * 4 + k]!
        return sum / w / h
      })
      const last = map.levels.length - LEVEL.stride
      expect([map.levels[last], map.levels[last + 1]]).toEqual([1, 1])
      // a footprint of many pictures sees that last level
      value(t, 0.3, 0.6, [20, 0, 0, 20]).forEach((x, k) => expect(x).toBeCloseTo(mean[k]!, 5))
    }
  })

  it('pixels of a level cover all of the one before, each part once', () => {
    for (const [from, to] of [
      [7, 3],
      [5, 2],
      [64, 32],
      [3, 1],
    ] as const) {
      const total = new Float64Array(from)
      for (let i = 0; i < to; i++) {
        const { first, shares } = covered(i, from, to)
        shares.forEach((share, k) => (total[first + k]! += share))
      }
      for (const t of total) expect(t).toBeCloseTo(to / from, 12)
    }
  })

  it('a straight fade stays one under any footprint', () => {
    const t = createTexture(
      256,
      256,
      picture(256, 256, x => [(x + 0.5) / 256, 0, 0, 1]).data as Float32Array,
      'raw',
    )
    for (const half of [0, 0.001, 0.01, 0.05])
      for (const turn of [0, 0.4, 1.3]) {
        const long = [half * Math.cos(turn), half * Math.sin(turn)] as const
        const seen = value(t, 0.5, 0.5, [...long, -long[1] / 5, long[0] / 5])
        expect(seen[0]).toBeCloseTo(0.5, 3)
      }
  })

  it('stripes along a long footprint stay sharp, and those across it become grey', () => {
    const t = createTexture(
      64,
      64,
      picture(64, 64, x => (x % 2 ? [1, 1, 1, 1] : [0, 0, 0, 1])).data as Float32Array,
      'raw',
    )
    const light = 1.5 / 64
    expect(value(t, light, 0.5, [0, 0.05, 0.002, 0])[0]).toBeCloseTo(1, 6)
    expect(value(t, light, 0.5, [0.3, 0, 0, 0.002])[0]).toBeCloseTo(0.5, 6)
  })

  it('a hundred of 1024² with three channels of bytes take less than 480 MB', () => {
    const data = new Uint8Array(1024 * 1024 * 4).fill(255)
    data[1] = 3
    const map = createMap({ width: 1024, height: 1024, data }, 'srgb_texture')
    expect(map.channels).toBe(3)
    expect(bytesOf(map) * 100).toBeLessThan(480e6)
  })

  it('what is no number, and numbers without end, are no footprint', () => {
    const t = createTexture(
      2,
      2,
      Float32Array.from({ length: 16 }, (_, i) => i),
      'raw',
    )
    const plain = value(t, 0.4, 0.4)
    for (const bad of [NaN, Infinity]) expect(value(t, 0.4, 0.4, [bad, 0, 0, bad])).toEqual(plain)
  })
})
