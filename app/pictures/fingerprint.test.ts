import { describe, expect, it } from 'vitest'
import type { Element } from '../../core/network/document'
import { fingerprint } from './fingerprint'

const node = (name: string, feeder?: string, value = '1'): Element => ({
  tag: 'add',
  attributes: { name, type: 'float' },
  children: [
    {
      tag: 'input',
      attributes: { name: 'in1', type: 'float', ...(feeder === undefined ? { value } : { nodename: feeder }) },
      children: [],
    },
  ],
})
const doc = (...children: Element[]): Element => ({ tag: 'materialx', attributes: {}, children })

describe('what a node depends on', () => {
  it('is itself and all that feeds it, nothing beside it or after it', () => {
    const a = node('a')
    const was = doc(a, node('b', 'a'), node('c', 'b'), node('beside'))
    const now = doc(a, node('b', 'a'), node('c', 'b'), node('beside', undefined, '2'))
    for (const n of ['a', 'b', 'c']) expect(fingerprint(now, n)).toBe(fingerprint(was, n))
    expect(fingerprint(now, 'beside')).not.toBe(fingerprint(was, 'beside'))
    const above = doc(node('a', undefined, '2'), node('b', 'a'), node('c', 'b'))
    for (const n of ['a', 'b', 'c']) expect(fingerprint(above, n)).not.toBe(fingerprint(was, n))
  })
  it('is found for chains of any length', () => {
    const chain = (value: string) =>
      doc(node('n0', undefined, value), ...Array.from({ length: 3000 }, (_, i) => node(`n${i + 1}`, `n${i}`)))
    expect(fingerprint(chain('1'), 'n3000')).toBe(fingerprint(chain('1'), 'n3000'))
    expect(fingerprint(chain('1'), 'n3000')).not.toBe(fingerprint(chain('2'), 'n3000'))
  })
  it('is found in a loop', () => {
    expect(fingerprint(doc(node('a', 'b'), node('b', 'a')), 'a')).toBeGreaterThan(0)
  })
})
