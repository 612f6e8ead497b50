/** Pictures of outside writers (Debian's oiiotool 2.4.7), and headers written by hand after the formats' own pages. */
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { createMap } from '../../maps/create-map'
import { lookUp } from '../../maps/look-up'
import { openMap } from '../../maps/texture'
import { memory } from '../../expression/memory'
import { patienceOf } from '../../../cli/patience'
import { betweenCorners, HEIGHT, WIDTH } from '../../testing/corners'
import { FormatError } from '../error'
import { setPatience } from '../patience'
import { readPicture } from './index'
import { linearRec709 } from './linear'

const file = (name: string) => new Uint8Array(readFileSync(`core/testing/pictures/${name}`))

describe('JPEG', () => {
  // what is stored: red at the top left, green at the top right, blue at the bottom left, white at the bottom right
  const stored = { topLeft: 'red', topRight: 'green', bottomLeft: 'blue', bottomRight: 'white' }
  it.each([
    // Exif 2.32, tag 274: 3 is turned round; the first row of 6 is shown at the right, of 8 at the left
    [3, [32, 16], [stored.bottomRight, stored.bottomLeft, stored.topRight, stored.topLeft]],
    [6, [16, 32], [stored.bottomLeft, stored.topLeft, stored.bottomRight, stored.topRight]],
    [8, [16, 32], [stored.topRight, stored.bottomRight, stored.topLeft, stored.bottomLeft]],
  ] as const)('is shown as its orientation %d says', (orientation, size, corners) => {
    const { width, height, data } = readPicture(file(`turned-${orientation}.jpg`))
    expect([width, height]).toEqual(size)
    const named = (x: number, y: number) => {
      const [r, g, b] = [0, 1, 2].map(k => data[(y * width + x) * 4 + k]! > 128)
      return r && g && b ? 'white' : r ? 'red' : g ? 'green' : b ? 'blue' : 'none'
    }
    expect([named(1, 1), named(width - 2, 1), named(1, height - 2), named(width - 2, height - 2)]).toEqual(corners)
  })
})

describe('PNG of 16 bits', () => {
  const p = readPicture(file('sixteen.png'))
  it('is encoded where its space is: sRGB by IEC 61966-2-1', () => {
    const map = openMap(createMap(p, 'srgb_texture'))
    const rgb = linearRec709(p).rgb
    for (const x of [1, 8, 16, 24, 32]) {
      lookUp(map, (x + 0.5) / 33, 0.5, 2, 2, 0, 0, 0, 0, 0, 0, 0, 0, 0)
      ;[1, 0.5, 0.25].forEach((most, k) => {
        const encoded = (x / 32) * most
        const linear = encoded <= 0.04045 ? encoded / 12.92 : ((encoded + 0.055) / 1.055) ** 2.4
        expect(Math.abs(memory.result[k]! - linear)).toBeLessThan(1e-3 * linear + 1e-5)
        expect(Math.abs(rgb[x * 3 + k]! - linear)).toBeLessThan(1e-4 * linear + 1e-5)
      })
    }
  })
  it('is as it stands where it is data', () => {
    const map = openMap(createMap(p, 'raw'))
    lookUp(map, 16.5 / 33, 0.5, 2, 2, 0, 0, 0, 0, 0, 0, 0, 0, 0)
    expect(memory.result[0]).toBeCloseTo(0.5, 4)
  })
})

