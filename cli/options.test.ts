import { describe, expect, it } from 'vitest'
import { InputError, parseLength, parseNumbers, parseOptions, parseSize, unitFactor } from './options'

describe('the command line', () => {
  it('reads words, values and flags', () => {
    const o = parseOptions([
      'a.glb',
      '-o',
      'x.exr',
      '--size=64x48',
      '--assign',
      'P=M',
      '--assign',
      'Q=N',
      '--json',
      '--passes',
      '17-32',
    ])
    expect(o.words).toEqual(['a.glb'])
    expect([o.text('o'), o.text('size'), o.text('passes'), o.has('json')]).toEqual([
      'x.exr',
      '64x48',
      '17-32',
      true,
    ])
    expect(o.all('assign')).toEqual(['P=M', 'Q=N'])
  })
  it('reads lengths, sizes, lists and ranges with both ends', () => {
    expect(parseLength('2mm')).toBeCloseTo(0.002, 12)
    expect(parseLength('0.5')).toBe(0.5)
    expect(parseSize('640x400')).toEqual([640, 400])
    expect(parseNumbers('0,30,60')).toEqual([0, 30, 60])
    expect(parseNumbers('400:700:100')).toEqual([400, 500, 600, 700])
    expect(unitFactor('mm')).toBe(0.001)
  })
  it.each([
    () => parseLength('two'),
    () => parseSize('640'),
    () => parseSize('0x4'),
    () => parseNumbers('a,b'),
    () => parseNumbers('7:4:1'),
    () => unitFactor('parsec'),
    () => parseOptions(['--size']),
    () => parseOptions(['--n', 'x']).number('n', 1),
    () => parseOptions(['--n', '9']).number('n', 1, 0, 4),
  ])('says what is wrong (%#)', work => {
    expect(work).toThrow(InputError)
  })
})
