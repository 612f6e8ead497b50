/** OpenEXR files by an outside writer (Debian's oiiotool and maketx 2.4.7), whose picture is known in closed form. */
import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { betweenCorners, HEIGHT, WIDTH } from '../../testing/corners'
import { FormatError } from '../error'
import { readExr } from './exr'
import { patienceOf } from '../../../cli/patience'
import { setPatience } from '../patience'
import { readPicture } from './index'

const folder = 'core/testing/exr'
const file = (name: string) => new Uint8Array(readFileSync(`${folder}/${name}.exr`))

/** Largest distance from the picture that was written, of the value or of 1 where that is less. */
function distance(name: string): number {
  const { width, height, data } = readPicture(file(name))
  expect([width, height]).toEqual([WIDTH, HEIGHT])
  expect(data).toBeInstanceOf(Float32Array)
  let worst = 0
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      for (let k = 0; k < 3; k++) {
        const w = betweenCorners(x, y, k)
        worst = Math.max(worst, Math.abs(data[(y * width + x) * 4 + k]! - w) / Math.max(1, w))
      }
      expect(data[(y * width + x) * 4 + 3]).toBe(1)
    }
  return worst
}

describe('OpenEXR of other writers', () => {
  it.each([
    'half-rle',
    'half-zips',
    'half-zip',
    'half-piz',
    'tiled-piz',
    'mip-zip',
    'parts-zip',
    'window-zip',
    'layer-zip',
  ])('%s is what was written, to a half', name => {
    expect(distance(name)).toBeLessThan(2 ** -11)
  })

  it.each([
    ['float-pxr24', 1e-4],
    ['half-b44', 0.02],
    ['half-b44a', 0.02],
    ['half-dwaa', 0.01],
    ['half-dwab', 0.01],
    ['float-dwaa', 0.01],
  ])('%s, which packs with a loss, is near what was written', (name, most) => {
    expect(distance(name)).toBeLessThan(most)
  })

  it('luminance alone is grey', () => {
    const { data } = readPicture(file('luminance-piz'))
    for (const k of [0, 1, 2]) expect(data[k]).toBeCloseTo(0.3, 3)
  })

  it('other primaries become Rec.709’s (ITU-R BT.2087-0, annex 2, the inverse of its matrix)', () => {
    const { data } = readPicture(file('rec2020-zip'))
    // from BT.2020 to BT.709
    const M = [
      [1.6605, -0.5876, -0.0728],
      [-0.1246, 1.1329, -0.0083],
      [-0.0182, -0.1006, 1.1187],
    ]
    for (const [x, y] of [
      [0, 0],
      [20, 30],
      [39, 35],
    ] as const)
      for (let k = 0; k < 3; k++) {
        const w = M[k]!.reduce((sum, m, j) => sum + m * betweenCorners(x, y, j), 0)
        expect(Math.abs(data[(y * WIDTH + x) * 4 + k]! - w)).toBeLessThan(0.01)
      }
  })

  it('says what it does not read', () => {
    expect(() => readPicture(file('layer-piz'))).toThrow(/no channels R, G and B, nor Y, but beauty/)
    expect(() => readExr(file('half-dwaa'))).toThrow(/DWAA/)
    expect(() => readExr(file('tiled-piz'))).toThrow(/tiled/)
  })

  it('refuses damaged files in words, whatever packs them', () => {
    setPatience(patienceOf(500))
    for (const name of readdirSync(folder)) {
      const whole = new Uint8Array(readFileSync(`${folder}/${name}`))
      for (let i = 0; i < 40; i++) {
        const hurt = whole.slice(0, i % 4 === 0 ? Math.floor((whole.length * (i + 1)) / 41) : whole.length)
        for (let j = 0; j < 6; j++) hurt[(i * 7919 + j * 104729) % hurt.length] = (i * 31 + j * 17) & 255
        try {
          readPicture(hurt)
        } catch (e) {
          expect(e, String(e)).toBeInstanceOf(FormatError)
        }
      }
    }
  })
})
