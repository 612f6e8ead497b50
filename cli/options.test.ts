import { describe, expect, it } from 'vitest'
import { commands } from './commands'
import {
  checkOutput,
  FLAG,
  InputError,
  OUTPUT,
  parseLength,
  parseNumbers,
  parseOptions,
  parseSize,
  unitFactor,
  VALUE,
  VALUES,
} from './options'

const takes = {
  words: 1,
  options: { output: OUTPUT, size: VALUE, assign: VALUES, passes: VALUE, n: VALUE, once: FLAG },
}

describe('the command line', () => {
  it('reads words, values and flags', () => {
    const o = parseOptions(
      [
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
      ],
      takes,
    )
    expect(o.words).toEqual(['a.glb'])
    expect([o.text('output'), o.text('size'), o.text('passes'), o.has('json')]).toEqual([
      'x.exr',
      '64x48',
      '17-32',
      true,
    ])
    expect(o.all('assign')).toEqual(['P=M', 'Q=N'])
  })
  it('takes values that begin with a minus', () => {
    expect(parseOptions(['--n', '-3'], takes).number('n', 0)).toBe(-3)
    expect(parseOptions(['--n=-3e-2', 'a'], takes).number('n', 0)).toBe(-0.03)
  })
  it('names an option that is misspelt, and those that there are', () => {
    expect(() => parseOptions(['--pases', '4'], takes)).toThrow(/'--pases'.*--passes/)
  })
  it('says of every command what it takes', () => {
    for (const [name, { usage, takes }] of Object.entries(commands)) {
      if (name === 'benchmark') continue
      const said = new Set([...usage.matchAll(/--([a-z-]+)/g)].map(m => m[1]).filter(o => o !== 'json'))
      const taken = Object.keys(takes([]).options).filter(o => o !== 'output')
      expect([name, ...taken.sort()]).toEqual([name, ...[...said].sort()])
    }
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
    () => parseOptions(['--size'], takes),
    () => parseOptions(['--n', 'x'], takes).number('n', 1),
    () => parseOptions(['--n', ''], takes).number('n', 1),
    () => parseOptions(['--n', '9'], takes).number('n', 1, 0, 4),
    () => parseOptions(['--once=yes'], takes),
    () => parseOptions(['a', 'b'], takes),
    () => parseOptions(['--constructor', 'x'], takes),
    () => parseOptions(['--__proto__', 'x'], takes),
    () => checkOutput('/there/is/none/out.exr', ['.exr']),
    () => checkOutput('/tmp/out.tif', ['.exr', '.png']),
    () => checkOutput('/tmp', ['']),
  ])('says what is wrong (%#)', work => {
    expect(work).toThrow(InputError)
  })
})