describe('Radiance pictures', () => {
  const text = (s: string) => [...new TextEncoder().encode(s)]
  const picture = (head: string, size: string, pixels: number[]) =>
    readPicture(Uint8Array.from([...text(`#?RADIANCE\n${head}\n${size}\n`), ...pixels]))
  /** One pixel, as Ward's format has it: mantissas of eight bits and an exponent. */
  const grey = (level: number) => [level, level, level, 128 + 8]

  it('of runs are what was written, to their eight bits', () => {
    const { width, height, data } = readPicture(file('runs.hdr'))
    expect([width, height]).toEqual([WIDTH, HEIGHT])
    for (const [x, y] of [
      [0, 0],
      [39, 0],
      [20, 18],
      [7, 30],
      [39, 35],
    ] as const) {
      const wanted = [0, 1, 2].map(k => betweenCorners(x, y, k))
      const most = Math.max(...wanted)
      wanted.forEach((w, k) => expect(Math.abs(data[(y * width + x) * 4 + k]! - w)).toBeLessThan(most / 100))
    }
  })
  it('of old files repeat a pixel by (1, 1, 1, n), and n·256 by a second one', () => {
    const { data } = picture('FORMAT=32-bit_rle_rgbe\n', '-Y 1 +X 260', [...grey(7), 1, 1, 1, 3, 1, 1, 1, 1])
    for (const x of [0, 3, 4, 259]) expect(data[x * 4]).toBe(7)
  })
  it.each([
    ['-Y 2 +X 3', [1, 2, 3, 4, 5, 6]],
    ['-Y 2 -X 3', [3, 2, 1, 6, 5, 4]],
    ['+Y 2 -X 3', [6, 5, 4, 3, 2, 1]],
    ['+Y 2 +X 3', [4, 5, 6, 1, 2, 3]],
    // lines from left to right, each from the top down
    ['+X 3 -Y 2', [1, 3, 5, 2, 4, 6]],
    ['-X 3 -Y 2', [5, 3, 1, 6, 4, 2]],
    ['-X 3 +Y 2', [6, 4, 2, 5, 3, 1]],
    ['+X 3 +Y 2', [2, 4, 6, 1, 3, 5]],
  ])('whose size reads %s are shown upright', (size, wanted) => {
    const { width, height, data } = picture('FORMAT=32-bit_rle_rgbe\n', size, [1, 2, 3, 4, 5, 6].flatMap(grey))
    expect([width, height]).toEqual([3, 2])
    expect(Array.from({ length: 6 }, (_, i) => data[i * 4])).toEqual(wanted)
  })
  it('lose the exposures that their headers tell of', () => {
    const { data } = picture(
      'FORMAT=32-bit_rle_rgbe\nEXPOSURE=2\nEXPOSURE= 4\nCOLORCORR= 1 2 1\n',
      '-Y 1 +X 1',
      grey(64),
    )
    expect(Array.from(data)).toEqual([8, 4, 8, 1])
  })
  it('of XYZ and of other primaries are white where they are', () => {
    for (const head of [
      'FORMAT=32-bit_rle_xyze\n',
      'FORMAT=32-bit_rle_rgbe\nPRIMARIES= 0.708 0.292 0.17 0.797 0.131 0.046 0.3127 0.329\n',
    ])
      picture(head, '-Y 1 +X 1', grey(100)).data.forEach((x, k) =>
        expect(x / (k === 3 ? 1 : 100)).toBeCloseTo(1, 3),
      )
    // the green of BT.2020 lies beyond Rec.709's
    const { data } = picture(
      'FORMAT=32-bit_rle_rgbe\nPRIMARIES= 0.708 0.292 0.17 0.797 0.131 0.046 0.3127 0.329\n',
      '-Y 1 +X 1',
      [0, 100, 0, 136],
    )
    expect(data[0]! / 100).toBeCloseTo(-0.5876, 2)
    expect(data[1]! / 100).toBeCloseTo(1.1329, 2)
  })
  it('refuse what is not numbers', () => {
    expect(() => picture('FORMAT=32-bit_rle_rgbe\nPRIMARIES=1 2\n', '-Y 1 +X 1', grey(1))).toThrow(/PRIMARIES/)
    expect(() => picture('FORMAT=32-bit_rle_rgbe\n', '-Y 1 +Y 1', grey(1))).toThrow(/size/)
  })
})

describe('TIFF', () => {
  const TOP = [
    [0.1, 0.2, 0.9],
    [0.8, 0.5, 0.1],
  ] as const
  const BOTTOM = [
    [0.02, 1, 1],
    [0.5, 0.5, 0.5],
  ] as const
  it.each([
    ['none-8', 255],
    ['lzw-8', 255],
    ['zip-16', 65535],
    ['none-float', 1],
  ])('%s is what was written', (name, scale) => {
    const { width, height, data } = readPicture(file(`${name}.tif`))
    expect([width, height]).toEqual([WIDTH, HEIGHT])
    const bytes = data instanceof Uint8Array
    expect(bytes).toBe(scale === 255)
    // half a step of the whole numbers
    const most = scale > 1 ? 0.51 / scale : 1e-6
    for (let y = 0; y < height; y += 5)
      for (let x = 0; x < width; x += 3)
        for (let k = 0; k < 3; k++) {
          const [u, v] = [x / (WIDTH - 1), y / (HEIGHT - 1)]
          const row = ([a, b]: typeof TOP | typeof BOTTOM) => a[k]! * (1 - u) + b[k]! * u
          const wanted = row(TOP) * (1 - v) + row(BOTTOM) * v
          expect(Math.abs(data[(y * width + x) * 4 + k]! / (bytes ? 255 : 1) - wanted)).toBeLessThan(most)
        }
    expect(data[3]).toBe(bytes ? 255 : 1)
  })
  it('says what it does not read', () => {
    expect(() => readPicture(file('packbits-8.tif'))).toThrow(/PackBits is not read/)
    expect(() => readPicture(file('half.tif'))).toThrow(/predictor 3/)
    expect(() => readPicture(file('tiles-16.tif'))).toThrow(/tiles/)
  })
  it('refuses damaged files in words', () => {
    setPatience(patienceOf(500))
    for (const name of ['lzw-8', 'zip-16', 'tiles-16', 'none-float']) {
      const whole = file(`${name}.tif`)
      for (let i = 0; i < 60; i++) {
        const hurt = whole.slice(0, i % 4 === 0 ? Math.floor((whole.length * (i + 1)) / 61) : whole.length)
        for (let j = 0; j < 6; j++)
          hurt[4 + ((i * 7919 + j * 104729) % (hurt.length - 4))] = (i * 31 + j * 17) & 255
        try {
          readPicture(hurt)
        } catch (e) {
          expect(e, String(e)).toBeInstanceOf(FormatError)
        }
      }
    }
  })
})
